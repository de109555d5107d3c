import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { answer, api, type Schemas } from '../api/client';
import { Pick } from '../holdings/Asking';
import { having, UNUSED_DAYS } from '../holdings/asked';
import { Picture } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import type { Figure } from '../shell/Head';
import { DeskLink, useLens } from '../shell/lens';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { Table } from '../shell/Table';
import { daysBack, lastDay, tellDate, tellDay } from '../shell/times';
import { words } from '../words/en';
import { EndDialog } from './EndDialog';
import { GroundCard, NamedGrounds, SignKey } from './Grounds';
import { HeldBand } from './HeldBand';
import { HeldLine, yearsOf } from './HeldLine';
import { SensitivityTag } from './SensitivityTag';

export function usePersonHoldings(id: string) {
  const { asOf } = useLens();
  return useQuery({
    queryKey: ['holdings', id, asOf],
    queryFn: () =>
      answer(api.GET('/api/people/{id}/holdings', { params: { path: { id }, query: { asOf } } })),
  });
}

type Line = Schemas['HoldingLine'];

/** The key figures of what somebody holds; what is without effect now is not held. */
export function heldFigures(entitled: Line[]): Figure[] {
  const held = entitled.filter((line) => line.holds);
  const high = held.filter((line) => line.entitlement.sensitivity === 'high').length;
  const unused = held.filter((line) => line.unused === true).length;
  const apps = new Set(held.map((line) => line.entitlement.app.id)).size;
  const known = held.some((line) => line.unused !== null);
  return [
    { n: words.count(held.length), of: words.access.figures.held(held.length, apps) },
    { n: words.count(high), of: words.access.figures.high, tone: high > 0 ? 'loss' : undefined },
    // Whoever may not see their use is not told that there is none unused.
    ...(known
      ? [
          {
            n: words.count(unused),
            of: words.access.figures.unused(UNUSED_DAYS),
            tone: unused > 0 ? ('wait' as const) : undefined,
          },
        ]
      : []),
  ];
}

/** Application by application, or what is of high sensitivity and what is unused first. */
function inOrder(held: Line[], order: string): Line[] {
  if (order !== 'first') {
    return held;
  }
  const weight = (line: Line) =>
    (line.entitlement.sensitivity === 'high' ? 2 : 0) + (line.unused === true ? 1 : 0);
  return [...held].sort((one, other) => weight(other) - weight(one));
}

