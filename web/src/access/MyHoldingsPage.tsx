import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, api } from '../api/client';
import { Picture } from '../pictures/Picture';
import { PortalFrame } from '../portal/PortalFrame';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading } from '../shell/states';
import { words } from '../words/en';
import { HandBackOne } from './HandBackDialog';
import { HeldFor, WhyLines } from './Why';

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
        <ul className="plain held">
          {mine.data.holdings.map((holding) => (
            <li key={holding.entitlement.id} className="sheet">
              <Picture
                name={holding.entitlement.app.picture}
                hue={holding.entitlement.app.hue}
                size={34}
              />
              <div>
                <h2>{holding.entitlement.title}</h2>
                <div className="dim small">{holding.entitlement.line}</div>
                <HeldFor holding={holding} />
              </div>
              <div className="acts">
                {holding.askable && (
                  <Link className="small" to={`/ask/${holding.entitlement.id}`}>
                    {words.portal.keep}
                  </Link>
                )}
                <button
                  type="button"
                  className="link small"
                  aria-label={`${words.portal.handBack}: ${holding.entitlement.title}`}
                  onClick={() => setBack(holding.entitlement.id)}
                >
                  {words.portal.handBack}
                </button>
              </div>
              <details>
                <summary>{words.access.why}</summary>
                <WhyLines grounds={holding.grounds} />
                {holding.whom.length > 0 && (
                  <p className="small">{words.portal.whom(holding.whom.join(', '))}</p>
                )}
              </details>
            </li>
          ))}
        </ul>
      )}
      {back !== undefined && <HandBackOne entitlement={back} onClose={() => setBack(undefined)} />}
    </PortalFrame>
  );
}
