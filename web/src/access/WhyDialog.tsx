import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { Dialog } from '../shell/Dialog';
import { Failure, Loading } from '../shell/states';
import { words } from '../words/portal';
import { HeldFor, WhyLines } from './Why';

/** Why somebody has a tile, until when, and whom to ask about it. */
export function WhyDialog({
  tile,
  onHandBack,
  onClose,
}: {
  tile: Schemas['TileView'];
  onHandBack: () => void;
  onClose: () => void;
}) {
  const held = useQuery({
    queryKey: ['my', 'holdings', 'tile', tile.id],
    queryFn: () =>
      answer(api.GET('/api/my/tiles/{tile}/holdings', { params: { path: { tile: tile.id } } })),
  });
  const holdings = held.data?.holdings;
  return (
    <Dialog
      title={
        tile.offered === null ? words.held.about(tile.name) : words.held.aboutOffered(tile.name)
      }
      onClose={onClose}
      beside={
        holdings !== undefined &&
        holdings.length > 0 && (
          <Button variant="link" className="start" onClick={onHandBack}>
            {words.portal.handBack}
          </Button>
        )
      }
    >
      {tile.offered !== null ? null : held.error ? (
        <Failure error={held.error} again={() => held.refetch()} />
      ) : holdings === undefined ? (
        <Loading what={words.held.about(tile.name)} lines={3} />
      ) : holdings.length === 0 ? (
        <p>{words.held.forAudience}</p>
      ) : (
        holdings.map((holding) => (
          <section key={holding.entitlement.id} aria-label={holding.entitlement.title}>
            <h3>{holding.entitlement.title}</h3>
            <HeldFor holding={holding} />
            <WhyLines grounds={holding.grounds} />
          </section>
        ))
      )}
      <h3>{words.portal.whomTitle}</h3>
      <p className="whom">
        {tile.whom.length > 0 && <span>{tile.whom.join(', ')}</span>}
        {tile.contact !== '' && <span dir="auto">{tile.contact}</span>}
        {tile.whom.length === 0 && tile.contact === '' && (
          <span className="dim">{words.portal.whomNobody}</span>
        )}
      </p>
    </Dialog>
  );
}
