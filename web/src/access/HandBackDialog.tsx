import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, repeatKey, type Schemas } from '../api/client';
import { Dialog } from '../shell/Dialog';
import { Failure, Loading } from '../shell/states';
import { useAct } from '../shell/useAct';
import { words } from '../words/portal';
import { WhyLines } from './Why';

/** Hands back what opens a tile; where several things do, which of them is chosen first. */
export function HandBackDialog({
  tile,
  onClose,
}: {
  tile: Schemas['TileView'];
  onClose: () => void;
}) {
  const held = useQuery({
    queryKey: ['my', 'holdings', 'tile', tile.id],
    queryFn: () =>
      answer(api.GET('/api/my/tiles/{tile}/holdings', { params: { path: { tile: tile.id } } })),
  });
  const [chosen, setChosen] = useState<string>();
  const holdings = held.data?.holdings ?? [];
  const only = holdings.length === 1 ? holdings[0]?.entitlement.id : chosen;
  if (only !== undefined) {
    return <HandBackOne entitlement={only} onClose={onClose} />;
  }
  return (
    <Dialog title={words.held.handBackTitle(tile.name)} onClose={onClose}>
      {held.error ? (
        <Failure error={held.error} again={() => held.refetch()} />
      ) : held.data === undefined ? (
        <Loading what={tile.name} lines={3} />
      ) : holdings.length === 0 ? (
        <p>{words.held.forAudience}</p>
      ) : (
        <>
          <p>{words.held.handBackWhich}</p>
          {holdings.map((holding) => (
            <button
              key={holding.entitlement.id}
              type="button"
              className="choose"
              onClick={() => setChosen(holding.entitlement.id)}
            >
              {holding.entitlement.title}
            </button>
          ))}
        </>
      )}
    </Dialog>
  );
}

/** Hands one thing back, with what else that changes. */
export function HandBackOne({
  entitlement,
  onClose,
}: {
  entitlement: string;
  onClose: () => void;
}) {
  const [key] = useState(repeatKey);
  const path = { params: { path: { id: entitlement } } };
  const would = useQuery({
    queryKey: ['my', 'holdings', 'back', entitlement],
    queryFn: () => answer(api.GET('/api/my/holdings/{id}/hand-back', path)),
    staleTime: 0,
  });
  const back = useAct(
    () =>
      answer(
        api.POST('/api/my/holdings/{id}/hand-back', {
          params: { path: { id: entitlement }, header: { 'Idempotency-Key': key } },
          body: {
            grants: would.data?.grants ?? [],
            groups: would.data?.groups.map((group) => group.id) ?? [],
          },
        }),
      ),
    onClose,
  );
  const told = would.data;
  const nothing = told !== undefined && told.grants.length === 0 && told.groups.length === 0;
  return (
    <Dialog
      title={words.held.handBackTitle(told?.entitlement.title ?? '')}
      act={nothing ? undefined : words.held.handBackAct}
      danger
      disabled={told === undefined || back.isPending}
      error={back.error}
      onAct={() => back.mutate()}
      onClose={onClose}
    >
      {would.error ? (
        <Failure error={would.error} again={() => would.refetch()} />
      ) : told === undefined ? (
        <Loading what={words.portal.handBack} lines={4} />
      ) : nothing ? (
        <>
          <p>{words.held.handBackNone}</p>
          <WhyLines grounds={told.remains} />
          {told.whom.length > 0 && <p>{words.portal.whom(told.whom.join(', '))}</p>}
        </>
      ) : (
        <>
          <ul className="moves plain">
            {told.groups.map((group) => (
              <li key={group.id} className="loss">
                {words.held.leavesGroup(group.name)}
              </li>
            ))}
            {told.gone && <li className="loss">{words.held.noLonger(told.entitlement.title)}</li>}
            {told.loses.map((one) => (
              <li key={one.id} className="loss">
                {words.held.noLonger(one.title)}
              </li>
            ))}
            {told.tiles.length > 0 && <li className="loss">{words.held.tilesGo(told.tiles)}</li>}
            {!told.gone && (
              <li className="keep">
                {words.held.staysBy(told.entitlement.title)}
                <WhyLines grounds={told.remains} />
              </li>
            )}
          </ul>
          <p className="dim small">{words.held.handBackAgain}</p>
        </>
      )}
    </Dialog>
  );
}
