import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { usePersonHoldings } from '../access/PersonHoldings';
import { answer, api, type Schemas } from '../api/client';
import { DepartureDialog } from '../departures/DepartureDialog';
import { OwnedList } from '../departures/OwnedList';
import { Picture } from '../pictures/Picture';
import { Figures } from '../shell/Head';
import { DeskLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { Failure, Loading } from '../shell/states';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';

/** What is held, application by application: how much of it is of high sensitivity. */
function byApp(held: Schemas['HoldingLine'][]) {
  const found = new Map<string, { app: Schemas['AppRef']; high: number; other: number }>();
  for (const { entitlement } of held) {
    const one = found.get(entitlement.app.id) ?? { app: entitlement.app, high: 0, other: 0 };
    one[entitlement.sensitivity === 'high' ? 'high' : 'other'] += 1;
    found.set(entitlement.app.id, one);
  }
  return [...found.values()].sort((one, other) => other.high - one.high);
}

/** What remains after the last day, of no effect while nobody is there. */
function staying({ grants, memberships, mirrored, byFilter, filterGrants }: Schemas['SlipView']) {
  const names = (groups: { name: string }[]) => groups.map((one) => one.name).join(', ');
  const { staying } = words.docket;
  return [
    ...(grants.length > 0 ? [staying.grants(grants.length)] : []),
    ...(memberships.length > 0 ? [staying.memberships(names(memberships))] : []),
    ...(mirrored.length > 0 ? [staying.mirrored(names(mirrored))] : []),
    ...(byFilter.length > 0 ? [staying.byFilter(names(byFilter))] : []),
    ...(filterGrants.length > 0 ? [staying.filterGrants(filterGrants.length)] : []),
    staying.ledger,
  ];
}

/** Someone whose last day is near: what ends by itself, and what stays without anyone for it. */
export function LeavingCase({ id }: { id: string }) {
  const { zone } = useSession();
  const [running, setRunning] = useState(false);
  const seen = usePersonHoldings(id);
  const found = useQuery({
    queryKey: ['case', 'leaving', id],
    queryFn: () => answer(api.GET('/api/docket/leaving/{id}', { params: { path: { id } } })),
  });
  const ahead = useQuery({
    queryKey: ['departure', id],
    queryFn: () => answer(api.GET('/api/people/{id}/departure', { params: { path: { id } } })),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} />;
  }
  const { who, at, holdings, lone } = found.data;
  const stays = ahead.data === undefined ? [] : staying(ahead.data);
  const held = seen.data?.held ?? [];
  return (
    <>
      <header className="case-head">
        <div>
          <div className="dim small">{words.docket.leavingKind}</div>
          <h2 className="title">
            {words.docket.leavesOn(who.displayed, tellDay(lastDay(zone, at)))}
          </h2>
          <p className="lead" title={at}>
            {words.people.does(who.title ?? '', who.unit ?? '', who.site ?? '')}
          </p>
        </div>
        <Figures
          figures={[
            {
              n: words.count(holdings),
              of: words.docket.holdingsEnd(new Set(held.map((one) => one.entitlement.app.id)).size),
              tone: holdings > 0 ? 'loss' : undefined,
            },
            {
              n: words.count(lone.length),
              of: words.docket.needOwner(lone.length),
              tone: lone.length > 0 ? 'wait' : undefined,
            },
          ]}
        />
      </header>
      <div className="leaving">
        <section className="part" aria-labelledby="leaving-ends">
          <div className="part-head">
            <h3 id="leaving-ends">{words.docket.byItself}</h3>
            <span className="dim small">
              <i className="end-square on" /> {words.docket.high} <i className="end-square" />{' '}
              {words.docket.other}
            </span>
          </div>
          {seen.error ? (
            <Failure error={seen.error} again={() => seen.refetch()} />
          ) : seen.data === undefined ? (
            <Loading what={words.docket.byItself} lines={6} />
          ) : (
            <ul className="plain ending-apps">
              {byApp(held).map(({ app, high, other }) => (
                <li key={app.id}>
                  <Picture name={app.picture} hue={app.hue} size={24} /> {app.name}
                  <span
                    className="end-squares"
                    role="img"
                    aria-label={words.docket.endsOf(high, other)}
                    title={words.docket.endsOf(high, other)}
                  >
                    {Array.from({ length: high + other }, (_, index) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: squares are alike
                      <i key={index} className={index < high ? 'end-square on' : 'end-square'} />
                    ))}
                  </span>
                </li>
              ))}
            </ul>
          )}
          {seen.data !== undefined && seen.data.unreached > 0 && (
            <p className="dim small">{words.access.unreached(seen.data.unreached)}</p>
          )}
          <DeskLink to={`/desk/people/${id}/holdings`}>{words.docket.seeHoldings}</DeskLink>
        </section>
        <div className="parts">
          <section className="part" aria-labelledby="leaving-owns">
            <div className="part-head">
              <h3 id="leaving-owns">{words.docket.toSomeoneElse}</h3>
            </div>
            {lone.length === 0 ? (
              <p className="dim">{words.departures.noLone}</p>
            ) : (
              <OwnedList things={lone} owner={id} />
            )}
          </section>
          <section className="part" aria-labelledby="leaving-stays">
            <div className="part-head">
              <h3 id="leaving-stays">{words.docket.stays}</h3>
            </div>
            {ahead.error ? (
              <Failure error={ahead.error} again={() => ahead.refetch()} />
            ) : ahead.data === undefined ? (
              <Loading what={words.docket.stays} lines={3} />
            ) : (
              <ul className="plain stays">
                {stays.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            )}
          </section>
        </div>
      </div>
      <div className="decide sheet">
        <Button variant="outline-danger" onClick={() => setRunning(true)}>
          {words.departures.early}
        </Button>
      </div>
      {running && (
        <DepartureDialog id={id} name={who.displayed} onClose={() => setRunning(false)} />
      )}
    </>
  );
}
