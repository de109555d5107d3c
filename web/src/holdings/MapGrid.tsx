import { useVirtualizer } from '@tanstack/react-virtual';
import { type CSSProperties, type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { Empty, Failure, Loading } from '../shell/states';
import { words } from '../words/en';
import { type Asked, type Shape, toldOf } from './asked';
import { BLOCK, CHUNK, type Known, type Names, type Piece, type RowHead, within } from './cells';
import {
  type Acting,
  COLUMN,
  ColumnTop,
  FOOT,
  HEAD,
  MapFoot,
  MapRow,
  placeId,
  ROW,
  TOP,
} from './MapCells';
import { onMapKey } from './onMapKey';
import { useBlocks } from './useBlocks';
import { useDragging } from './useDragging';

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
  const {
    known: come,
    first,
    failed,
    columnBlocks,
  } = useBlocks(
    asked,
    shape,
    rowItems.map((item) => item.index),
    columnItems.map((item) => item.index),
  );
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

  const at = piece ?? { row: 0, column: 0, toRow: 0, toColumn: 0 };
  const dragging = useDragging(scroller, at, { rows: rowCount, columns: columnCount }, mark);

  if (failed !== undefined && first === undefined && drawn?.laid !== laid) {
    return <Failure error={failed.error} again={() => failed.refetch()} />;
  }
  if (drawn === undefined) {
    return <Loading what={words.holdings.title} lines={14} />;
  }
  if (rowCount === 0 || columnCount === 0) {
    return <Empty title={words.holdings.nothing}>{words.holdings.nothingHelp}</Empty>;
  }
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
  const onKeyDown = (event: KeyboardEvent) =>
    onMapKey(event, {
      at,
      piece,
      sizes: { rows: rowCount, columns: columnCount, page: PAGE },
      open: () => {
        const head = known.rows.get(at.toRow);
        return head === undefined ? undefined : () => onOpen(head, piece, known);
      },
      mark,
      show,
    });

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
        {...dragging}
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
          <MapFoot
            known={known}
            row={rowCount}
            title={told === 'moves' ? words.holdings.moved : words.holdings.all}
            columns={columnItems}
            pool={pools.columns}
          />
        </div>
      </div>
    </>
  );
}
