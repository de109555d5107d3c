import { DndContext, DragOverlay, pointerWithin, useDraggable, useDroppable } from '@dnd-kit/core';
import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import type { Schemas } from '../../api/client';
import { words } from '../../words/en';
import { tellAudience } from '../AudienceFields';
import { Free } from './Preview';
import { type Carry, placeId, useCarry } from './useCarry';

type Curated = Schemas['CuratedView'];
type Page = Schemas['FrontPageView'];

/** Collections as a front page has them, and the front pages: each to be chosen and moved. */
export function Outline({
  curated,
  page,
  edits,
  busy,
  chosen,
  onCollection,
  onPage,
  onTiles,
  onMakeCollection,
  onMakePage,
  onMoveCollection,
  onMovePage,
}: {
  curated: Curated;
  /** The page in whose order the collections stand; an owner of some has none. */
  page: Page | undefined;
  /** How many edits of the open draft are about a thing. */
  edits: (thing: string) => number;
  busy: boolean;
  chosen: string;
  onCollection: (id: string) => void;
  onPage: (id: string) => void;
  onTiles: () => void;
  onMakeCollection: () => void;
  onMakePage: () => void;
  onMoveCollection: (id: string, after: string | null) => void;
  onMovePage: (id: string, after: string | null) => void;
}) {
  const { collections, tiles, pages, mayArrange } = curated;
  const order = page === undefined ? collections.map((one) => one.id) : page.order;
  const shown = order.filter((id) => collections.some((one) => one.id === id));
  const rest = collections.filter((one) => !shown.includes(one.id));
  const homeless = tiles.filter((tile) => tile.collections === 0 && tile.holders > 0);
  const title = (one: Page) => (one.everyones ? words.arrange.everyonesPage : one.name);
  const name = (id: string) =>
    collections.find((one) => one.id === id)?.name ??
    pages.filter((one) => one.id === id).map(title)[0] ??
    words.arrange.theList;
  const lists = [{ id: 'collections', items: shown }];
  const carry = useCarry({
    lists,
    upright: true,
    name,
    busy,
    onDrop: (carried, after) => onMoveCollection(carried.items[0] ?? '', after),
  });
  const movable = pages.filter((one) => !one.everyones).map((one) => one.id);
  const carryPage = useCarry({
    lists: [{ id: 'pages', items: movable }],
    upright: true,
    name,
    busy,
    onDrop: (carried, after) => onMovePage(carried.items[0] ?? '', after),
  });
  return (
    <aside className="outline" aria-label={words.arrange.outline}>
      <div className="bar">
        <h2>{words.arrange.collections}</h2>
        <span className="grow" />
        {mayArrange && (
          <Button
            size="sm"
            variant="outline-primary"
            aria-label={words.arrange.makeCollection}
            onClick={onMakeCollection}
          >
            {words.arrange.make}
          </Button>
        )}
      </div>
      {page !== undefined && pages.length > 1 && (
        <p className="small dim">{words.arrange.asOn(title(page))}</p>
      )}
      <Sortable
        carry={carry}
        list="collections"
        items={shown}
        may={mayArrange && page !== undefined}
        name={name}
      >
        {(id) => {
          const one = collections.find((each) => each.id === id);
          return one === undefined ? null : (
            <OneCollection
              collection={one}
              byName={page !== undefined && !page.named.some((each) => each.id === id)}
              edits={edits(id)}
              chosen={chosen === id}
              onChoose={() => onCollection(id)}
            />
          );
        }}
      </Sortable>
      {rest.length > 0 && (
        <>
          <p className="small dim">{words.arrange.leftOut}</p>
          <ul className="plain items">
            {rest.map((one) => (
              <li key={one.id} className={chosen === one.id ? 'chosen' : undefined}>
                <OneCollection
                  collection={one}
                  byName={false}
                  edits={edits(one.id)}
                  chosen={chosen === one.id}
                  onChoose={() => onCollection(one.id)}
                />
                {mayArrange && (
                  <Button
                    size="sm"
                    variant="link"
                    onClick={() => onMoveCollection(one.id, shown.at(-1) ?? null)}
                  >
                    {words.arrange.putOn}
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="small dim">
        {homeless.length > 0 && `${words.arrange.homeless(homeless.length)} `}
        <button type="button" className="btn btn-link small" onClick={onTiles}>
          {words.arrange.allTiles(tiles.length)}
        </button>
      </p>
      {pages.length > 0 && (
        <>
          <div className="bar">
            <h2>{words.arrange.pages}</h2>
            <span className="dim small">{words.arrange.firstThatFits}</span>
            <span className="grow" />
            {mayArrange && (
              <Button
                size="sm"
                variant="outline-primary"
                aria-label={words.arrange.makePageShort}
                onClick={onMakePage}
              >
                {words.arrange.make}
              </Button>
            )}
          </div>
          <Sortable carry={carryPage} list="pages" items={movable} may={mayArrange} name={name}>
            {(id, index) => {
              const one = pages.find((each) => each.id === id);
              return one === undefined ? null : (
                <OnePage
                  page={one}
                  number={index + 1}
                  title={title(one)}
                  edits={edits(id)}
                  chosen={chosen === id}
                  onChoose={() => onPage(id)}
                />
              );
            }}
          </Sortable>
          {pages
            .filter((one) => one.everyones)
            .map((one) => (
              <div key={one.id} className={`item${chosen === one.id ? ' chosen' : ''}`}>
                <OnePage
                  page={one}
                  number={pages.length}
                  title={title(one)}
                  edits={edits(one.id)}
                  chosen={chosen === one.id}
                  onChoose={() => onPage(one.id)}
                />
              </div>
            ))}
        </>
      )}
    </aside>
  );
}

function OneCollection({
  collection,
  byName,
  edits,
  chosen,
  onChoose,
}: {
  collection: Schemas['CollectionView'];
  byName: boolean;
  edits: number;
  chosen: boolean;
  onChoose: () => void;
}) {
  return (
    <button type="button" className="choose" aria-pressed={chosen} onClick={onChoose}>
      <span className="head">
        <b>{collection.name}</b>
        {edits > 0 && <span className="tag">{words.drafts.edits(edits)}</span>}
        {collection.owners.length === 0 && (
          <span className="tag wait">{words.arrange.noOwner}</span>
        )}
      </span>
      <span className="small dim">
        {words.arrange.tiles(collection.places.length)} ·{' '}
        {collection.audience.everyone
          ? words.curate.everyone
          : words.groups.people(collection.audience.people)}
        {byName && ` · ${words.arrange.byName}`}
      </span>
    </button>
  );
}

function OnePage({
  page,
  number,
  title,
  edits,
  chosen,
  onChoose,
}: {
  page: Page;
  number: number;
  title: string;
  edits: number;
  chosen: boolean;
  onChoose: () => void;
}) {
  return (
    <button type="button" className="choose page-line" aria-pressed={chosen} onClick={onChoose}>
      <span className="mono">{number}</span>
      <span>
        <span className="head">
          <b>{title}</b>
          {edits > 0 && <span className="tag">{words.drafts.edits(edits)}</span>}
        </span>
        <span className="small dim">
          {!page.everyones && `${tellAudience(page.audience)} · `}
          {words.arrange.meet(page.people)}
        </span>
      </span>
    </button>
  );
}

/** A list whose things can be taken up and put elsewhere, by mouse, touch and keys. */
export function Sortable({
  carry,
  list,
  items,
  may,
  name,
  children,
}: {
  carry: Carry;
  list: string;
  items: readonly string[];
  /** Whether the reader may put them elsewhere. */
  may: boolean;
  name: (id: string) => string;
  children: (id: string, index: number) => ReactNode;
}) {
  return (
    <DndContext {...carry.context} collisionDetection={pointerWithin}>
      <ol className="plain items">
        {carry.shown(list, items).map((id, index) =>
          id === null ? (
            <Free key="free" list={list} />
          ) : (
            <Item key={id} carry={carry} list={list} id={id} may={may} name={name(id)}>
              {children(id, index)}
            </Item>
          ),
        )}
      </ol>
      <DragOverlay dropAnimation={null}>
        {carry.carried !== undefined && (
          <div className="sheet flying">{carry.carried.items.map(name).join(', ')}</div>
        )}
      </DragOverlay>
      <div className="visually-hidden" role="status" aria-live="assertive">
        {carry.said}
      </div>
    </DndContext>
  );
}

function Item({
  carry,
  list,
  id,
  may,
  name,
  children,
}: {
  carry: Carry;
  list: string;
  id: string;
  may: boolean;
  name: string;
  children: ReactNode;
}) {
  const place = placeId(list, id);
  const drag = useDraggable({ id: place, disabled: !may });
  const drop = useDroppable({ id: place });
  return (
    <li
      className={carry.carried?.items.includes(id) ? 'carried' : undefined}
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
    >
      {may && (
        <button
          type="button"
          className="grip"
          aria-label={words.arrange.take(name)}
          aria-describedby="carry-help"
          data-place={place}
          {...drag.listeners}
          onKeyDown={carry.onKeyDown(list, id)}
        >
          <span aria-hidden>⠿</span>
        </button>
      )}
      {children}
    </li>
  );
}
