import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../../api/client';
import { Picture } from '../../pictures/Picture';
import { DeskLink } from '../../shell/lens';
import { Loading, ProblemNote } from '../../shell/states';
import { tellDate, tellDay } from '../../shell/times';
import { words } from '../../words/en';
import { tellAudience } from '../AudienceFields';
import { CollectionDialog } from '../CollectionDialog';
import { TileDialog } from '../TileDialog';
import { FrontPageDialog } from './FrontPageDialog';
import { Sortable } from './Outline';
import { type Arranging, movesTo, moveTiles, offering, takingOut } from './useArranging';
import { useCarry } from './useCarry';

type Collection = Schemas['CollectionView'];
type Tile = Schemas['CuratedTile'];

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

/** The names behind a count. */
function Names({
  collection,
  draft,
  opens,
  tile,
  title,
  onClose,
}: {
  collection: string;
  draft: string | undefined;
  opens: string | undefined;
  tile: string | undefined;
  title: string;
  onClose: () => void;
}) {
  const names = useQuery({
    queryKey: ['curated', 'names', collection, draft, opens, tile],
    queryFn: () =>
      answer(
        api.GET('/api/collections/{id}/people', {
          params: { path: { id: collection }, query: { opens, tile, draft } },
        }),
      ),
  });
  return (
    <section className="sheet names" aria-label={title}>
      <div className="bar">
        <b>{title}</b>
        <span className="grow" />
        <Button size="sm" variant="link" onClick={onClose}>
          {words.arrange.close}
        </Button>
      </div>
      <ProblemNote error={names.error} />
      {names.data === undefined ? (
        <Loading what={title} lines={3} />
      ) : (
        <>
          <ul className="plain small">
            {names.data.lines.map((person) => (
              <li key={person.id}>
                <DeskLink to={`/desk/people/${person.id}`}>{person.familyFirst}</DeskLink>{' '}
                <span className="dim">{person.unit}</span>
              </li>
            ))}
          </ul>
          {names.data.total > names.data.lines.length && (
            <p className="small dim">
              {words.arrange.notNamed(
                names.data.total - names.data.lines.length,
                names.data.total - names.data.seen,
              )}
            </p>
          )}
        </>
      )}
    </section>
  );
}

function days({ from, until }: { from: string | null; until: string | null }): string {
  return words.arrange.shownDays(
    from === null ? null : tellDay(from),
    until === null ? null : tellDay(until),
  );
}

/** What is wrong with a tile. */
export function Flags({ tile }: { tile: Tile }) {
  return tile.flags.map((flag) => (
    <span key={flag} className="tag wait" title={words.arrange.flagsLong[flag]?.(tile.app.name)}>
      {words.arrange.flags[flag] ?? flag}
    </span>
  ));
}

