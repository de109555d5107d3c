import { type UseQueryResult, useQueries } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type CSSProperties,
  type KeyboardEvent,
  type MouseEvent,
  memo,
  useCallback,
  useEffect,
  useRef,
  useState,
} from 'react';
import { GroundSign, tellSign } from '../access/Grounds';
import { answer, api, type Schemas } from '../api/client';
import { Empty, Failure, Loading } from '../shell/states';
import { words } from '../words/en';
import { type Asked, type Shape, type Told, toldOf } from './asked';
import {
  BLOCK,
  type Block,
  type Cell,
  CHUNK,
  Known,
  moved,
  type Names,
  type Piece,
  type RowHead,
  side,
  signs,
  within,
} from './cells';

const ROW = 32;
const COLUMN = 46;
/** A phone has less room for names; rows scroll along below each other all the same. */
const HEAD = window.innerWidth <= 600 ? 128 : 208;
const TOP = 118;
const FOOT = 30;
const PAGE = 12;

/** What is marked, in the layout in which it has these places. */
export type Placed = { piece: Piece | undefined; laid: string };

export type Sizes = { people: number; held: number; rows: number; columns: number };

/**
 * The map: only what is in sight is drawn and asked for. One place has the focus; arrows move it,
 * with Shift they mark a block, Enter opens a row.
 */
