import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { useKeptAt } from '../shell/offline';
import { PageHeading } from '../shell/PageHeading';
import { Empty } from '../shell/states';
import { words } from '../words/portal';
import { useFront } from './front';
import { PortalFrame } from './PortalFrame';

/** Where the way through a tile ends while there is no network; it goes on as soon as there is. */
export function GoPage() {
  const tile = useParams().tile ?? '';
  const offline = useKeptAt() !== undefined;
  const front = useFront().data;
  const name =
    front?.sections.flatMap((section) => section.tiles).find((one) => one.id === tile)?.name ?? '';
  useEffect(() => {
    // The way itself is the server's.
    const go = () => window.location.replace(`/go/${tile}`);
    if (!offline) {
      go();
    }
    window.addEventListener('online', go);
    return () => window.removeEventListener('online', go);
  }, [offline, tile]);
  return (
    <PortalFrame>
      <PageHeading className="visually-hidden">{words.portal.front}</PageHeading>
      {offline && (
        <Empty
          title={words.portal.offlineGo(name)}
          action={<Link to="/">{words.portal.toFront}</Link>}
        >
          {words.portal.offlineGoHelp}
        </Empty>
      )}
    </PortalFrame>
  );
}
