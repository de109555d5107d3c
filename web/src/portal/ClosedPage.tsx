import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { answer, api } from '../api/client';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading } from '../shell/states';
import { tellTime } from '../shell/times';
import { words } from '../words/en';
import { PortalFrame } from './PortalFrame';

/** Why a tile did not open, and what to do instead. */
export function ClosedPage() {
  const tile = useParams().tile ?? '';
  const closed = useQuery({
    queryKey: ['my', 'closed', tile],
    queryFn: () => answer(api.GET('/api/closed/{tile}', { params: { path: { tile } } })),
  });
  const data = closed.data;
  return (
    <PortalFrame>
      <PageHeading
        className="visually-hidden"
        title={data?.name == null ? undefined : `${data.name} · ${words.portal.front}`}
      >
        {words.portal.front}
      </PageHeading>
      {closed.error ? (
        <Failure error={closed.error} again={() => closed.refetch()} />
      ) : data === undefined ? (
        <Loading what={words.portal.front} />
      ) : data.name === null ? (
        <Empty title={words.portal.noTile} action={<Link to="/">{words.portal.toFront}</Link>} />
      ) : (
        <Empty
          title={
            data.state === 'open'
              ? words.portal.notHeld(data.name)
              : words.portal.notOpen(data.name, words.apps.states[data.state ?? ''] ?? '')
          }
          action={
            data.ask === null ? (
              <Link to="/">{words.portal.toFront}</Link>
            ) : (
              <Link className="btn btn-primary" to={`/ask/${data.ask}`}>
                {words.portal.askFor(data.name)}
              </Link>
            )
          }
        >
          {data.heldUntil !== null && words.portal.heldUntil(tellTime(data.heldUntil))}{' '}
          {data.owners.length > 0 && words.portal.whom(data.owners.join(', '))}{' '}
          {data.contact !== '' && words.portal.call(data.contact)}
        </Empty>
      )}
    </PortalFrame>
  );
}
