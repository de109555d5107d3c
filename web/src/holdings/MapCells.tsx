import { memo } from 'react';
import { GroundSign, tellSign } from '../access/Grounds';
import { words } from '../words/en';
import type { Told } from './asked';
import {
  type Block,
  type Cell,
  CHUNK,
  type Known,
  type Piece,
  type RowHead,
  side,
  signs,
  within,
} from './cells';

export const TOP = 118;
export const FOOT = 30;
export const ROW = 32;
export const COLUMN = 46;
/** A phone has less room for names; rows scroll along below each other all the same. */
export const HEAD = window.innerWidth <= 600 ? 128 : 208;

export function placeId(row: number, column: number): string {
  return column < 0 ? `map-r${row}` : `map-${row}-${column}`;
}

/** A number of at most four characters: 999, 12k. */
export function short(n: number): string {
  return n < 10_000 ? words.count(n) : `${Math.round(n / 1000)}k`;
}

export const ColumnTop = memo(function ColumnTop({
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

export type Acting = { head: (row: number, head: RowHead) => void };

/** A row with the pieces of it that are in sight; drawn anew only where something of it is new. */
export const MapRow = memo(
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

/** The totals under the map. */
export function MapFoot({
  known,
  row,
  title,
  columns,
  pool,
}: {
  known: Known;
  /** How many rows stand above. */
  row: number;
  title: string;
  columns: { index: number; start: number }[];
  /** How many columns are drawn at most; what comes takes the place of what goes. */
  pool: number;
}) {
  return (
    <div className="map-foot" role="row" aria-rowindex={row + 2}>
      <div className="map-head small dim" role="rowheader" aria-colindex={1}>
        {title}
      </div>
      {columns.map((item) => (
        <div
          key={item.index % pool}
          role="gridcell"
          aria-colindex={item.index + 2}
          className="mono"
          style={{ left: item.start, width: COLUMN }}
        >
          {short(known.columns.get(item.index)?.count ?? 0)}
        </div>
      ))}
    </div>
  );
}
