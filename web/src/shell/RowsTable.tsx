import { useQueries } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import { words } from '../words/en';
import { Failure, Loading } from './states';

const PAGE = 100;
const ROW = 36;

export type Column<Row> = {
  key: string;
  label: string;
  /** A track of CSS grid: {@code 2fr}, {@code 9rem}. */
  width: string;
  sort?: string;
  numeric?: boolean;
  cell: (row: Row) => ReactNode;
};

export type Page<Row> = { total: number; rows: Row[] };

/**
 * A table of any length: only the rows in sight are drawn, and only their pages are asked for.
 * Arrows move, Enter opens.
 */
export function RowsTable<Row extends { id: string }>({
  label,
  columns,
  queryKey,
  page,
  sort,
  descending,
  onSort,
  onOpen,
  empty,
}: {
  label: string;
  columns: Column<Row>[];
  queryKey: unknown[];
  page: (offset: number, limit: number) => Promise<Page<Row>>;
  sort?: string;
  descending?: boolean;
  onSort?: (sort: string) => void;
  onOpen: (row: Row) => void;
  empty: ReactNode;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  const [total, setTotal] = useState<number>();
  const grid = { gridTemplateColumns: columns.map((column) => column.width).join(' ') };
  const virtual = useVirtualizer({
    count: total ?? 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
    // The height is known from the style before the browser has measured.
    initialRect: { width: 1000, height: 600 },
  });
  const items = virtual.getVirtualItems();
  const pages = [...new Set([0, ...items.map((item) => Math.floor(item.index / PAGE))])].sort(
    (a, b) => a - b,
  );
  const answers = useQueries({
    queries: pages.map((number) => ({
      queryKey: [...queryKey, number],
      queryFn: () => page(number * PAGE, PAGE),
    })),
  });
  const first = answers[0];
  const count = first?.data?.total;
  useEffect(() => {
    if (count !== undefined) {
      setTotal(count);
      setAt((before) => Math.min(before, Math.max(0, count - 1)));
    }
  }, [count]);

  if (first?.error) {
    return <Failure error={first.error} again={() => first.refetch()} />;
  }
  if (first?.data === undefined) {
    return <Loading what={label} lines={12} />;
  }
  if (first.data.total === 0) {
    return empty;
  }
  const rowAt = (index: number): Row | undefined =>
    answers[pages.indexOf(Math.floor(index / PAGE))]?.data?.rows[index % PAGE];
  const failed = answers.find((one) => one.error !== null);

  const onKeyDown = (event: KeyboardEvent) => {
    const moves: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + 15,
      PageUp: at - 15,
      Home: 0,
      End: (total ?? 1) - 1,
    };
    const wanted = moves[event.key];
    if (wanted !== undefined) {
      event.preventDefault();
      const next = Math.min(Math.max(wanted, 0), (total ?? 1) - 1);
      setAt(next);
      virtual.scrollToIndex(next);
    } else if (event.key === 'Enter' && event.target === event.currentTarget) {
      const row = rowAt(at);
      if (row !== undefined) {
        onOpen(row);
      }
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
        className="rows"
        ref={scroller}
        role="table"
        aria-label={label}
        aria-rowcount={(total ?? 0) + 1}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the table is moved through by arrows
        tabIndex={0}
        onKeyDown={onKeyDown}
        style={{ height: Math.min(38 + (total ?? 0) * ROW + 2, 640) }}
      >
        <div role="rowgroup" className="head-group">
          <div className="head" role="row" aria-rowindex={1} style={grid}>
            {columns.map((column) => (
              <div
                key={column.key}
                role="columnheader"
                aria-sort={
                  column.sort !== undefined && column.sort === sort
                    ? descending
                      ? 'descending'
                      : 'ascending'
                    : undefined
                }
                className={column.numeric ? 'numeric' : undefined}
              >
                {column.sort !== undefined && onSort !== undefined ? (
                  <button
                    type="button"
                    aria-label={words.shell.sortBy(column.label)}
                    onClick={() => onSort(column.sort ?? '')}
                  >
                    {column.label}
                    {column.sort === sort ? (descending ? ' ↓' : ' ↑') : ''}
                  </button>
                ) : (
                  column.label
                )}
              </div>
            ))}
          </div>
        </div>
        <div role="rowgroup" className="all-rows" style={{ height: virtual.getTotalSize() }}>
          {items.map((item) => {
            const row = rowAt(item.index);
            return (
              <div
                key={item.key}
                role="row"
                aria-rowindex={item.index + 2}
                className={item.index === at ? 'row on' : 'row'}
                style={{ ...grid, transform: `translateY(${item.start}px)` }}
                onMouseDown={() => setAt(item.index)}
              >
                {columns.map((column) => (
                  <div
                    key={column.key}
                    role="cell"
                    className={column.numeric ? 'numeric' : undefined}
                  >
                    {row === undefined ? <div className="skeleton" /> : column.cell(row)}
                  </div>
                ))}
              </div>
            );
          })}
        </div>
      </div>
    </>
  );
}
