import { DndContext, DragOverlay, pointerWithin, useDraggable, useDroppable } from '@dnd-kit/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../../api/client';
import { Uploaded } from '../../pictures/Picture';
import { useAddress } from '../../shell/addresses';
import { PageHeading } from '../../shell/PageHeading';
import { useSession } from '../../shell/session';
import { Empty, Failure, Loading } from '../../shell/states';
import { words } from '../../words/en';
import { HandsOn, Shelves, TileFace } from '../Shelves';
import { type Carry, FREE, placeId } from './useCarry';

type PreviewView = Schemas['PortalPreview'];
type Tile = Schemas['TileView'];

const DEVICES = { laptop: 1180, tablet: 768, phone: 390 } as const;
type Device = keyof typeof DEVICES;

/** Whose front page the preview shows: of a person, of somebody typical, of nobody in particular. */
export function useWhose(): Schemas['PortalPreviewForm'] {
  const [get] = useAddress();
  const { signed, has } = useSession();
  const draft = null;
  if (!has('portal.preview')) {
    // Whoever arranges something sees it at least as they meet it themselves.
    return { as: 'person', person: signed.person, unit: null, draft };
  }
  if (get('unit') !== '') {
    return { as: 'typical', unit: get('unit'), person: null, draft };
  }
  return get('as') === 'nothing'
    ? { as: 'nothing', person: null, unit: null, draft }
    : { as: 'person', person: get('person') || signed.person, unit: null, draft };
}

export function usePreview(draft: string | undefined, enabled: boolean) {
  const whose = useWhose();
  return useQuery({
    queryKey: ['preview', whose, draft],
    queryFn: () => answer(api.POST('/api/previews', { body: { ...whose, draft: draft ?? null } })),
    enabled,
    placeholderData: keepPreviousData,
  });
}