/** What can be known and done about a tile. */
export function TileMargin({
  tile,
  collections,
  may,
  arranging,
  onCollection,
  onBack,
}: {
  tile: Tile;
  collections: Collection[];
  may: boolean;
  arranging: Arranging;
  onCollection: (id: string) => void;
  onBack: () => void;
}) {
  const [editing, setEditing] = useState(false);
  const [ending, setEnding] = useState(false);
  const lying = collections.filter((one) => one.places.some((place) => place.tile === tile.id));
  const open = collections.filter((one) => one.mayArrange && !lying.includes(one));
  return (
    <>
      <Button variant="link" size="sm" onClick={onBack}>
        {words.curate.allTiles}
      </Button>
      <div className="bar room-above room-below">
        <Picture name={tile.picture} hue={tile.hue} />
        <div>
          <h2 className="flush" dir="auto">
            {tile.name}
          </h2>
          <span className="dim small" dir="auto">
            {tile.line}
          </span>
        </div>
      </div>
      {tile.flags.map((flag) => (
        <div key={flag} className="note wait small">
          {words.arrange.flagsLong[flag]?.(tile.app.name) ?? flag}
        </div>
      ))}
      <dl className="pair">
        <dt>{words.curate.app}</dt>
        <dd>
          <DeskLink to={`/desk/apps/${tile.app.id}`}>{tile.app.name}</DeskLink>
          <div className="mono small wrap">{tile.leads}</div>
        </dd>
        <dt>{words.curate.needs}</dt>
        <dd>
          {tile.needs.length === 0
            ? words.arrange.needsNothing(tellAudience(tile.audience))
            : tile.needs.map((need, index) => (
                <span key={need.id}>
                  {index > 0 && words.requests.or}
                  <DeskLink to={`/desk/entitlements/${need.id}`}>{need.name}</DeskLink>
                </span>
              ))}
        </dd>
        <dt>{words.curate.canOpen}</dt>
        <dd>{words.groups.people(tile.holders)}</dd>
        {(tile.from !== null || tile.until !== null) && (
          <>
            <dt>{words.arrange.shown}</dt>
            <dd>{days(tile)}</dd>
          </>
        )}
        <dt>{words.curate.opened}</dt>
        <dd>{words.curate.openings(tile.openings)}</dd>
        <dt>{words.curate.liesIn}</dt>
        <dd>
          {lying.length === 0
            ? words.curate.nowhereLong
            : lying.map((one, index) => (
                <span key={one.id}>
                  {index > 0 && ', '}
                  <button
                    type="button"
                    className="btn btn-link"
                    onClick={() => onCollection(one.id)}
                  >
                    {one.name}
                  </button>
                </span>
              ))}
        </dd>
        <dt>{words.curate.address}</dt>
        <dd>
          <code className="wrap">/go/{tile.id}</code>
        </dd>
      </dl>
      {open.length > 0 && (
        <Form.Select
          size="sm"
          aria-label={words.arrange.putInto(tile.name)}
          value=""
          disabled={arranging.pending}
          onChange={(event) => {
            const into = open.find((one) => one.id === event.target.value);
            if (into !== undefined) {
              arranging.edit(
                moveTiles(
                  into.id,
                  movesTo(into.places, [tile.id], into.places.at(-1)?.tile ?? null, false),
                ),
              );
            }
          }}
        >
          <option value="">{words.arrange.putIntoOne}</option>
          {open.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </Form.Select>
      )}
      {may && (
        <div className="bar room-above">
          <Button variant="outline-primary" size="sm" onClick={() => setEditing(true)}>
            {words.curate.changeTile}
          </Button>
          <Button
            variant="outline-danger"
            size="sm"
            disabled={arranging.pending}
            onClick={() => {
              if (ending) {
                arranging.edit(() =>
                  answer(api.DELETE('/api/tiles/{id}', { params: { path: { id: tile.id } } })),
                );
                onBack();
              } else {
                setEnding(true);
              }
            }}
          >
            {ending ? words.curate.endTileReally(tile.name, lying.length) : words.curate.endTile}
          </Button>
        </div>
      )}
      {editing && <TileDialog app={tile.app.id} tile={tile} onClose={() => setEditing(false)} />}
    </>
  );
}

/** All tiles, to be found by name; those that lie in no collection can be had alone. */
export function AllTiles({ tiles, onTile }: { tiles: Tile[]; onTile: (tile: string) => void }) {
  const [text, setText] = useState('');
  const [homeless, setHomeless] = useState(false);
  const wanted = text.trim().toLowerCase();
  const shown = tiles.filter(
    (tile) =>
      (wanted === '' || tile.name.toLowerCase().includes(wanted)) &&
      (!homeless || (tile.collections === 0 && tile.holders > 0)),
  );
  return (
    <>
      <h2>{words.curate.tiles}</h2>
      <p className="dim small">{words.curate.tilesHelp}</p>
      <Form.Control
        type="text"
        size="sm"
        aria-label={words.arrange.findTile}
        placeholder={words.arrange.findTile}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Form.Check
        type="checkbox"
        id="homeless"
        label={words.arrange.homelessOnly}
        checked={homeless}
        onChange={(event) => setHomeless(event.target.checked)}
      />
      <ul className="plain tile-list">
        {shown.map((tile) => (
          <li key={tile.id}>
            <button type="button" className="choose" onClick={() => onTile(tile.id)}>
              <Picture name={tile.picture} hue={tile.hue} size={24} />
              <span dir="auto">{tile.name}</span>
            </button>
            <span>
              {tile.collections === 0 && <span className="tag wait">{words.curate.nowhere}</span>}
              <Flags tile={tile} />
            </span>
            <span className="mono dim" title={words.curate.openings(tile.openings)}>
              {words.count(tile.openings)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What can be known and done about a front page. */
export function PageMargin({
  page,
  collections,
  may,
  arranging,
  editsHere,
}: {
  page: Schemas['FrontPageView'];
  collections: Collection[];
  may: boolean;
  arranging: Arranging;
  editsHere: ReactNode;
}) {
  const [editing, setEditing] = useState(false);
  const name = (id: string) => collections.find((one) => one.id === id)?.name ?? '';
  return (
    <>
      <div className="dim small">{words.arrange.page}</div>
      <h2>{page.everyones ? words.arrange.everyonesPage : page.name}</h2>
      <dl className="pair">
        <dt>{words.arrange.pageAudience}</dt>
        <dd>{page.everyones ? words.arrange.everyoneElse : tellAudience(page.audience)}</dd>
        <dt>{words.arrange.meetsIt}</dt>
        <dd>{words.groups.people(page.people)}</dd>
        {page.notice !== null && (
          <>
            <dt>{words.arrange.noticeTitle}</dt>
            <dd>
              {page.notice.text}
              <div className="small dim">{days(page.notice)}</div>
            </dd>
          </>
        )}
      </dl>
      <Seen page={page.id} />
      {page.waves.length > 0 && (
        <>
          <h3>{words.arrange.waves}</h3>
          <ol className="small">
            {page.waves.map((wave) => (
              <li key={`${wave.from}${tellAudience(wave.audience)}`}>
                {words.arrange.wave(
                  tellAudience(wave.audience),
                  wave.from === null ? '' : tellDay(wave.from),
                )}{' '}
                <span className="tag">
                  {wave.begun ? words.arrange.begun : words.arrange.toCome}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
      {may && (
        <Button size="sm" variant="outline-primary" onClick={() => setEditing(true)}>
          {words.groups.edit}
        </Button>
      )}
      <h3>{words.arrange.itsCollections}</h3>
      <p className="small dim">
        {page.only ? words.arrange.onlyThese : words.arrange.othersByName}
      </p>
      <ol className="small named">
        {page.named.map((one) => (
          <li key={one.id}>
            {name(one.id)}
            {may && (
              <>
                {' · '}
                <button
                  type="button"
                  className="btn btn-link small"
                  aria-label={`${words.arrange.takeOff}: ${name(one.id)}`}
                  disabled={arranging.pending}
                  onClick={() =>
                    arranging.edit(() =>
                      answer(
                        api.PUT('/api/front-pages/{id}/collections', {
                          params: { path: { id: page.id } },
                          body: {
                            moves: [{ collection: one.id, base: one.rank, off: true, after: null }],
                          },
                        }),
                      ),
                    )
                  }
                >
                  {words.arrange.takeOff}
                </button>
              </>
            )}
          </li>
        ))}
      </ol>
      {page.named.length === 0 && <p className="small">{words.arrange.noneNamed}</p>}
      {editsHere}
      {editing && <FrontPageDialog page={page} onClose={() => setEditing(false)} />}
    </>
  );
}

/** How many have met a page since it was changed last. */
function Seen({ page }: { page: string }) {
  const seen = useQuery({
    queryKey: ['seen', page],
    queryFn: () =>
      answer(api.GET('/api/front-pages/{id}/seen', { params: { path: { id: page } } })),
    // A page that only the draft has is met by nobody yet.
    retry: false,
  });
  return seen.data === undefined ? null : (
    <p className="small">
      {words.arrange.seen(seen.data.seen, seen.data.of, tellDate(seen.data.since))}
    </p>
  );
}
