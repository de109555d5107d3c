import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { answer, api } from '../api/client';
import { Picture } from '../pictures/Picture';
import { PortalFrame } from '../portal/PortalFrame';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';
import { GroundCard } from './Grounds';

/** Everything that one holds oneself, with every ground. */
export function MyHoldingsPage() {
  const { zone } = useSession();
  const mine = useQuery({
    queryKey: ['my', 'holdings'],
    queryFn: () => answer(api.GET('/api/my/holdings')),
  });
  return (
    <PortalFrame>
      <header className="asked">
        <div>
          <h1>{words.portal.holdings}</h1>
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
        <ul className="plain held">
          {mine.data.holdings.map(({ entitlement, until, grounds }) => (
            <li key={entitlement.id} className="sheet">
              <Picture name={entitlement.app.picture} hue={entitlement.app.hue} size={34} />
              <div>
                <h2>{entitlement.title}</h2>
                <div className="dim small">{entitlement.line}</div>
              </div>
              <div className="until">
                {until === null ? (
                  <span className="dim small">{words.access.noEnd}</span>
                ) : (
                  <>
                    <span className="tag wait">
                      {words.access.until(tellDay(lastDay(zone, until)))}
                    </span>
                    <Link className="small" to={`/ask/${entitlement.id}`}>
                      {words.portal.keep}
                    </Link>
                  </>
                )}
              </div>
              <details>
                <summary>{words.access.why}</summary>
                <ul className="plain">
                  {grounds.map((ground) => (
                    <GroundCard key={ground.grant} ground={ground} />
                  ))}
                </ul>
              </details>
            </li>
          ))}
        </ul>
      )}
    </PortalFrame>
  );
}