/** The front page as somebody meets it, in which tiles can be taken up. */
export function Preview({
  preview,
  carry,
  may,
  chosen,
  marked,
  tools,
  onTile,
  onMark,
  onTakeOut,
  onCollection,
}: {
  preview: ReturnType<typeof usePreview>;
  carry: Carry;
  /** Whether a collection may be arranged. */
  may: (collection: string) => boolean;
  chosen: { collection: string; tile: string };
  marked: readonly string[];
  tools: ReactNode;
  onTile: (collection: string, tile: string) => void;
  onMark: (collection: string, tile: string) => void;
  onTakeOut: (collection: string, tile: string) => void;
  onCollection: (collection: string) => void;
}) {
  const [get, set] = useAddress();
  const { organisation } = useSession();
  const device: Device =
    get('device') === 'phone' ? 'phone' : get('device') === 'tablet' ? 'tablet' : 'laptop';
  const data = preview.data;
  const tiles = new Map<string, Tile>();
  for (const section of data?.page.sections ?? []) {
    for (const tile of section.tiles) {
      tiles.set(tile.id, tile);
    }
  }
  return (
    <section className="stage" aria-labelledby="preview-title">
      <div className="bar">
        <PageHeading id="preview-title" title={words.curate.title}>
          {words.arrange.preview}
        </PageHeading>
        <Whose data={data} />
        <span className="grow" />
        <ButtonGroup aria-label={words.arrange.device}>
          {(['laptop', 'tablet', 'phone'] as const).map((one) => (
            <Button
              key={one}
              size="sm"
              variant="outline-primary"
              active={device === one}
              aria-pressed={device === one}
              onClick={() => set({ device: one === 'laptop' ? '' : one })}
            >
              {words.arrange.devices[one]}
            </Button>
          ))}
        </ButtonGroup>
        {tools}
      </div>
      {preview.error ? (
        <Failure error={preview.error} again={() => preview.refetch()} />
      ) : data === undefined ? (
        <Loading what={words.arrange.preview} lines={10} />
      ) : (
        <DndContext {...carry.context} collisionDetection={pointerWithin}>
          <div className={`preview ${device}`} data-device={device}>
            <div className="portal inert" style={{ maxWidth: DEVICES[device] }}>
              <div className="band" style={{ background: data.brand.band }}>
                <div className="top">
                  <span className="org">
                    {data.brand.mark !== '' && <Uploaded word={data.brand.mark} size={28} />}
                    {data.organisation || organisation}
                  </span>
                  <span className="greet">
                    {data.person === null
                      ? words.arrange.nobodyInParticular
                      : words.me.greeting(data.given)}
                  </span>
                </div>
              </div>
              <div className={`page form-${data.brand.form}${data.brand.tight ? ' tight' : ''}`}>
                {data.page.notice !== '' && (
                  <div className="notice" dir="auto">
                    {data.page.notice}
                  </div>
                )}
                {data.page.sections.length === 0 && (
                  <Empty title={words.portal.empty}>{words.portal.emptyHelp}</Empty>
                )}
                <HandsOn
                  value={{
                    places: (section) =>
                      section.id === null
                        ? section.tiles
                        : carry
                            .shown(
                              section.id,
                              section.tiles.map((tile) => tile.id),
                            )
                            .map((id) => (id === null ? null : (tiles.get(id) ?? null))),
                    free: (section) => <Free list={section.id ?? ''} />,
                    heading: (section, inside) =>
                      section.id === null ? (
                        inside
                      ) : (
                        <button
                          type="button"
                          className="choose heading"
                          aria-pressed={chosen.collection === section.id}
                          onClick={() => onCollection(section.id ?? '')}
                        >
                          {inside}
                        </button>
                      ),
                    shelf: (section, inside) => (
                      <Shelf id={section.id} chosen={chosen.collection === section.id}>
                        {inside}
                      </Shelf>
                    ),
                    tile: (section, tile, inside, className) => (
                      <HeldTile
                        list={section.id}
                        tile={tile}
                        className={className}
                        may={section.id !== null && may(section.id)}
                        carry={carry}
                        chosen={chosen.tile === tile.id && chosen.collection === section.id}
                        marked={marked.includes(tile.id) && chosen.collection === section.id}
                        onChoose={() => onTile(section.id ?? '', tile.id)}
                        onMark={() => onMark(section.id ?? '', tile.id)}
                        onTakeOut={() => onTakeOut(section.id ?? '', tile.id)}
                      >
                        {inside}
                      </HeldTile>
                    ),
                  }}
                >
                  <Shelves sections={data.page.sections} />
                </HandsOn>
              </div>
            </div>
          </div>
          <DragOverlay dropAnimation={null}>
            {carry.carried !== undefined && (
              <Flying
                tiles={carry.carried.items.flatMap((id) => {
                  const tile = tiles.get(id);
                  return tile === undefined ? [] : [tile];
                })}
              />
            )}
          </DragOverlay>
        </DndContext>
      )}
      <div className="visually-hidden" role="status" aria-live="assertive">
        {carry.said}
      </div>
    </section>
  );
}

/** Where what is carried would be put down. */
export function Free({ list }: { list: string }) {
  const { setNodeRef } = useDroppable({ id: placeId(list, FREE) });
  return (
    <li ref={setNodeRef} className="free">
      {words.arrange.here}
    </li>
  );
}

/** What is under the pointer while it is dragged. */
export function Flying({ tiles }: { tiles: Tile[] }) {
  const first = tiles[0];
  return first === undefined ? null : (
    <div className="tile flying">
      <TileFace tile={first} />
      {tiles.length > 1 && <span className="tag">{words.arrange.and(tiles.length - 1)}</span>}
    </div>
  );
}

function Shelf({
  id,
  chosen,
  children,
}: {
  id: string | null;
  chosen: boolean;
  children: ReactNode;
}) {
  const { setNodeRef } = useDroppable({ id: placeId(id ?? 'also', null), disabled: id === null });
  return (
    <div ref={setNodeRef} className={chosen ? 'chosen-shelf' : undefined}>
      {children}
    </div>
  );
}

