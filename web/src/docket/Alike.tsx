import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../api/client';
import { Answered } from '../requests/forms/Answered';
import { Failure, Loading } from '../shell/states';
import { words } from '../words/en';
import { Asker } from './Evidence';

/** Those who ask for the same in the same way: each can be left out, and opens where it stands. */
export function Alike({
  cases,
  left,
  onLeave,
}: {
  cases: Schemas['AskedLine'][];
  left: string[];
  onLeave: (left: string[]) => void;
}) {
  const [open, setOpen] = useState<string>();
  return (
    <section className="part alike">
      <h3>
        {cases.some((one) => one.asker !== null)
          ? words.docket.alikeFor(cases.length)
          : words.docket.alikePeople(cases.length)}
      </h3>
      <ul className="plain">
        {cases.map((one) => (
          <li key={one.id}>
            <div className="bar">
              <Form.Check
                type="checkbox"
                id={`with-${one.id}`}
                checked={!left.includes(one.id)}
                label={
                  <>
                    {one.who.familyFirst}{' '}
                    <span className="dim small">
                      {[
                        one.who.unit,
                        one.who.site,
                        one.asker === null ? null : words.docket.askedBy(one.asker),
                      ]
                        .filter(Boolean)
                        .join(', ')}
                    </span>{' '}
                    <span className="mono dim">{one.number}</span>
                  </>
                }
                onChange={(event) =>
                  onLeave(
                    event.target.checked ? left.filter((id) => id !== one.id) : [...left, one.id],
                  )
                }
              />
              <button
                type="button"
                className="choose small"
                aria-expanded={open === one.id}
                aria-label={words.docket.openOne(one.who.displayed)}
                onClick={() => setOpen(open === one.id ? undefined : one.id)}
              >
                {open === one.id ? words.docket.closeOne : words.docket.openShort}
              </button>
            </div>
            {open === one.id && <Brief id={one.id} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** One of those that are alike, by itself. */
function Brief({ id }: { id: string }) {
  const found = useQuery({
    queryKey: ['case', id],
    queryFn: () => answer(api.GET('/api/requests/{id}', { params: { path: { id } } })),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} lines={4} />;
  }
  return (
    <div className="brief">
      <p className="said">“{found.data.request.reason}”</p>
      <Answered answers={found.data.request.answers} />
      {found.data.evidence && <Asker data={found.data} />}
    </div>
  );
}