/** What a person holds; the one that is chosen is explained in the margin. */
export function PersonHoldings({ id }: { id: string }) {
  const [get, set] = useAddress();
  const { zone, begins } = useSession();
  const navigate = useNavigate();
  const holdings = usePersonHoldings(id);
  const userName = holdings.data?.person.userName;
  const chosen = get('holding');
  const order = get('order');
  const held = inOrder(holdings.data?.held ?? [], order);
  const range = yearsOf(held.map((line) => line.since));
  return (
    <section className="part" aria-labelledby="person-holdings">
      <div className="part-head">
        <h2 id="person-holdings">{words.access.holdings}</h2>
        <Pick
          label={words.access.order}
          value={order}
          choices={[
            ['', words.access.byApp],
            ['first', words.access.highFirst],
          ]}
          onPick={(wanted) => set({ order: wanted })}
        />
        {userName != null && (
          <Pick
            label={words.access.changed}
            value=""
            choices={[
              ['', words.holdings.choose],
              ...daysBack(zone, begins).map(([then, name]): [string, string] => [
                then,
                words.access.sinceThen[name],
              ]),
            ]}
            onPick={(against) =>
              navigate(
                `/desk/queries/new?${new URLSearchParams({ where: having('userName', userName), against })}`,
              )
            }
          />
        )}
      </div>
      {holdings.error ? (
        <Failure error={holdings.error} again={() => holdings.refetch()} />
      ) : holdings.data === undefined ? (
        <Loading what={words.access.holdings} lines={6} />
      ) : holdings.data.held.length === 0 ? (
        <Empty title={words.access.none}>
          {holdings.data.unreached > 0 && words.access.unreached(holdings.data.unreached)}
        </Empty>
      ) : (
        <>
          <div className="scroll">
            <Table className="held-table">
              <thead>
                <tr>
                  <th>{words.apps.columns.name}</th>
                  <th>{words.access.columns.entitlement}</th>
                  <th>{words.access.columns.through}</th>
                  <th className="years">
                    {words.access.columns.time}
                    <span aria-hidden="true">
                      {range.years.map((year) => (
                        <i
                          key={year}
                          style={{
                            left: `${(100 * (Date.UTC(year, 0, 1) - range.from)) / (range.to - range.from)}%`,
                          }}
                        >
                          ’{String(year).slice(2)}
                        </i>
                      ))}
                    </span>
                  </th>
                  <th>{words.access.columns.until}</th>
                  <th>{words.access.columns.opened}</th>
                </tr>
              </thead>
              <tbody>
                {held.map((line, index) => {
                  const { app } = line.entitlement;
                  const first = held[index - 1]?.entitlement.app.id !== app.id;
                  return (
                    <tr
                      key={line.entitlement.id}
                      className={`${first ? 'first' : ''}${line.entitlement.id === chosen ? ' on' : ''}`}
                    >
                      <td>
                        <span className={first ? 'app' : 'app again'}>
                          <Picture name={app.picture} hue={app.hue} size={26} />
                          {app.name}
                        </span>
                      </td>
                      <td>
                        <button
                          type="button"
                          className="choose"
                          aria-label={line.entitlement.title}
                          aria-pressed={line.entitlement.id === chosen}
                          onClick={() => set({ holding: line.entitlement.id })}
                        >
                          {line.entitlement.name}
                        </button>{' '}
                        <SensitivityTag sensitivity={line.entitlement.sensitivity} quiet />
                        {!line.holds && <span className="tag wait">{words.access.idle}</span>}
                      </td>
                      <td>
                        <NamedGrounds signs={line.signs} />
                      </td>
                      <td className="years">
                        <HeldLine
                          since={line.since}
                          until={line.until}
                          unusedSince={
                            line.unused === true
                              ? (line.lastOpened ?? line.since ?? undefined)
                              : undefined
                          }
                          range={range}
                        />
                      </td>
                      <td className="nowrap mono">
                        {line.until === null ? (
                          <span className="dim">{words.access.noEnd}</span>
                        ) : (
                          tellDay(lastDay(zone, line.until))
                        )}
                      </td>
                      <td className={`nowrap mono ${line.unused === true ? 'loss' : ''}`}>
                        {line.lastOpened === null ? (
                          <span className="dim">–</span>
                        ) : (
                          <span title={line.lastOpened}>{tellDate(line.lastOpened)}</span>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </Table>
          </div>
          <div className="keys">
            <SignKey signs={holdings.data.held.flatMap((line) => line.signs)} />
            <ul className="plain bar key">
              <li>
                <span className="swatch was" /> {words.access.keys.held}
              </li>
              <li>
                <span className="swatch unused" /> {words.access.keys.unused(UNUSED_DAYS)}
              </li>
              <li>
                <span className="swatch to-come" /> {words.access.keys.toCome}
              </li>
              <li>
                <span className="swatch now" /> {words.access.keys.now}
              </li>
            </ul>
          </div>
          {holdings.data.unreached > 0 && (
            <p className="dim small">{words.access.unreached(holdings.data.unreached)}</p>
          )}
        </>
      )}
    </section>
  );
}

/** The margin's part on one holding: since when, every ground, and what can be done. */
export function HoldingMargin({
  person,
  entitlement,
  of = 'person',
}: {
  person: string;
  entitlement: string;
  /** Whose page it stands on; the way there is not offered. */
  of?: 'person' | 'entitlement';
}) {
  const { asOf } = useLens();
  const { zone, has, signed } = useSession();
  const [ending, setEnding] = useState(false);
  const page = useQuery({
    queryKey: ['holding', person, entitlement, asOf],
    queryFn: () =>
      answer(
        api.GET('/api/people/{id}/holdings/{entitlement}', {
          params: { path: { id: person, entitlement }, query: { asOf } },
        }),
      ),
  });
  if (page.error) {
    return <Failure error={page.error} again={() => page.refetch()} />;
  }
  if (page.data === undefined) {
    return <Loading what={words.access.why} lines={5} />;
  }
  const { data } = page;
  return (
    <div role="status">
      <h2>{data.entitlement.title}</h2>
      <p className="small dim">{data.person.displayed}</p>
      {data.grounds.length === 0 ? (
        <>
          <p>{words.access.notHeld(data.person.displayed)}</p>
          <HeldBand person={person} entitlement={entitlement} />
        </>
      ) : (
        <>
          <dl className="pair">
            <dt>{words.access.since}</dt>
            <dd>
              {data.since === null ? (
                words.access.notInEffect
              ) : (
                <span title={data.since}>{tellDate(data.since)}</span>
              )}
            </dd>
            <dt>{words.access.columns.until}</dt>
            <dd>{data.until === null ? words.access.noEnd : tellDay(lastDay(zone, data.until))}</dd>
            {asOf === undefined && (has('use.read') || signed.person === data.person.id) && (
              <>
                <dt>{words.access.columns.opened}</dt>
                <dd>
                  {data.lastOpened === null ? words.access.notOpened : tellDate(data.lastOpened)}
                </dd>
              </>
            )}
          </dl>
          <HeldBand person={person} entitlement={entitlement} />
          <h3>{words.access.grounds(data.grounds.length)}</h3>
          <ul className="plain">
            {data.grounds.map((ground) => (
              <GroundCard
                key={ground.grant}
                ground={ground}
                group={(one) => <DeskLink to={`/desk/groups/${one.id}`}>{one.name}</DeskLink>}
              />
            ))}
          </ul>
        </>
      )}
      <div className="bar room-above">
        {canEnd(data.grounds) && (
          <Button variant="outline-danger" size="sm" onClick={() => setEnding(true)}>
            {words.access.end}
          </Button>
        )}
        {of === 'person' ? (
          <DeskLink className="small" to={`/desk/entitlements/${data.entitlement.id}`}>
            {words.access.allHolders}
          </DeskLink>
        ) : (
          <DeskLink className="small" to={`/desk/people/${data.person.id}/holdings`}>
            {words.access.allOf(data.person.displayed)}
          </DeskLink>
        )}
      </div>
      {ending && <EndDialog holding={data} onClose={() => setEnding(false)} />}
    </div>
  );
}

function canEnd(grounds: Schemas['GroundView'][]): boolean {
  return grounds.some((ground) => ground.mayEndGrant || ground.mayTakeOut);
}