function HeldTile({
  list,
  tile,
  className,
  may,
  carry,
  chosen,
  marked,
  onChoose,
  onMark,
  onTakeOut,
  children,
}: {
  list: string | null;
  tile: Tile;
  className: string;
  may: boolean;
  carry: Carry;
  chosen: boolean;
  marked: boolean;
  onChoose: () => void;
  onMark: () => void;
  onTakeOut: () => void;
  children: ReactNode;
}) {
  const id = placeId(list ?? 'also', tile.id);
  const drag = useDraggable({ id, disabled: !may });
  const drop = useDroppable({ id, disabled: list === null });
  return (
    <button
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      type="button"
      className={`${className}${chosen ? ' chosen' : ''}${marked ? ' marked' : ''}${
        carry.carried?.items.includes(tile.id) && carry.carried.list === list ? ' carried' : ''
      }`}
      aria-pressed={marked}
      data-place={id}
      aria-describedby={may ? 'carry-help' : undefined}
      {...drag.listeners}
      onClick={(event) => {
        if (event.ctrlKey || event.metaKey || event.shiftKey) {
          onMark();
        } else {
          onChoose();
        }
      }}
      onKeyDown={(event) => {
        if (may && list !== null) {
          if (event.key.toLowerCase() === 'x' && carry.carried === undefined) {
            onMark();
          } else if (event.key === 'Delete' && carry.carried === undefined) {
            onTakeOut();
          } else {
            carry.onKeyDown(list, tile.id)(event);
          }
        }
      }}
    >
      {children}
    </button>
  );
}

/** Who is looked at, which page they meet, and why. */
function Whose({ data }: { data: PreviewView | undefined }) {
  const [, set] = useAddress();
  const { has } = useSession();
  const [open, setOpen] = useState(false);
  return (
    <span className="whose">
      <Button
        variant="outline-primary"
        size="sm"
        disabled={!has('portal.preview')}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <b>
          {data === undefined
            ? words.shell.loading(words.arrange.preview)
            : data.person === null
              ? words.arrange.holdsNothing
              : data.person.familyFirst}
        </b>{' '}
        {data !== undefined && (
          <span className="dim">{words.arrange.pageOf(data.place, data.pages)}</span>
        )}
      </Button>
      {data !== undefined && (
        <span className="small dim why">
          {words.arrange.why[data.why.kind]?.(data.why.name) ?? ''}
          {data.like !== null &&
            data.of !== null &&
            ` ${words.arrange.typical(data.like, data.of)}`}
        </span>
      )}
      {open && (
        <Choose
          onChoose={(changes) => {
            setOpen(false);
            set({ person: '', unit: '', as: '', ...changes });
          }}
        />
      )}
    </span>
  );
}

/** Finds somebody by any part of their name. */
export function ChoosePerson({
  onChoose,
  auto = false,
}: {
  onChoose: (id: string) => void;
  auto?: boolean;
}) {
  const [text, setText] = useState('');
  const found = useQuery({
    queryKey: ['find', text.trim()],
    queryFn: () => answer(api.GET('/api/find', { params: { query: { text: text.trim() } } })),
    enabled: text.trim() !== '',
    placeholderData: keepPreviousData,
  });
  return (
    <>
      <Form.Control
        autoFocus={auto}
        type="text"
        autoComplete="off"
        aria-label={words.arrange.findPerson}
        placeholder={words.arrange.findPerson}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {text.trim() !== '' && (
        <ul className="plain">
          {(found.data?.people ?? []).slice(0, 8).map((person) => (
            <li key={person.id}>
              <button
                type="button"
                className="choose"
                onClick={() => {
                  setText('');
                  onChoose(person.id);
                }}
              >
                {person.familyFirst} <span className="dim small">{person.unit}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Choose({ onChoose }: { onChoose: (changes: Record<string, string>) => void }) {
  const units = useQuery({
    queryKey: ['curated', undefined, undefined],
    queryFn: () => answer(api.GET('/api/portal', { params: { query: {} } })),
  });
  return (
    <div className="sheet choosing">
      <ChoosePerson auto onChoose={(person) => onChoose({ person })} />
      <Form.Select
        size="sm"
        aria-label={words.arrange.typicalOf}
        value=""
        onChange={(event) => onChoose({ unit: event.target.value })}
      >
        <option value="">{words.arrange.typicalOf}</option>
        {(units.data?.units ?? []).map((unit) => (
          <option key={unit}>{unit}</option>
        ))}
      </Form.Select>
      <Button variant="link" size="sm" onClick={() => onChoose({ as: 'nothing' })}>
        {words.arrange.holdsNothing}
      </Button>
    </div>
  );
}
