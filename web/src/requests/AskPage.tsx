import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { answer, api } from '../api/client';
import { Picture } from '../pictures/Picture';
import { PortalFrame } from '../portal/PortalFrame';
import { useAddress } from '../shell/addresses';
import { FindField } from '../shell/FindField';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';

const PAGE = 60;

/** Everything that one could ask for, found by name or need. */
export function AskPage() {
  const [get] = useAddress();
  const { zone, signed } = useSession();
  const find = useDeferredValue(get('find'));
  const [limit, setLimit] = useState(PAGE);
  const list = useQuery({
    queryKey: ['askable', find, limit],
    queryFn: () => answer(api.GET('/api/askable', { params: { query: { find, limit } } })),
  });
  return (
    <PortalFrame
      search={
        <search className="seek">
          <FindField label={words.requests.find} />
        </search>
      }
    >
      <PageHeading>{words.requests.askTitle}</PageHeading>
      <p className="dim">
        {words.requests.askHelp}{' '}
        {(signed.leads || signed.powers.includes('access.read')) && (
          <Link to="/ask/many">{words.requests.many}</Link>
        )}
      </p>
      {list.error ? (
        <Failure error={list.error} again={() => list.refetch()} />
      ) : list.data === undefined ? (
        <Loading what={words.requests.askTitle} lines={10} />
      ) : list.data.total === 0 ? (
        <Empty
          title={find === '' ? words.requests.askNothing : words.requests.askNoHit(find)}
          action={<Link to={`/suggest?name=${encodeURIComponent(find)}`}>{words.portal.add}</Link>}
        >
          {words.requests.askNoHitHelp}
        </Empty>
      ) : (
        <>
          <ul className="tiles">
            {list.data.lines.map((line) => (
              <li key={line.entitlement.id}>
                <Link className="tile" to={`/ask/${line.entitlement.id}`}>
                  <Picture name={line.entitlement.app.picture} hue={line.entitlement.app.hue} />
                  <span className="words">
                    <b>{line.entitlement.title}</b>
                    <span>{line.entitlement.line}</span>
                  </span>
                  {line.waiting !== null ? (
                    <span className="tag wait">{words.requests.waits(line.waiting)}</span>
                  ) : line.heldUntil !== null ? (
                    <span className="tag">
                      {words.requests.heldUntil(tellDay(lastDay(zone, line.heldUntil)))}
                    </span>
                  ) : null}
                </Link>
              </li>
            ))}
          </ul>
          {list.data.total > list.data.lines.length && (
            <p className="bar room-above-more">
              <Button variant="outline-primary" onClick={() => setLimit(limit + PAGE)}>
                {words.requests.more(list.data.total - list.data.lines.length)}
              </Button>
            </p>
          )}
        </>
      )}
    </PortalFrame>
  );
}
