import type { Schemas } from '../api/client';
import { UNUSED_DAYS } from '../holdings/asked';
import { DeskLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { lastDay, tellDate, tellDay } from '../shell/times';
import { words } from '../words/en';

type Case = Schemas['RequestCase'];

/** Whether an application in this state can only be refused. */
export function closed(state: string): boolean {
  return state === 'blocked' || state === 'retired';
}

export function WhoElse({ data }: { data: Case }) {
  const name = (line: Schemas['ShareLine']) =>
    line.unit === null && line.site === null && !line.elsewhere
      ? words.docket.allOthers
      : line.elsewhere
        ? words.docket.elsewhere(line.unit ?? words.docket.noUnit)
        : [line.unit ?? words.docket.noUnit, line.site].filter(Boolean).join(', ');
  return (
    <section className="part">
      <h3>{words.docket.whoElse}</h3>
      {data.others.map((line) => (
        <div key={name(line)} className="share">
          <span>{name(line)}</span>
          {line.squares.length < line.people ? (
            // Too many for a square each: the share as a bar, so that nothing looks like more.
            <span className="share-bar" aria-hidden>
              <i style={{ width: `${(100 * line.holders) / line.people}%` }} />
            </span>
          ) : (
            <span className="squares" aria-hidden>
              {line.squares.map((square, index) => (
                <i
                  // biome-ignore lint/suspicious/noArrayIndexKey: two people may have one name
                  key={index}
                  className={`${square.holds ? 'held' : ''} ${square.person ? 'asker' : ''}`}
                  title={square.name}
                />
              ))}
            </span>
          )}
          <span className="mono">{words.docket.of(line.holders, line.people)}</span>
        </div>
      ))}
      <p className="dim small legend" aria-hidden>
        <span className="squares">
          <i className="held" />
        </span>{' '}
        {words.docket.holds}{' '}
        <span className="squares">
          <i className="asker" />
        </span>{' '}
        {data.person.displayed}
      </p>
    </section>
  );
}

export function IfYes({ data, count }: { data: Case; count: number }) {
  const { zone } = useSession();
  const { request } = data;
  const until = request.lastDay ?? request.until;
  const more = request.steps.some((step) => step.state === 'next');
  return (
    <section className="part">
      <h3>{words.docket.ifYes}</h3>
      {data.app !== 'open' && (
        <div className={`note ${closed(data.app) ? 'loss' : 'wait'}`}>
          {words.portal.notOpen(request.entitlement.app.name, words.apps.states[data.app] ?? '')}.{' '}
          {closed(data.app) ? words.docket.onlyRefuse : words.docket.onceOpen}
        </div>
      )}
      <ul className="plain moves">
        {more && <li className="keep">{words.docket.goesOn}</li>}
        <li className={data.holdsNow ? 'keep' : 'gain'}>
          {data.holdsNow
            ? words.docket.holdsAlready(
                data.heldUntil === null ? null : tellDay(lastDay(zone, data.heldUntil)),
              )
            : count > 1
              ? words.docket.gainMany(count, request.entitlement.title)
              : words.docket.gain(request.entitlement.title)}
          {until === null
            ? `, ${words.access.noEnd}`
            : `, ${words.docket.untilThen(tellDay(until))}`}
        </li>
        {data.tiles.length > 0 && (
          <li className="gain">{words.docket.newTiles(data.tiles.join(', '))}</li>
        )}
        {data.tiles.length === 0 && !data.holdsNow && (
          <li className="keep">{words.docket.noTile}</li>
        )}
      </ul>
    </section>
  );
}

export function Asker({ data }: { data: Case }) {
  const { person } = data;
  return (
    <section className="part">
      <h3>
        <DeskLink to={`/desk/people/${person.id}/holdings`}>{person.familyFirst}</DeskLink>
      </h3>
      <dl className="pair">
        <dt>{words.docket.worksAs}</dt>
        <dd>{[person.title, person.unit, person.site].filter(Boolean).join(', ')}</dd>
        <dt>{words.docket.manager}</dt>
        <dd>{data.manager ?? words.docket.noManager}</dd>
        <dt>{words.docket.there}</dt>
        <dd title={person.since}>{words.people.since(tellDate(person.since))}</dd>
        <dt>{words.docket.holdsDt}</dt>
        <dd>
          {words.docket.holdsCount(data.holdings, data.unused, UNUSED_DAYS)}
          {data.holds.length > 0 && (
            <details>
              <summary>{words.docket.which}</summary>
              {data.holds.map((one) => one.title).join(', ')}
            </details>
          )}
        </dd>
        <dt>{words.docket.askedBefore}</dt>
        <dd>
          {data.askedBefore.length === 0
            ? words.docket.never
            : data.askedBefore
                .map(
                  (one) =>
                    `${one.number} ${words.requests.stages[one.stage] ?? one.stage}, ${tellDate(one.asked)}`,
                )
                .join('; ')}
        </dd>
      </dl>
    </section>
  );
}