export function MapGrid({
  asked,
  shape,
  laid,
  placed,
  onMark,
  onOpen,
  onSizes,
  corner,
  marked,
}: {
  asked: Asked;
  shape: Shape;
  /** Tells one layout of rows and columns from another. */
  laid: string;
  placed: Placed | undefined;
  onMark: (placed: Placed, known: Known) => void;
  onOpen: (head: RowHead, piece: Piece | undefined, known: Known) => void;
  onSizes: (sizes: Sizes) => void;
  /** What the rows are. */
  corner: string;
  /** What the address marks. */
  marked: Names;
}) {
  const told = toldOf(asked);
  const scroller = useRef<HTMLDivElement>(null);
  const sizes = useRef<Sizes>({ people: 0, held: 0, rows: 0, columns: 0 });
  const dragging = useRef<Piece>(undefined);
  const acting = useRef<Acting>(undefined);
  const [stable] = useState<Acting>(() => ({
    head: (...all) => acting.current?.head(...all),
  }));
  const rows = useVirtualizer({
    count: sizes.current.rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 6,
    paddingStart: TOP,
    paddingEnd: FOOT,
    scrollPaddingStart: TOP,
    scrollPaddingEnd: FOOT,
    initialRect: { width: 1000, height: 600 },
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: sizes.current.columns,
    getScrollElement: () => scroller.current,
    estimateSize: () => COLUMN,
    overscan: 4,
    paddingStart: HEAD,
    scrollPaddingStart: HEAD,
    initialRect: { width: 1000, height: 600 },
  });
  const rowItems = rows.getVirtualItems();
  const columnItems = columns.getVirtualItems();
  // What comes takes the place of what goes: where nothing is put in, a browser styles nothing anew.
  const most = useRef({ rows: 1, columns: 1 });
  most.current = {
    rows: Math.max(most.current.rows, rowItems.length),
    columns: Math.max(most.current.columns, columnItems.length),
  };
  const pools = most.current;
  const rowBlocks = blocks(rowItems.map((item) => item.index));
  const columnBlocks = blocks(columnItems.map((item) => item.index));
  const wanted = rowBlocks.flatMap((row) => columnBlocks.map((column) => ({ row, column })));
  const places = wanted.map(({ row, column }) => `${row} ${column}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the places say it all
  const combine = useCallback(
    (answers: UseQueryResult<Schemas['MapView']>[]) => ({
      known: new Known(
        wanted.flatMap(({ row, column }, index) => {
          const view = answers[index]?.data;
          return view === undefined ? [] : [{ row: row * BLOCK, column: column * BLOCK, view }];
        }),
      ),
      first: answers.find((one) => one.data !== undefined)?.data,
      failed: answers.find((one) => one.error !== null),
    }),
    [places],
  );
  const {
    known: come,
    first,
    failed,
  } = useQueries({
    queries: wanted.map(({ row, column }) => ({
      queryKey: ['holdings-map', asked, shape, row, column],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        answer(
          api.GET('/api/holdings/map', {
            params: {
              query: {
                ...asked,
                ...shape,
                row: row * BLOCK,
                size: BLOCK,
                column: column * BLOCK,
                width: BLOCK,
              },
            },
            signal,
          }),
        ),
    })),
    combine,
  });
  if (first !== undefined) {
    const { people, held } = first;
    sizes.current = { people, held, rows: first.rows, columns: first.columns };
  }
  const { people, held, rows: rowCount, columns: columnCount } = sizes.current;
  // Until something of another layout has come, the one before stands, and the keyboard stays in it.
  const before = useRef<{ known: Known; laid: string }>(undefined);
  const drawn =
    first !== undefined || before.current?.laid === laid ? { known: come, laid } : before.current;
  if (first !== undefined) {
    before.current = drawn;
  }
  const known = drawn?.known ?? come;
  const piece = placed?.laid === drawn?.laid ? placed?.piece : undefined;
  // What an address marks is found among what has come, once in each layout.
  const sought = useRef<string>(undefined);
  const mark = (next: Piece | undefined) => {
    sought.current = drawn?.laid;
    onMark({ piece: next, laid: drawn?.laid ?? laid }, known);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: sought anew only when something has come
  useEffect(() => {
    const { keys, person, columns } = marked;
    const nothing = keys === undefined && person === undefined && columns === undefined;
    if (sought.current === laid || drawn?.laid !== laid || nothing || rowCount === 0) {
      return;
    }
    const row =
      keys === undefined && person === undefined
        ? { first: 0, last: rowCount - 1 }
        : known.rowsOf(marked);
    const column =
      columns === undefined ? { first: 0, last: columnCount - 1 } : known.columnsOf(columns);
    if (row !== undefined && column !== undefined) {
      mark({ row: row.first, column: column.first, toRow: row.last, toColumn: column.last });
    }
  }, [known, laid, rowCount, columnCount]);
  useEffect(() => {
    onSizes({ people, held, rows: rowCount, columns: columnCount });
    rows.measure();
    columns.measure();
  }, [people, held, rowCount, columnCount, onSizes, rows, columns]);

  if (failed !== undefined && first === undefined && drawn?.laid !== laid) {
    return <Failure error={failed.error} again={() => failed.refetch()} />;
  }
  if (drawn === undefined) {
    return <Loading what={words.holdings.title} lines={14} />;
  }
  if (rowCount === 0 || columnCount === 0) {
    return <Empty title={words.holdings.nothing}>{words.holdings.nothingHelp}</Empty>;
  }
  const at = piece ?? { row: 0, column: 0, toRow: 0, toColumn: 0 };
  const left = columnItems[0]?.index ?? 0;
  const right = columnItems.at(-1)?.index ?? 0;

  const show = (next: Piece) => {
    rows.scrollToIndex(next.toRow);
    if (next.toColumn >= 0) {
      columns.scrollToIndex(next.toColumn);
    }
  };
  // What is drawn keeps this for as long as it stands, whatever has come meanwhile.
  acting.current = {
    head: (row, head) => {
      onOpen(head, { row, toRow: row, column: -1, toColumn: -1 }, known);
    },
  };
  /** The place under the mouse; nothing over heads and totals. */
  const under = (event: MouseEvent): { row: number; column: number } | undefined => {
    const element = scroller.current;
    if (element === null) {
      return undefined;
    }
    const box = element.getBoundingClientRect();
    const x = event.clientX - box.left;
    const y = event.clientY - box.top;
    const column = Math.floor((x + element.scrollLeft - HEAD) / COLUMN);
    const row = Math.floor((y + element.scrollTop - TOP) / ROW);
    return x < HEAD ||
      y < TOP ||
      y > element.clientHeight - FOOT ||
      row >= rowCount ||
      column >= columnCount
      ? undefined
      : { row, column };
  };
  const onMouseDown = (event: MouseEvent) => {
    const place = event.button === 0 ? under(event) : undefined;
    if (place !== undefined) {
      const from = event.shiftKey ? at : place;
      const next = {
        row: from.row,
        column: from.column,
        toRow: place.row,
        toColumn: place.column,
      };
      dragging.current = next;
      mark(next);
    }
  };
  const onMouseMove = (event: MouseEvent) => {
    const from = dragging.current;
    const place = from === undefined ? undefined : under(event);
    if (
      from !== undefined &&
      place !== undefined &&
      (place.row !== from.toRow || place.column !== from.toColumn)
    ) {
      const next = { ...from, toRow: place.row, toColumn: place.column };
      dragging.current = next;
      mark(next);
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.altKey || event.metaKey) {
      return;
    }
    const head = known.rows.get(at.toRow);
    if (event.key === 'Enter' && head !== undefined) {
      event.preventDefault();
      onOpen(head, piece, known);
      return;
    }
    if (event.key === 'Escape' && piece !== undefined) {
      event.preventDefault();
      mark(undefined);
      return;
    }
    if (event.key === ' ') {
      event.preventDefault();
      // As in any grid: with Shift the whole row, with Control the whole column.
      const whole = event.ctrlKey
        ? { row: 0, toRow: rowCount - 1, column: at.toColumn, toColumn: at.toColumn }
        : event.shiftKey
          ? { row: at.toRow, toRow: at.toRow, column: 0, toColumn: columnCount - 1 }
          : at;
      mark(whole);
      return;
    }
    const next = moved(at, event, { rows: rowCount, columns: columnCount, page: PAGE });
    if (next !== undefined) {
      event.preventDefault();
      mark(next);
      show(next);
    }
  };

  return (
    <>
      {failed !== undefined && (
        <div className="note wait" role="alert">
          {words.shell.partial(failed.error instanceof Error ? failed.error.message : '')}
        </div>
      )}
      <div
        className="map"
        ref={scroller}
        role="grid"
        aria-label={words.holdings.title}
        aria-rowcount={rowCount + 2}
        aria-colcount={columnCount + 1}
        aria-multiselectable
        aria-busy={drawn.laid !== laid}
        aria-activedescendant={
          piece !== undefined &&
          at.toRow >= (rowItems[0]?.index ?? 0) &&
          at.toRow <= (rowItems.at(-1)?.index ?? 0)
            ? placeId(at.toRow, at.toColumn)
            : undefined
        }
        tabIndex={0}
        onKeyDown={onKeyDown}
        onMouseDown={onMouseDown}
        onMouseMove={onMouseMove}
        onMouseUp={() => {
          dragging.current = undefined;
        }}
        onMouseLeave={() => {
          dragging.current = undefined;
        }}
      >
        <div
          className="map-all"
          style={
            {
              height: TOP + rowCount * ROW + FOOT,
              width: HEAD + columnCount * COLUMN + 2,
              '--map-head': `${HEAD}px`,
            } as CSSProperties
          }
        >
          <div className="map-top" role="row" aria-rowindex={1}>
            <div className="map-corner" role="columnheader" aria-colindex={1}>
              <span className="small dim">{corner}</span>
            </div>
            {columnItems.map((item) => (
              <ColumnTop
                key={item.index % pools.columns}
                known={known}
                column={item.index}
                first={item.index === left}
                on={
                  piece !== undefined &&
                  piece.row === 0 &&
                  piece.toRow === rowCount - 1 &&
                  within(piece, 0, item.index)
                }
                onMark={() =>
                  mark({
                    row: 0,
                    toRow: rowCount - 1,
                    column: item.index,
                    toColumn: item.index,
                  })
                }
              />
            ))}
          </div>
          {columnItems
            .filter(
              (item) =>
                known.columns.get(item.index - 1)?.of.id !== known.columns.get(item.index)?.of.id,
            )
            .map((item) => (
              <i
                key={item.index % pools.columns}
                className="map-line"
                style={{ left: item.start }}
              />
            ))}
          {rowItems.map((item) => (
            <MapRow
              key={item.index % pools.rows}
              known={known}
              row={item.index}
              start={item.start}
              first={Math.floor(left / CHUNK)}
              last={Math.floor(right / CHUNK)}
              told={told}
              piece={
                piece !== undefined &&
                item.index >= Math.min(piece.row, piece.toRow) &&
                item.index <= Math.max(piece.row, piece.toRow)
                  ? piece
                  : undefined
              }
              acting={stable}
              seen={columnBlocks
                .map((column) => known.block(item.index, column * BLOCK)?.id ?? 0)
                .join()}
            />
          ))}
          <div className="map-foot" role="row" aria-rowindex={rowCount + 2}>
            <div className="map-head small dim" role="rowheader" aria-colindex={1}>
              {told === 'moves' ? words.holdings.moved : words.holdings.all}
            </div>
            {columnItems.map((item) => (
              <div
                key={item.index % pools.columns}
                role="gridcell"
                aria-colindex={item.index + 2}
                className="mono"
                style={{ left: item.start, width: COLUMN }}
              >
                {short(known.columns.get(item.index)?.count ?? 0)}
              </div>
            ))}
          </div>
        </div>
      </div>
    </>
  );
}

function blocks(indexes: number[]): number[] {
  return [...new Set([0, ...indexes.map((index) => Math.floor(index / BLOCK))])].filter(
    (block) => block > 0 || indexes.length === 0 || (indexes[0] ?? 0) < BLOCK,
  );
}

function placeId(row: number, column: number): string {
  return column < 0 ? `map-r${row}` : `map-${row}-${column}`;
}

/** A number of at most four characters: 999, 12k. */
export function short(n: number): string {
  return n < 10_000 ? words.count(n) : `${Math.round(n / 1000)}k`;
}

const ColumnTop = memo(function ColumnTop({
  known,
  column,
  first,
  on,
  onMark,
}: {
  known: Known;
  column: number;
  first: boolean;
  on: boolean;
  onMark: () => void;
}) {
  const head = known.columns.get(column);
  const begins = head !== undefined && known.columns.get(column - 1)?.of.id !== head.of.id;
  let width = 1;
  while (begins && known.columns.get(column + width)?.of.id === head.of.id) {
    width++;
  }
  // One column is too narrow for the name of its app, which then stands before its own.
  const alone = begins && width === 1;
  return (
    <div
      role="columnheader"
      aria-colindex={column + 2}
      aria-selected={on}
      className={begins ? 'map-column begins' : 'map-column'}
      style={{ left: HEAD + column * COLUMN, width: COLUMN }}
    >
      {head === undefined ? (
        <span className="skeleton" />
      ) : (
        <>
          {(begins || first) && !alone && (
            <span
              className="map-app"
              style={{ width: (begins ? width : 1) * COLUMN }}
              title={head.of.name}
            >
              {head.of.name}
              {head.of.state !== 'open' && (
                <span className="dim"> {words.apps.states[head.of.state]}</span>
              )}
            </span>
          )}
          <button
            type="button"
            tabIndex={-1}
            className={alone ? 'alone' : undefined}
            onClick={onMark}
            title={`${head.of.name} · ${head.name}`}
            aria-label={words.holdings.markColumn(`${head.of.name} ${head.name}`)}
          >
            <span className={head.sensitivity === 'high' ? 'high' : undefined}>
              {alone && <b>{head.of.name} </b>}
              {head.name}
            </span>
          </button>
        </>
      )}
    </div>
  );
});

type Acting = { head: (row: number, head: RowHead) => void };

/** A row with the pieces of it that are in sight; drawn anew only where something of it is new. */
const MapRow = memo(
  function MapRow({ known, row, start, first, last, told, piece, acting }: RowProps) {
    const head = known.rows.get(row);
    const chunks = Array.from({ length: last - first + 1 }, (_, index) => first + index);
    return (
      <div
        role="row"
        aria-rowindex={row + 2}
        className={`map-row ${head?.kind ?? ''}`}
        style={{ transform: `translateY(${start}px)` }}
      >
        <div
          role="rowheader"
          id={placeId(row, -1)}
          aria-colindex={1}
          aria-expanded={head?.kind === 'value' ? head.open : undefined}
          aria-selected={piece !== undefined && Math.min(piece.column, piece.toColumn) < 0}
          className={piece !== undefined && piece.column < 0 ? 'map-head on' : 'map-head'}
          style={{ paddingLeft: 10 + (head?.depth ?? 0) * 14 }}
        >
          {head === undefined ? (
            <span className="skeleton" />
          ) : head.kind === 'rest' ? (
            <span className="dim small">{words.holdings.rest(head.of)}</span>
          ) : (
            <button
              type="button"
              tabIndex={-1}
              onClick={() => acting.head(row, head)}
              title={head.name}
            >
              {head.kind === 'value' && (
                <svg
                  className={head.open ? 'twist open' : 'twist'}
                  viewBox="0 0 8 8"
                  aria-hidden="true"
                >
                  <path d="M2 1l4 3l-4 3z" fill="currentColor" />
                </svg>
              )}
              <span className="name">{head.name || words.holdings.none}</span>
              <span className="mono dim">
                {head.kind === 'value' ? short(head.of) : head.beside}
              </span>
            </button>
          )}
        </div>
        {head !== undefined &&
          head.kind !== 'rest' &&
          chunks.map((chunk) => (
            <Chunk
              key={chunk % (last - first + 1)}
              known={known}
              block={known.block(row, chunk * CHUNK)}
              head={head}
              row={row}
              from={chunk * CHUNK}
              told={told}
              piece={piece}
            />
          ))}
      </div>
    );
  },
  (before, after) =>
    before.row === after.row &&
    before.start === after.start &&
    before.first === after.first &&
    before.last === after.last &&
    before.told === after.told &&
    before.piece === after.piece &&
    before.seen === after.seen,
);

type RowProps = {
  known: Known;
  row: number;
  start: number;
  first: number;
  last: number;
  told: Told;
  piece: Piece | undefined;
  acting: Acting;
  /** Tells which answers the row is made of. */
  seen: string;
};

const Chunk = memo(
  function Chunk({
    known,
    block,
    head,
    row,
    from,
    told,
    piece,
  }: {
    known: Known;
    block: Block | undefined;
    head: RowHead;
    row: number;
    from: number;
    told: Told;
    piece: Piece | undefined;
  }) {
    const cells = [];
    for (let column = from; column < from + CHUNK; column++) {
      const top = known.columns.get(column);
      const cell = block?.cell(row, column);
      const on = piece !== undefined && within(piece, row, column);
      // An empty cell is not there until it is marked: most are empty, and a browser styles them all.
      if (top === undefined || (cell === undefined && !on)) {
        continue;
      }
      cells.push(
        <div
          key={column}
          role="gridcell"
          id={placeId(row, column)}
          aria-colindex={column + 2}
          aria-selected={on}
          aria-label={tell(head, `${top.of.name} · ${top.name}`, cell, told)}
          className={on ? 'map-cell on' : 'map-cell'}
          style={{ left: HEAD + column * COLUMN, width: COLUMN }}
        >
          {cell !== undefined && <Drawn cell={cell} head={head} told={told} />}
        </div>,
      );
    }
    return <>{cells}</>;
  },
  (before, after) =>
    before.block === after.block &&
    before.head === after.head &&
    before.row === after.row &&
    before.from === after.from &&
    before.told === after.told &&
    before.piece === after.piece,
);

function Drawn({ cell, head, told }: { cell: Cell; head: RowHead; told: Told }) {
  if (told === 'moves') {
    const gained = cell.count - cell.lost;
    return (
      <span className="moved mono" aria-hidden>
        {gained > 0 && <span className="gain">+{short(gained)}</span>}
        {cell.lost > 0 && <span className="loss">−{short(cell.lost)}</span>}
      </span>
    );
  }
  const corner = cell.conflicts > 0 && <i className="corner" />;
  if (head.kind === 'person') {
    return (
      <>
        <span className={cell.unused > 0 ? 'by unused' : 'by'}>
          {signs(cell.signs).map((sign) => (
            <GroundSign key={sign.by + sign.source} by={sign.by} source={sign.source} />
          ))}
          {cell.signs === 0 && <span className="held-once" />}
        </span>
        {corner}
      </>
    );
  }
  // Who held it once in a span may be no longer there: no share of who is.
  const length = told === 'span' ? 0 : side(cell.count, head.of);
  const unused = cell.unused > 0 ? cell.unused / cell.count : 0;
  return (
    <>
      {length === 0 ? (
        <span className={unused > 0 ? 'few mono unused' : 'few mono'}>{short(cell.count)}</span>
      ) : (
        <span className="share-square" style={{ width: length, height: length }}>
          {unused > 0 && <span className="left-alone" style={{ width: `${100 * unused}%` }} />}
        </span>
      )}
      {corner}
    </>
  );
}

/** A cell as a sentence: "Deck crew, Farebox · Sell: 34 of 412, 6 unused, 1 conflict". */
function tell(head: RowHead, title: string, cell: Cell | undefined, told: Told): string {
  const where = `${head.name || words.holdings.none}, ${title}`;
  if (cell === undefined) {
    return `${where}: ${words.holdings.nobody}`;
  }
  if (told === 'moves') {
    return `${where}: ${words.holdings.toldMoved(cell.count - cell.lost, cell.lost)}`;
  }
  const what =
    head.kind === 'person'
      ? signs(cell.signs)
          .map((sign) => tellSign(sign.by, sign.source))
          .join('; ') || words.holdings.holds
      : told === 'span'
        ? words.holdings.onceHeld(cell.count)
        : words.holdings.toldOf(cell.count, head.of);
  return [
    `${where}: ${what}`,
    cell.unused > 0 && words.holdings.toldUnused(cell.unused),
    cell.conflicts > 0 && words.holdings.toldConflicts(cell.conflicts),
  ]
    .filter(Boolean)
    .join(', ');
}
