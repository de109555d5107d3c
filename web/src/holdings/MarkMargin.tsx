import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { GroundSign, tellSign } from '../access/Grounds';
import { HoldingMargin } from '../access/PersonHoldings';
import { answer, api, type Schemas } from '../api/client';
import { useAddress } from '../shell/addresses';
import { Bars } from '../shell/Bars';
import { DeskLink, useLens } from '../shell/lens';
import { useSession } from '../shell/session';
import { Failure, Loading } from '../shell/states';
import { daysBack, tellTime } from '../shell/times';
import { words } from '../words/en';
import { Pick, useChoices } from './Asking';
import { type Asked, addressOf, both, having, type Shape, UNUSED_DAYS } from './asked';
import { marked, type Names } from './cells';
import { EndMarked } from './EndMarked';

/** Explains what is marked, and acts on it. */
export function MarkMargin({
  asked,
  shape,
  mark,
  query,
}: {
  asked: Asked;
  shape: Shape;
  mark: Names;
  /** The address of a new query that asks the same. */
  query: string;
}) {
  const { zone, begins } = useSession();
  const { asOf } = useLens();
  const [, set] = useAddress();
  const choices = useChoices();
  const [ending, setEnding] = useState<'unused' | 'all'>();
  const told = useQuery({
    queryKey: ['holdings-mark', asked, shape, mark],
    queryFn: ({ signal }) =>
      answer(
        api.GET('/api/holdings/mark', {
          params: { query: { ...asked, ...shape, open: undefined, ...marked(mark) } },
          signal,
        }),
      ),
  });
  if (told.error) {
    return <Failure error={told.error} again={() => told.refetch()} />;
  }
  if (told.data === undefined) {
    return <Loading what={words.holdings.margin} lines={8} />;
  }
  const { entitlement, person } = told.data;
  const moment = asked.against === undefined && asked.from === undefined;
  if (person !== null && entitlement !== null && moment && told.data.held > 0) {
    return <HoldingMargin person={person.id} entitlement={entitlement.id} of="entitlement" />;
  }
  const narrowed: Asked = {
    ...asked,
    entitlements: mark.columns ?? asked.entitlements,
    where: mark.keys === undefined ? asked.where : both(asked.where, whereOf(shape, mark.keys)),
  };
  const list = addressOf('/desk/queries/new', narrowed, zone);
  const all = mark.keys === undefined && mark.person === undefined && mark.columns === undefined;
  return (
    <>
      <p className="dim small flush">
        {all ? words.holdings.wholeMap : whereTold(mark, person, entitlement)}
      </p>
      <h2>
        {entitlement === null ? (
          person !== null ? (
            <DeskLink to={`/desk/people/${person.id}/holdings`}>{person.familyFirst}</DeskLink>
          ) : (
            words.holdings.held(told.data.held)
          )
        ) : (
          <DeskLink to={`/desk/entitlements/${entitlement.id}`}>{entitlement.title}</DeskLink>
        )}
      </h2>
      <p>
        {asked.against !== undefined
          ? words.holdings.movedBy(told.data.people)
          : asked.from !== undefined
            ? words.holdings.onceHeld(told.data.people)
            : words.holdings.heldBy(told.data.people, told.data.of)}
        {told.data.elsewhere > 0 && `; ${words.holdings.elsewhere(told.data.elsewhere)}`}
        {entitlement === null && !all && told.data.people > 0 && person === null && (
          <span className="dim"> {words.holdings.heldSum(told.data.held)}</span>
        )}
      </p>
      {told.data.signs.some((one) => one.signs.length > 0) && (
        <>
          <h3>{words.holdings.grounds}</h3>
          <ul className="plain">
            {told.data.signs.slice(0, 8).map((one) => (
              <li
                key={one.signs.map((sign) => sign.by + sign.source).join()}
                className="sign-count"
              >
                <span className="signs">
                  {one.signs.map((sign) => (
                    <GroundSign key={sign.by + sign.source} by={sign.by} source={sign.source} />
                  ))}
                </span>
                <DeskLink
                  className="small"
                  to={entitlement === null ? list : `/desk/entitlements/${entitlement.id}`}
                >
                  {one.signs.map((sign) => tellSign(sign.by, sign.source)).join(' + ') ||
                    words.holdings.noMore}
                </DeskLink>
                <b className="mono">{words.count(one.held)}</b>
              </li>
            ))}
          </ul>
        </>
      )}
      {moment && asOf === undefined && (
        <>
          <h3>{words.holdings.use}</h3>
          {told.data.use !== null && (
            <>
              <Bars values={told.data.use} label={words.holdings.weeksTold(told.data.use)} />
              <p className="small">
                {words.holdings.weeks(told.data.use.length)}{' '}
                {told.data.lastUsed === null
                  ? words.holdings.neverUsed
                  : words.holdings.lastUsed(tellTime(told.data.lastUsed))}
              </p>
            </>
          )}
          <p className="small">
            {told.data.unused > 0 && (
              <>
                <b>{words.holdings.unusedOf(told.data.unused, told.data.held)}</b>{' '}
                {words.holdings.unusedFor(asked.days ?? UNUSED_DAYS)}
                {told.data.unusedBy.length > 0 &&
                  `: ${told.data.unusedBy.map((one) => one.displayed).join(', ')}`}
                {told.data.unused > told.data.unusedBy.length && (
                  <>
                    {' '}
                    <DeskLink to={onlyUnused(all ? query : list)}>
                      {told.data.unusedBy.length === 0
                        ? words.holdings.listUnused
                        : words.filter.andMore(told.data.unused - told.data.unusedBy.length)}
                    </DeskLink>
                  </>
                )}
                {'. '}
              </>
            )}
            {told.data.unused === 0 &&
              told.data.unknown < told.data.held &&
              words.holdings.noneUnused(asked.days ?? UNUSED_DAYS)}
            {told.data.unknown > 0 && (
              <span className="dim"> {words.holdings.unknownOf(told.data.unknown)}</span>
            )}
          </p>
        </>
      )}
      {told.data.conflicts > 0 && (
        <>
          <h3>{words.holdings.conflicts}</h3>
          {told.data.breaches.length === 0 && (
            <p className="small">{words.holdings.inConflict(told.data.conflicts)}</p>
          )}
          <ul className="plain small">
            {told.data.breaches.map((one) => (
              <li key={one.person.id + one.with.id}>
                <DeskLink to={`/desk/people/${one.person.id}/holdings?holding=${one.with.id}`}>
                  {one.person.familyFirst}
                </DeskLink>{' '}
                {words.holdings.alsoHolds(one.with.title)}{' '}
                <span className="dim">{words.drafts.meets(one.rule)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <h3>{words.holdings.do}</h3>
      <div className="stack">
        {choices.data?.mayEnd && moment && asOf === undefined && !all && told.data.held > 0 && (
          <>
            {told.data.unused > 0 && (
              <Button variant="outline-primary" onClick={() => setEnding('unused')}>
                {words.holdings.endUnused(told.data.unused)}
              </Button>
            )}
            <Button variant="outline-primary" onClick={() => setEnding('all')}>
              {words.holdings.endAll(told.data.held)}
            </Button>
          </>
        )}
        {moment && asOf === undefined && (
          <Pick
            label={words.holdings.compare}
            value=""
            choices={[
              ['', words.holdings.choose],
              ...daysBack(zone, begins).map(([then, name]): [string, string] => [
                then,
                words.holdings.ago[name],
              ]),
            ]}
            onPick={(against) => set({ against, only: '' })}
          />
        )}
        <DeskLink className="btn btn-outline-primary" to={all ? query : list}>
          {words.holdings.asList(told.data.held)}
        </DeskLink>
      </div>
      {ending !== undefined && (
        <EndMarked
          asked={asked}
          shape={shape}
          mark={mark}
          unused={ending === 'unused'}
          onClose={() => setEnding(undefined)}
        />
      )}
    </>
  );
}

/** The same query, of what is unused alone. */
function onlyUnused(address: string): string {
  const [path = '', query = ''] = address.split('?');
  const asked = new URLSearchParams(query);
  asked.set('only', 'unused');
  return `${path}?${asked}`;
}

/** Rows as one filter over the attributes that they are made of. */
function whereOf(shape: Shape, keys: string[]): string {
  const one = keys.map((key) => {
    const [first = '', second] = key.split('\t');
    const own = having(shape.rows ?? 'unit', first);
    return second === undefined || shape.under === undefined
      ? own
      : `(${own} and ${having(shape.under, second)})`;
  });
  return one.length === 1 ? (one[0] ?? '') : `(${one.join(' or ')})`;
}

function whereTold(
  mark: Names,
  person: Schemas['PersonLine'] | null,
  entitlement: Schemas['EntitlementRef'] | null,
): string {
  if (person !== null) {
    return [person.unit, entitlement === null ? person.title : person.familyFirst]
      .filter(Boolean)
      .join(' · ');
  }
  const keys = mark.keys?.map((key) => key.replace('\t', ', '));
  const rows =
    keys === undefined
      ? words.holdings.allRows
      : keys.length > 3
        ? words.holdings.someRows(keys.length)
        : keys.map((key) => key || words.holdings.none).join(', ');
  const columns = mark.columns?.length ?? 0;
  return columns > 1 ? `${rows} · ${words.holdings.someColumns(columns)}` : rows;
}
