import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { answer, api, type Schemas } from '../api/client';
import { Pick } from '../holdings/Asking';
import { having } from '../holdings/asked';
import { Picture } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import { DeskLink, useLens } from '../shell/lens';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { Table } from '../shell/Table';
import { daysBack, lastDay, tellDate, tellDay } from '../shell/times';
import { words } from '../words/en';
import { EndDialog } from './EndDialog';
import { GroundCard, GroundSign, SignKey } from './Grounds';
import { HeldBand } from './HeldBand';
import { WeightTag } from './WeightTag';

export function usePersonHoldings(id: string) {
  const { asOf } = useLens();
  return useQuery({
    queryKey: ['holdings', id, asOf],
    queryFn: () =>
      answer(api.GET('/api/people/{id}/holdings', { params: { path: { id }, query: { asOf } } })),
  });
}

/** What a person holds; the one that is chosen is explained in the margin. */
export function PersonHoldings({ id }: { id: string }) {
  const [get, set] = useAddress();
  const { zone, begins } = useSession();
  const navigate = useNavigate();
  const holdings = usePersonHoldings(id);
  const userName = holdings.data?.person.userName;
  const chosen = get('holding');
  return (
    <section className="sheet" aria-labelledby="person-holdings">
      <div className="bar">
        <h2 id="person-holdings" style={{ margin: 0 }}>
          {words.access.holdings}
        </h2>
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
                `/desk/questions/new?${new URLSearchParams({ where: having('userName', userName), against })}`,
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
            <Table className="lines">
              <thead>
                <tr>
                  <th>{words.access.columns.entitlement}</th>
                  <th>{words.access.columns.grounds}</th>
                  <th>{words.access.columns.until}</th>
                  <th>{words.access.columns.opened}</th>
                </tr>
              </thead>
              <tbody>
                {holdings.data.held.map((line) => (
                  <tr
                    key={line.entitlement.id}
                    className={line.entitlement.id === chosen ? 'on' : undefined}
                  >
                    <td>
                      <button
                        type="button"
                        className="choose"
                        aria-pressed={line.entitlement.id === chosen}
                        onClick={() => set({ holding: line.entitlement.id })}
                      >
                        <Picture
                          name={line.entitlement.app.picture}
                          hue={line.entitlement.app.hue}
                          size={24}
                        />
                        {line.entitlement.title}
                      </button>{' '}
                      <WeightTag weight={line.entitlement.weight} quiet />
                      {!line.holds && <span className="tag wait">{words.access.idle}</span>}
                    </td>
                    <td>
                      <span className="signs">
                        {line.signs.map((sign, index) => (
                          <GroundSign
                            // biome-ignore lint/suspicious/noArrayIndexKey: grounds may look alike
                            key={index}
                            by={sign.by}
                            source={sign.source}
                          />
                        ))}
                      </span>
                    </td>
                    <td className="nowrap">
                      {line.until === null
                        ? words.access.noEnd
                        : tellDay(lastDay(zone, line.until))}
                    </td>
                    <td className="nowrap">
                      {line.lastOpened === null ? (
                        <span className="dim">–</span>
                      ) : (
                        <span title={line.lastOpened}>{tellDate(line.lastOpened)}</span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </div>
          <SignKey signs={holdings.data.held.flatMap((line) => line.signs)} />
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
      <div className="bar" style={{ marginTop: 8 }}>
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
