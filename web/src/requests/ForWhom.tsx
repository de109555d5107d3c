import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useId, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../api/client';
import { useSession } from '../shell/session';
import { Failure, Loading } from '../shell/states';
import { words } from '../words/en';

const PAGE = 60;

/** How many people one asks for at once; more are asked for by a file. */
const MOST = 50;

/** How many are found at a glance, without typing a name. */
const FEW = 8;

/** For whom it is asked: oneself, or people whom one may ask for. */
export function ForWhom({
  ask,
  people,
  onChange,
}: {
  ask: Schemas['AskView'];
  /** Who is chosen; what is told of them in `ask` comes a moment later. */
  people: string[];
  onChange: (people: string[]) => void;
}) {
  const { signed } = useSession();
  const [open, setOpen] = useState(false);
  const part = useId();
  const chosen = ask.whom.map((one) => one.person);
  const ids = people.length === 0 ? [signed.person] : people;
  const justSelf = ids.every((id) => id === signed.person);
  const toggle = (id: string) => {
    // Whoever ticks somebody else first mostly means them alone; one can tick oneself again.
    const before = justSelf && id !== signed.person ? [] : ids;
    const next = before.includes(id) ? before.filter((one) => one !== id) : [...before, id];
    onChange(next.length === 0 || (next.length === 1 && next[0] === signed.person) ? [] : next);
  };
  return (
    <section className="sheet whom" aria-labelledby={`${part}-title`}>
      <div className="bar">
        <h2 id={`${part}-title`}>{words.requests.forTitle}</h2>
        {!open && (
          <span>
            {justSelf
              ? words.requests.forSelf
              : words.requests.forPeople(
                  ask.whom.map((one) => (one.self ? words.requests.forYou : one.person.name)),
                )}
          </span>
        )}
        <Button
          variant="outline-primary"
          size="sm"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open
            ? words.requests.forDone
            : justSelf
              ? words.requests.forOther
              : words.requests.forChange}
        </Button>
      </div>
      {open && (
        <People
          entitlement={ask.entitlement.id}
          ids={ids}
          chosen={chosen}
          self={signed.person}
          onToggle={toggle}
        />
      )}
    </section>
  );
}

function People({
  entitlement,
  ids,
  chosen,
  self,
  onToggle,
}: {
  entitlement: string;
  ids: string[];
  chosen: Schemas['Colleague'][];
  self: string;
  onToggle: (id: string) => void;
}) {
  const [text, setText] = useState('');
  const find = useDeferredValue(text.trim());
  const found = useQuery({
    queryKey: ['askable', 'people', entitlement, find],
    queryFn: () =>
      answer(
        api.GET('/api/askable/{id}/people', {
          params: { path: { id: entitlement }, query: { find, limit: PAGE } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.requests.forTitle} lines={3} />;
  }
  // Whoever is ticked stays in sight, whatever is typed.
  const kept = chosen.filter(
    (one) =>
      one.id !== self &&
      ids.includes(one.id) &&
      !found.data.lines.some((line) => line.person.id === one.id),
  );
  const full = ids.length >= MOST;
  const tick = (one: Schemas['Colleague'], why: string | null) => (
    <Form.Check
      key={one.id}
      id={`for-${one.id}`}
      checked={ids.includes(one.id)}
      disabled={(why !== null || full) && !ids.includes(one.id)}
      onChange={() => onToggle(one.id)}
      label={
        <>
          {one.id === self ? words.requests.forMyself : one.name}{' '}
          {one.id !== self && (
            <span className="dim small">{[one.unit, why].filter(Boolean).join(' · ')}</span>
          )}
        </>
      }
    />
  );
  return (
    <>
      {(found.data.total > FEW || find !== '') && (
        <Form.Control
          type="text"
          autoComplete="off"
          aria-label={words.requests.forFind}
          placeholder={words.requests.forFind}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      )}
      <fieldset className="ticks">
        <legend className="visually-hidden">{words.requests.forTitle}</legend>
        {tick({ id: self, name: words.requests.forMyself, unit: null }, null)}
        {kept.map((one) => tick(one, null))}
        {found.data.lines.map((line) => tick(line.person, line.why))}
      </fieldset>
      <p className="dim small" aria-live="polite">
        {full
          ? words.requests.forMost(MOST)
          : found.data.total === 0
            ? words.requests.forNobody(find)
            : found.data.total > found.data.lines.length
              ? words.requests.forMore(found.data.total - found.data.lines.length)
              : ''}
      </p>
    </>
  );
}
