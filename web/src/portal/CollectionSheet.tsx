import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { ProblemNote } from '../shell/states';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { CollectionDialog } from './CollectionDialog';

type Collection = Schemas['CollectionView'];
type Place = Schemas['PlaceView'];

/** One collection: who sees it, how much of it they can open, and its tiles in their order. */
export function CollectionSheet({
  collection,
  tiles,
  onTile,
  onUp,
  onDown,
}: {
  collection: Collection;
  tiles: Schemas['CuratedTile'][];
  onTile: (tile: string) => void;
  onUp?: () => void;
  onDown?: () => void;
}) {
  const [editing, setEditing] = useState(false);
  const [at, setAt] = useState<string>();
  const arrange = useAct((wanted: Place[]) =>
    answer(
      api.PUT('/api/collections/{id}/tiles', {
        params: { path: { id: collection.id } },
        body: { base: collection.places.map((place) => place.tile), tiles: wanted },
      }),
    ),
  );
  const { places } = collection;
  const move = (index: number, step: 1 | -1) => {
    const wanted = [...places];
    const [moved] = wanted.splice(index, 1);
    if (moved !== undefined) {
      wanted.splice(index + step, 0, moved);
      arrange.mutate(wanted);
    }
  };
  const rest = tiles.filter((tile) => !places.some((place) => place.tile === tile.id));
  return (
    <section className="sheet collection" aria-labelledby={`c-${collection.id}`}>
      <div className="bar">
        <h2 id={`c-${collection.id}`} style={{ margin: 0 }}>
          {collection.name}
        </h2>
        <span className="dim small">{collection.line}</span>
        <span className="grow" />
        {onUp !== undefined && (
          <Button
            variant="outline-primary"
            size="sm"
            aria-label={words.curate.up(collection.name)}
            onClick={onUp}
          >
            ↑
          </Button>
        )}
        {onDown !== undefined && (
          <Button
            variant="outline-primary"
            size="sm"
            aria-label={words.curate.down(collection.name)}
            onClick={onDown}
          >
            ↓
          </Button>
        )}
        {collection.mayArrange && (
          <Button
            variant="outline-primary"
            size="sm"
            aria-label={words.curate.change(collection.name)}
            onClick={() => setEditing(true)}
          >
            {words.groups.edit}
          </Button>
        )}
      </div>
      <div className="audience small">
        <span>
          {words.curate.seenBy}{' '}
          <b>
            {collection.everyone
              ? words.curate.everyone
              : collection.audience.length === 0
                ? words.curate.nobody
                : collection.audience.map((one) => one.name).join(', ')}
          </b>
          , {words.groups.people(collection.people)}
        </span>
        <Share collection={collection} />
      </div>
      {places.length === 0 ? (
        <p className="dim">{words.curate.noTiles}</p>
      ) : (
        <ol className="places">
          {places.map((place, index) => {
            const tile = tiles.find((one) => one.id === place.tile);
            if (tile === undefined) {
              return null;
            }
            const on = at === tile.id;
            return (
              <li key={tile.id} className={place.offered ? 'offered' : undefined}>
                <button
                  type="button"
                  className="choose"
                  aria-expanded={on}
                  onClick={() => {
                    setAt(on ? undefined : tile.id);
                    onTile(tile.id);
                  }}
                >
                  <Picture name={tile.picture} hue={tile.hue} size={26} />
                  {tile.name}
                </button>
                {tile.app.state !== 'open' && (
                  <span className="tag wait">{words.apps.states[tile.app.state]}</span>
                )}
                {place.offered && <span className="tag">{words.curate.offered}</span>}
                {on && collection.mayArrange && (
                  <span className="bar">
                    <Button
                      size="sm"
                      variant="outline-primary"
                      disabled={index === 0 || arrange.isPending}
                      aria-label={words.curate.earlier(tile.name)}
                      onClick={() => move(index, -1)}
                    >
                      ←
                    </Button>
                    <Button
                      size="sm"
                      variant="outline-primary"
                      disabled={index === places.length - 1 || arrange.isPending}
                      aria-label={words.curate.later(tile.name)}
                      onClick={() => move(index, 1)}
                    >
                      →
                    </Button>
                    <Button
                      size="sm"
                      variant="outline-primary"
                      disabled={arrange.isPending}
                      onClick={() =>
                        arrange.mutate(
                          places.map((one) =>
                            one.tile === tile.id ? { ...one, offered: !one.offered } : one,
                          ),
                        )
                      }
                    >
                      {place.offered ? words.curate.offerNot : words.curate.offer}
                    </Button>
                    <Button
                      size="sm"
                      variant="outline-danger"
                      disabled={arrange.isPending}
                      onClick={() => arrange.mutate(places.filter((one) => one.tile !== tile.id))}
                    >
                      {words.groups.takeOut}
                    </Button>
                  </span>
                )}
              </li>
            );
          })}
        </ol>
      )}
      {collection.mayArrange && rest.length > 0 && (
        <Form.Select
          size="sm"
          style={{ width: 'auto' }}
          aria-label={words.curate.addTo(collection.name)}
          value=""
          disabled={arrange.isPending}
          onChange={(event) =>
            arrange.mutate([...places, { tile: event.target.value, offered: false }])
          }
        >
          <option value="">{words.curate.add}</option>
          {rest.map((tile) => (
            <option key={tile.id} value={tile.id}>
              {tile.name}
            </option>
          ))}
        </Form.Select>
      )}
      <ProblemNote error={arrange.error} />
      {editing && <CollectionDialog collection={collection} onClose={() => setEditing(false)} />}
    </section>
  );
}

/** How much of a collection its audience can open. */
function Share({ collection }: { collection: Collection }) {
  const { people, none, some, all } = collection;
  if (people === 0 || collection.places.length === 0) {
    return null;
  }
  const parts = [
    { name: 'all', n: all },
    { name: 'some', n: some },
    { name: 'none', n: none },
  ] as const;
  return (
    <span className="opens">
      <span className="three" aria-hidden>
        {parts.map((part) => (
          <i key={part.name} className={part.name} style={{ flexGrow: part.n }} />
        ))}
      </span>
      <span className="dim">{words.curate.share(all, some, none)}</span>
    </span>
  );
}
