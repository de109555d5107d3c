import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { Empty } from '../shell/states';
import { words } from '../words/portal';
import { useFront } from './front';
import { PortalFrame } from './PortalFrame';

/** Where the way through a tile ends when there is no network; it goes on as soon as there is. */
export function GoPage() {
  const tile = useParams().tile ?? '';
  const front = useFront().data;
  const name =
    front?.sections.flatMap((section) => section.tiles).find((one) => one.id === tile)?.name ?? '';
  useEffect(() => {
    const again = () => window.location.reload();
    window.addEventListener('online', again);
    return () => window.removeEventListener('online', again);
  }, []);
  return (
    <PortalFrame>
      <h1 className="visually-hidden">{words.portal.front}</h1>
      <Empty
        title={words.portal.offlineGo(name)}
        action={<Link to="/">{words.portal.toFront}</Link>}
      >
        {words.portal.offlineGoHelp}
      </Empty>
    </PortalFrame>
  );
}
