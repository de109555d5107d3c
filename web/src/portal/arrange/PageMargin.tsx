import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../../api/client';
import { tellDate, tellDay } from '../../shell/times';
import { words } from '../../words/en';
import { tellAudience } from '../AudienceFields';
import { type Collection, days } from './Flags';
import { FrontPageDialog } from './FrontPageDialog';
import type { Arranging } from './useArranging';

/** What can be known and done about a front page. */
export function PageMargin({
  page,
  collections,
  may,
  arranging,
  editsHere,
}: {
  page: Schemas['FrontPageView'];
  collections: Collection[];
  may: boolean;
  arranging: Arranging;
  editsHere: ReactNode;
}) {
  const [editing, setEditing] = useState(false);
  const name = (id: string) => collections.find((one) => one.id === id)?.name ?? '';
  return (
    <>
      <div className="dim small">{words.arrange.page}</div>
      <h2>{page.everyones ? words.arrange.everyonesPage : page.name}</h2>
      <dl className="pair">
        <dt>{words.arrange.pageAudience}</dt>
        <dd>{page.everyones ? words.arrange.everyoneElse : tellAudience(page.audience)}</dd>
        <dt>{words.arrange.meetsIt}</dt>
        <dd>{words.groups.people(page.people)}</dd>
        {page.notice !== null && (
          <>
            <dt>{words.arrange.noticeTitle}</dt>
            <dd>
              {page.notice.text}
              <div className="small dim">{days(page.notice)}</div>
            </dd>
          </>
        )}
      </dl>
      <Seen page={page.id} />
      {page.waves.length > 0 && (
        <>
          <h3>{words.arrange.waves}</h3>
          <ol className="small">
            {page.waves.map((wave) => (
              <li key={`${wave.from}${tellAudience(wave.audience)}`}>
                {words.arrange.wave(
                  tellAudience(wave.audience),
                  wave.from === null ? '' : tellDay(wave.from),
                )}{' '}
                <span className="tag">
                  {wave.begun ? words.arrange.begun : words.arrange.toCome}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
      {may && (
        <Button size="sm" variant="outline-primary" onClick={() => setEditing(true)}>
          {words.groups.edit}
        </Button>
      )}
      <h3>{words.arrange.itsCollections}</h3>
      <p className="small dim">
        {page.only ? words.arrange.onlyThese : words.arrange.othersByName}
      </p>
      <ol className="small named">
        {page.named.map((one) => (
          <li key={one.id}>
            {name(one.id)}
            {may && (
              <>
                {' · '}
                <button
                  type="button"
                  className="btn btn-link small"
                  aria-label={`${words.arrange.takeOff}: ${name(one.id)}`}
                  disabled={arranging.pending}
                  onClick={() =>
                    arranging.edit(() =>
                      answer(
                        api.PUT('/api/front-pages/{id}/collections', {
                          params: { path: { id: page.id } },
                          body: {
                            moves: [{ collection: one.id, base: one.rank, off: true, after: null }],
                          },
                        }),
                      ),
                    )
                  }
                >
                  {words.arrange.takeOff}
                </button>
              </>
            )}
          </li>
        ))}
      </ol>
      {page.named.length === 0 && <p className="small">{words.arrange.noneNamed}</p>}
      {editsHere}
      {editing && <FrontPageDialog page={page} onClose={() => setEditing(false)} />}
    </>
  );
}

/** How many have met a page since it was changed last. */
function Seen({ page }: { page: string }) {
  const seen = useQuery({
    queryKey: ['seen', page],
    queryFn: () =>
      answer(api.GET('/api/front-pages/{id}/seen', { params: { path: { id: page } } })),
    // A page that only the draft has is met by nobody yet.
    retry: false,
  });
  return seen.data === undefined ? null : (
    <p className="small">
      {words.arrange.seen(seen.data.seen, seen.data.of, tellDate(seen.data.since))}
    </p>
  );
}
