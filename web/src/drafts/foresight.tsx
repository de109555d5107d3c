import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useSession } from '../shell/session';
import { ProblemNote } from '../shell/states';
import { dayIn, lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';
import { useOpenDraft } from './gathering';

type Foreseen = Schemas['ForeseenView'];
type Row = Schemas['RowView'];

const ROWS = 8;
const MOMENTS = 4;
const TITLES = 40;
/** What a draft gathers is judged when it is published, and can be answered in it. */
const ANSWERED_IN_A_DRAFT = ['conflict', 'own-gain', 'second-yes', 'effect'];

/** What an act would do, asked for before it is done. */
export type Foresight = {
  seen: Foreseen | undefined;
  /** Whether there is anything to look ahead at. */
  asked: boolean;
  error: unknown;
  /** Whether it can be done, or gathered by the open draft, as it was seen. */
  may: boolean;
  /** Whether a draft can take it up. */
  draftable: boolean;
  /** Headers that keep the act from doing something else than was seen. */
  agreed: { Foreseen?: string };
};

/** Headers of one request: to look ahead, or to agree to what was seen. */
export type Manner = { Foresee?: string; Foreseen?: string };

const LOOK: Manner = { Foresee: 'true' };

/**
 * Looks ahead at an act.
 *
 * @param key everything that the form says
 * @param act the act itself, in the manner it is told
 */
export function useForesight(
  key: unknown[],
  act: (manner: Manner) => Promise<Schemas['Receipt']>,
  enabled = true,
): Foresight {
  const look = useQuery({
    queryKey: ['foreseen', ...key],
    queryFn: async () => (await act(LOOK)).foreseen,
    enabled,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const draft = useOpenDraft();
  const seen = enabled ? (look.data ?? undefined) : undefined;
  const fresh = seen !== undefined && !look.isPlaceholderData;
  const draftable =
    fresh && seen.problems.every((problem) => ANSWERED_IN_A_DRAFT.includes(problem.code));
  return {
    seen,
    asked: enabled,
    error: enabled ? look.error : undefined,
    may: draft === undefined ? fresh && seen.problems.length === 0 : draftable,
    draftable,
    agreed: seen === undefined || seen.digest === '' ? {} : { Foreseen: seen.digest },
  };
}

/** The short form of a draft's sheet: what one act would do, and when. */
export function Foreseen({ of }: { of: Foresight }) {
  const { zone } = useSession();
  const { seen } = of;
  if (of.error) {
    return <ProblemNote error={of.error} />;
  }
  return (
    <section className="effects sheet" aria-label={words.drafts.foreseen} aria-live="polite">
      {seen === undefined ? (
        <span className="dim">{words.drafts.lookingAhead}</span>
      ) : (
        <>
          {seen.problems.map((problem) => (
            <div key={problem.sentence} className="note loss">
              {problem.sentence}
            </div>
          ))}
          {seen.inDraft && <p>{words.drafts.onlyInDraft}</p>}
          {seen.moments.length === 0 && seen.problems.length === 0 && !seen.inDraft && (
            <p>
              <b>{words.drafts.nothingMoves}</b>
            </p>
          )}
          {seen.moments.slice(0, MOMENTS).map((moment) => (
            <div key={moment.at}>
              {!moment.publishing && (
                <h3 title={moment.at}>
                  {words.drafts.fromThen(tellDay(dayIn(zone, new Date(moment.at))))}
                </h3>
              )}
              <ul className="plain moves">
                {folded(moment.rows)
                  .slice(0, ROWS)
                  .map((rows) => (
                    <ForeseenRow key={rows[0].sign + rows[0].id} rows={rows} />
                  ))}
                {moment.conflicts.map((one) => (
                  <li
                    key={one.rule + one.person.id + one.one + one.other}
                    className={one.begins ? 'conflict' : 'keep'}
                  >
                    <b>{one.person.displayed}</b>{' '}
                    {one.begins ? words.drafts.wouldHold : words.drafts.noLongerHolds}{' '}
                    {one.oneTitle} {words.drafts.conflictWith} {one.otherTitle}{' '}
                    <span className="dim">{words.drafts.meets(one.ruleName)}</span>
                  </li>
                ))}
              </ul>
              <More moment={moment} />
            </div>
          ))}
          {seen.moments.length > MOMENTS && (
            <p className="dim small">{words.drafts.moreMoments(seen.moments.length - MOMENTS)}</p>
          )}
          {seen.already > 0 && <p className="dim small">{words.drafts.already(seen.already)}</p>}
          {seen.cut && <p className="dim small">{words.drafts.cut}</p>}
        </>
      )}
    </section>
  );
}

/** So many names are told before the others are asked for. */
const FIRST = 8;

const LOOKS: Record<string, string> = {
  gain: 'gain',
  back: 'gain',
  lose: 'loss',
  ends: 'loss',
  last: 'loss',
};

type Alike = [Row, ...Row[]];

/** Rows of one sign about the very same people are told as one. */
export function folded(rows: Row[]): Alike[] {
  const found = new Map<string, Alike>();
  for (const row of rows) {
    const whole = row.named.length === row.people && row.rest === null && row.idle === 0;
    const key = [row.sign, ...(whole ? row.named.map((person) => person.id) : [row.id])].join(' ');
    const alike = found.get(key);
    if (alike === undefined) {
      found.set(key, [row]);
    } else {
      alike.push(row);
    }
  }
  return [...found.values()];
}

function More({ moment }: { moment: Schemas['MomentView'] }) {
  const hidden = folded(moment.rows).slice(ROWS).flat().length + moment.more;
  return hidden === 0 ? null : <p className="dim small">{words.drafts.moreThings(hidden)}</p>;
}

/** Names, of many the first, with all others one press away. */
function Named({ people, more }: { people: Schemas['PersonLine'][]; more: number }) {
  const [open, setOpen] = useState(false);
  const shown = open ? people : people.slice(0, FIRST);
  const rest = people.length - shown.length + more;
  return (
    <>
      {shown.map((person) => person.displayed).join(', ')}
      {rest > 0 && people.length > 0 && (
        <>
          {' '}
          {people.length > shown.length ? (
            <button type="button" className="choose" onClick={() => setOpen(true)}>
              {words.ledger.others(rest)}
            </button>
          ) : (
            words.ledger.others(rest)
          )}
        </>
      )}
    </>
  );
}

function ForeseenRow({ rows }: { rows: Alike }) {
  const { zone } = useSession();
  const [row] = rows;
  const more = row.people - row.named.length;
  const until = row.rest?.until;
  const what = rows.length === 1 ? row.title : words.drafts.things(rows.length);
  return (
    <li className={LOOKS[row.sign] ?? 'keep'}>
      <b>{words.drafts.does[row.sign as keyof typeof words.drafts.does](row.people, what)}</b>
      {row.rest != null && row.rest.sources.length > 0 && (
        <span className="dim">
          {words.drafts.rest(row.rest.sources.map((one) => words.drafts.sources[one] ?? one))}
          {until != null && words.drafts.restUntil(tellDay(lastDay(zone, until)))}
        </span>
      )}
      {row.idle > 0 && <span className="dim">{words.drafts.afterLoss(row.idle, row.people)}</span>}
      <div className="small">
        <Named people={row.named} more={more} />
        {more > 0 &&
          row.named.length === 0 &&
          row.units.length > 0 &&
          words.drafts.inUnits(row.units)}
      </div>
      {rows.length > 1 && (
        <div className="small dim">
          {words.drafts.fold(
            rows.slice(0, TITLES).map((one) => one.title),
            rows.length - TITLES,
          )}
        </div>
      )}
    </li>
  );
}
