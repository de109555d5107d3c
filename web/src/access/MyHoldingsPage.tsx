import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, api, type Schemas } from '../api/client';
import { UNUSED_DAYS } from '../holdings/asked';
import { Picture } from '../pictures/Picture';
import { PortalFrame } from '../portal/PortalFrame';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading } from '../shell/states';
import { words } from '../words/en';
import { HandBackOne } from './HandBackDialog';
import { HeldFor, WhyLines } from './Why';

type Holding = Schemas['MyHolding'];

/** Everything that one holds oneself: why, since when, until when, and when it was used last. */
export function MyHoldingsPage() {
  const [back, setBack] = useState<string>();
  const mine = useQuery({
    queryKey: ['my', 'holdings'],
    queryFn: () => answer(api.GET('/api/my/holdings')),
  });
  return (
    <PortalFrame>
      <header className="asked">
        <div>
          <PageHeading>{words.portal.holdings}</PageHeading>
          <p className="dim">{words.access.mine}</p>
        </div>
      </header>
      {mine.error ? (
        <Failure error={mine.error} again={() => mine.refetch()} />
      ) : mine.data === undefined ? (
        <Loading what={words.portal.holdings} />
      ) : mine.data.holdings.length === 0 ? (
        <Empty
          title={words.access.holdsNothing}
          action={
            <Link className="btn btn-primary" to="/ask">
              {words.portal.ask}
            </Link>
          }
        >
          {words.access.holdsNothingHelp}
        </Empty>
      ) : (
        grouped(mine.data.holdings).map(([group, holdings]) => (
          <section key={group} className="part" aria-labelledby={`held-${group}`}>
            <h2 id={`held-${group}`}>
              {words.access.mineGroups[group](UNUSED_DAYS)}{' '}
              <span className="dim small">{holdings.length}</span>
            </h2>
            <ul className="plain held">
              {holdings.map((holding) => (
                <Row
                  key={holding.entitlement.id}
                  holding={holding}
                  onBack={() => setBack(holding.entitlement.id)}
                />
              ))}
            </ul>
          </section>
        ))
      )}
      {back !== undefined && <HandBackOne entitlement={back} onClose={() => setBack(undefined)} />}
    </PortalFrame>
  );
}

const DAY = 86_400_000;

type Group = 'ending' | 'unused' | 'others';

/** What ends soon, what has not been used for long, and the rest. */
function grouped(holdings: Holding[]): [Group, Holding[]][] {
  const now = Date.now();
  const of = (one: Holding): Group =>
    one.until !== null && Date.parse(one.until) - now < 30 * DAY
      ? 'ending'
      : one.unused
        ? 'unused'
        : 'others';
  return (['ending', 'unused', 'others'] as const)
    .map((group): [Group, Holding[]] => [group, holdings.filter((one) => of(one) === group)])
    .filter(([, some]) => some.length > 0);
}

/** One thing that one holds, with why on demand. */
function Row({ holding, onBack }: { holding: Holding; onBack: () => void }) {
  const [open, setOpen] = useState(false);
  const { app, name, line, title, id } = holding.entitlement;
  return (
    <li>
      <Picture name={app.picture} hue={app.hue} size={30} />
      <div className="what">
        <h3>
          {app.name} <span>· {name}</span>
        </h3>
        <div className="dim small">{line}</div>
      </div>
      <HeldFor holding={holding} />
      <div className="acts">
        {holding.askable && (
          <Link className="small" to={`/ask/${id}`}>
            {words.portal.keep}
          </Link>
        )}
        <button
          type="button"
          className="link small"
          aria-expanded={open}
          aria-label={`${words.access.why}: ${title}`}
          onClick={() => setOpen(!open)}
        >
          {words.access.why}
        </button>
        <button
          type="button"
          className="link small"
          aria-label={`${words.portal.handBack}: ${title}`}
          onClick={onBack}
        >
          {words.portal.handBack}
        </button>
      </div>
      {open && (
        <div className="why-open">
          <WhyLines grounds={holding.grounds} />
          {holding.whom.length > 0 && (
            <p className="small">{words.portal.whom(holding.whom.join(', '))}</p>
          )}
        </div>
      )}
    </li>
  );
}
