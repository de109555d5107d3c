import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { Drafted } from '../drafts/Drafted';
import { Picture } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import { DeskLink, useLens } from '../shell/lens';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { CollectionDialog } from './CollectionDialog';
import { CollectionSheet } from './CollectionSheet';
import { TileDialog } from './TileDialog';

type Curated = Schemas['CuratedView'];

/** What everyone's front page is made of: collections in their order, and all tiles. */
export function CuratePage() {
  const { asOf } = useLens();
  const curated = useQuery({
    queryKey: ['curated', asOf],
    queryFn: () => answer(api.GET('/api/portal', { params: { query: { asOf } } })),
  });
  if (curated.error) {
    return <Failure error={curated.error} again={() => curated.refetch()} />;
  }
  if (curated.data === undefined) {
    return <Loading what={words.curate.title} lines={12} />;
  }
  return <Whole curated={curated.data} />;
}

function Whole({ curated }: { curated: Curated }) {
  const [get, set] = useAddress();
  const [making, setMaking] = useState(false);
  const { collections, tiles } = curated;
  const order = collections.map((one) => one.id);
  const arrange = useAct((wanted: string[]) =>
    answer(api.PUT('/api/front-page', { body: { base: order, wanted } })),
  );
  const chosen = tiles.find((tile) => tile.id === get('tile'));
  const move = (index: number, step: 1 | -1) => {
    const wanted = [...order];
    const [moved] = wanted.splice(index, 1);
    if (moved !== undefined) {
      wanted.splice(index + step, 0, moved);
      arrange.mutate(wanted);
    }
  };
  return (
    <>
      <header>
        <h1>{words.curate.title}</h1>
        <span className="dim">{words.curate.total(collections.length, tiles.length)}</span>
        <span className="grow" />
        {curated.mayArrange && (
          <Button onClick={() => setMaking(true)}>{words.curate.makeCollection}</Button>
        )}
      </header>
      <Drafted acts={/^(tile|collection|front-page)\./} />
      <p className="dim small">{words.curate.help}</p>
      <ProblemNote error={arrange.error} />
      <div className="split">
        <div style={{ display: 'grid', gap: 12, alignContent: 'start', minWidth: 0 }}>
          {collections.length === 0 ? (
            <Empty title={words.curate.empty}>{words.curate.emptyHelp}</Empty>
          ) : (
            collections.map((collection, index) => (
              <CollectionSheet
                key={collection.id}
                collection={collection}
                tiles={tiles}
                onTile={(tile) => set({ tile })}
                onUp={curated.mayArrange && index > 0 ? () => move(index, -1) : undefined}
                onDown={
                  curated.mayArrange && index < collections.length - 1
                    ? () => move(index, 1)
                    : undefined
                }
              />
            ))
          )}
        </div>
        <aside className="margin" aria-label={words.curate.tiles}>
          {chosen === undefined ? (
            <AllTiles tiles={tiles} onTile={(tile) => set({ tile })} />
          ) : (
            <OneTile
              tile={chosen}
              collections={collections}
              may={curated.mayArrange}
              onBack={() => set({ tile: '' })}
            />
          )}
        </aside>
      </div>
      {making && <CollectionDialog onClose={() => setMaking(false)} />}
    </>
  );
}

function AllTiles({
  tiles,
  onTile,
}: {
  tiles: Schemas['CuratedTile'][];
  onTile: (tile: string) => void;
}) {
  return (
    <>
      <h2>{words.curate.tiles}</h2>
      <p className="dim small">{words.curate.tilesHelp}</p>
      <ul className="plain tile-list">
        {tiles.map((tile) => (
          <li key={tile.id}>
            <button type="button" className="choose" onClick={() => onTile(tile.id)}>
              <Picture name={tile.picture} hue={tile.hue} size={24} />
              {tile.name}
            </button>
            {tile.collections === 0 && <span className="tag wait">{words.curate.nowhere}</span>}
            <span className="mono dim" title={words.curate.openings(tile.openings)}>
              {words.count(tile.openings)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function OneTile({
  tile,
  collections,
  may,
  onBack,
}: {
  tile: Schemas['CuratedTile'];
  collections: Schemas['CollectionView'][];
  may: boolean;
  onBack: () => void;
}) {
  const [editing, setEditing] = useState(false);
  const [ending, setEnding] = useState(false);
  const end = useAct(
    () => answer(api.DELETE('/api/tiles/{id}', { params: { path: { id: tile.id } } })),
    onBack,
  );
  const lying = collections.filter((one) => one.places.some((place) => place.tile === tile.id));
  return (
    <>
      <Button variant="link" onClick={onBack}>
        {words.curate.allTiles}
      </Button>
      <div className="bar" style={{ margin: '8px 0' }}>
        <Picture name={tile.picture} hue={tile.hue} />
        <div>
          <h2 style={{ margin: 0 }}>{tile.name}</h2>
          <span className="dim small">{tile.line}</span>
        </div>
      </div>
      {tile.app.state !== 'open' && (
        <div className="note wait">
          {words.portal.notOpen(tile.app.name, words.apps.states[tile.app.state] ?? '')};{' '}
          {words.curate.shownToNobody}
        </div>
      )}
      <dl className="pair">
        <dt>{words.curate.app}</dt>
        <dd>
          <DeskLink to={`/desk/apps/${tile.app.id}`}>{tile.app.name}</DeskLink>
        </dd>
        <dt>{words.curate.needs}</dt>
        <dd>
          {tile.needs.length === 0
            ? words.curate.needsNothing
            : tile.needs.map((need, index) => (
                <span key={need.id}>
                  {index > 0 && words.requests.or}
                  <DeskLink to={`/desk/entitlements/${need.id}`}>{need.name}</DeskLink>
                </span>
              ))}
        </dd>
        <dt>{words.curate.canOpen}</dt>
        <dd>{words.groups.people(tile.holders)}</dd>
        <dt>{words.curate.opened}</dt>
        <dd>{words.curate.openings(tile.openings)}</dd>
        <dt>{words.curate.liesIn}</dt>
        <dd>
          {lying.length === 0 ? words.curate.nowhereLong : lying.map((one) => one.name).join(', ')}
        </dd>
        <dt>{words.curate.address}</dt>
        <dd>
          <code>/go/{tile.id}</code>
        </dd>
      </dl>
      {may && (
        <div className="bar" style={{ marginTop: 10 }}>
          <Button variant="outline-primary" size="sm" onClick={() => setEditing(true)}>
            {words.curate.changeTile}
          </Button>
          {ending ? (
            <Button
              variant="outline-danger"
              size="sm"
              disabled={end.isPending}
              onClick={() => end.mutate()}
            >
              {words.curate.endTileReally(tile.name, lying.length)}
            </Button>
          ) : (
            <Button variant="outline-danger" size="sm" onClick={() => setEnding(true)}>
              {words.curate.endTile}
            </Button>
          )}
        </div>
      )}
      <ProblemNote error={end.error} />
      {editing && <TileDialog app={tile.app.id} tile={tile} onClose={() => setEditing(false)} />}
    </>
  );
}
