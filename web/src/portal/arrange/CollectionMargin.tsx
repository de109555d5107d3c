import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Schemas } from '../../api/client';
import { Picture } from '../../pictures/Picture';
import { words } from '../../words/en';
import { tellAudience } from '../AudienceFields';
import { CollectionDialog } from '../CollectionDialog';
import { type Collection, Flags, type Tile } from './Flags';
import { Names } from './Names';
import { Sortable } from './Outline';
import { type Arranging, movesTo, moveTiles, offering, takingOut } from './useArranging';
import { useCarry } from './useCarry';

/** What can be known and done about a collection. */
export function CollectionMargin({
  collection,
  tiles,
  draft,
  arranging,
  marked,
  onMark,
  onTile,
  editsHere,
}: {
  collection: Collection;
  tiles: Tile[];
  draft: string | undefined;
  arranging: Arranging;
  marked: readonly string[];
  onMark: (tile: string) => void;
  onTile: (tile: string) => void;
  editsHere: ReactNode;
}) {
  const [editing, setEditing] = useState(false);
  const [names, setNames] = useState<{ opens?: string; tile?: string; title: string }>();
  const { places } = collection;
  const tileOf = (id: string) => tiles.find((tile) => tile.id === id);
  const name = (id: string) => tileOf(id)?.name ?? collection.name;
  const order = places.map((place) => place.tile);
  const carry = useCarry({
    lists: [{ id: collection.id, items: order }],
    marked,
    upright: true,
    name,
    busy: arranging.pending,
    onDrop: (carried, after) =>
      arranging.edit(moveTiles(collection.id, movesTo(places, carried.items, after))),
  });
  const rest = tiles.filter((tile) => !order.includes(tile.id));
  const openings = places.reduce((sum, place) => sum + (tileOf(place.tile)?.openings ?? 0), 0);
  const edit = (moves: Schemas['TileMove'][]) => arranging.edit(moveTiles(collection.id, moves));
  const together = marked.filter((id) => order.includes(id));
  return (
    <>
      <div className="dim small">{words.arrange.collection}</div>
      <h2 dir="auto">{collection.name}</h2>
      <p className="small" dir="auto">
        {collection.line}
      </p>
      <dl className="pair">
        <dt>{words.curate.audience}</dt>
        <dd>
          {tellAudience(collection.audience)}, {words.groups.people(collection.audience.people)}
        </dd>
        <dt>{words.arrange.whoArranges}</dt>
        <dd>
          {collection.owners.length === 0 ? (
            <span className="tag wait">{words.curate.noOwner}</span>
          ) : (
            collection.owners.map((owner) => owner.displayed).join(', ')
          )}
        </dd>
      </dl>
      {collection.mayArrange && (
        <Button
          size="sm"
          variant="outline-primary"
          aria-label={words.curate.change(collection.name)}
          onClick={() => setEditing(true)}
        >
          {words.groups.edit}
        </Button>
      )}
      <h3>{words.arrange.howMuch}</h3>
      <Share collection={collection} onOpen={(opens, title) => setNames({ opens, title })} />
      <h3>{words.arrange.tiles(places.length)}</h3>
      {together.length > 1 && (
        <p className="small">
          {words.arrange.marked(together.length)}{' '}
          <Button
            size="sm"
            variant="outline-danger"
            disabled={arranging.pending}
            onClick={() => edit(takingOut(places, together))}
          >
            {words.arrange.takeOutMarked(together.length)}
          </Button>
        </p>
      )}
      {places.length === 0 && <p className="dim">{words.curate.noTiles}</p>}
      <fieldset disabled={!collection.mayArrange || arranging.pending} className="bare">
        <Sortable
          carry={carry}
          list={collection.id}
          items={order}
          may={collection.mayArrange}
          name={name}
        >
          {(id) => {
            const tile = tileOf(id);
            const place = places.find((one) => one.tile === id);
            return tile === undefined || place === undefined ? null : (
              <div className="placed">
                <span className="head">
                  <Form.Check
                    type="checkbox"
                    id={`mark-${id}`}
                    aria-label={words.arrange.mark(tile.name)}
                    checked={marked.includes(id)}
                    onChange={() => onMark(id)}
                  />
                  <button type="button" className="choose" onClick={() => onTile(id)}>
                    <Picture name={tile.picture} hue={tile.hue} size={22} />
                    <span dir="auto">{tile.name}</span>
                  </button>
                  {place.offered && <span className="tag">{words.curate.offered}</span>}
                  <Flags tile={tile} />
                </span>
                {place.without > 0 && (
                  <span className="small dim">
                    <button
                      type="button"
                      className="btn btn-link small"
                      onClick={() =>
                        setNames({ tile: id, title: words.arrange.doNotHold(tile.name) })
                      }
                    >
                      {words.arrange.without(place.without, collection.audience.people)}
                    </button>{' '}
                    {!place.offered && words.arrange.doNotSee}
                  </span>
                )}
                {collection.mayArrange && (
                  <span className="small">
                    <button
                      type="button"
                      className="btn btn-link small"
                      aria-label={`${words.groups.takeOut}: ${tile.name}`}
                      onClick={() => edit(takingOut(places, [id]))}
                    >
                      {words.groups.takeOut}
                    </button>
                    {tile.needs.length > 0 && (
                      <>
                        {' · '}
                        <button
                          type="button"
                          className="btn btn-link small"
                          aria-label={`${place.offered ? words.curate.offerNot : words.curate.offer}: ${tile.name}`}
                          onClick={() => edit(offering(places, id, !place.offered))}
                        >
                          {place.offered ? words.curate.offerNot : words.curate.offer}
                        </button>
                      </>
                    )}
                  </span>
                )}
              </div>
            );
          }}
        </Sortable>
        {collection.mayArrange && rest.length > 0 && (
          <Form.Select
            size="sm"
            aria-label={words.curate.addTo(collection.name)}
            value=""
            onChange={(event) =>
              edit(movesTo(places, [event.target.value], order.at(-1) ?? null, false))
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
      </fieldset>
      <h3>{words.arrange.use}</h3>
      <p className="small">
        {words.curate.openings(openings)}
        {openings > 0 &&
          `: ${[...places]
            .map((place) => tileOf(place.tile))
            .filter((tile) => tile !== undefined)
            .sort((one, other) => other.openings - one.openings)
            .slice(0, 3)
            .map((tile) =>
              words.arrange.shareOf(tile.name, Math.round((100 * tile.openings) / openings)),
            )
            .join(', ')}`}
      </p>
      {editsHere}
      {editing && <CollectionDialog collection={collection} onClose={() => setEditing(false)} />}
      {names !== undefined && (
        <Names
          collection={collection.id}
          draft={draft}
          opens={names.opens}
          tile={names.tile}
          title={names.title}
          onClose={() => setNames(undefined)}
        />
      )}
    </>
  );
}

/** How much of a collection its audience can open; each part opens to its names. */
function Share({
  collection,
  onOpen,
}: {
  collection: Collection;
  onOpen: (opens: string, title: string) => void;
}) {
  const { none, some, all, places } = collection;
  if (none + some + all === 0 || places.length === 0) {
    return <p className="small dim">{words.arrange.nothingToTell}</p>;
  }
  const parts = [
    { name: 'none', n: none },
    { name: 'some', n: some },
    { name: 'all', n: all },
  ] as const;
  return (
    <div className="opens-bar">
      <span className="three wide" aria-hidden>
        {parts.map((part) => (
          <i key={part.name} className={part.name} style={{ flexGrow: part.n }} />
        ))}
      </span>
      <span className="small">
        {parts.map((part, index) => (
          <span key={part.name}>
            {index > 0 && ' · '}
            <button
              type="button"
              className="btn btn-link small"
              disabled={part.n === 0}
              onClick={() => onOpen(part.name, words.arrange.opensTitle[part.name])}
            >
              <b>{words.count(part.n)}</b> {words.arrange.opens[part.name]}
            </button>
          </span>
        ))}
      </span>
    </div>
  );
}
