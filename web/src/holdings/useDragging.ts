import { type MouseEvent, type RefObject, useRef } from 'react';
import type { Piece } from './cells';
import { COLUMN, FOOT, HEAD, ROW, TOP } from './MapCells';

/**
 * Marks a block with the mouse; with Shift from the place that has the focus.
 *
 * @returns what the map listens to
 */
export function useDragging(
  scroller: RefObject<HTMLDivElement | null>,
  at: Piece,
  { rows, columns }: { rows: number; columns: number },
  mark: (piece: Piece) => void,
) {
  const from = useRef<Piece>(undefined);
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
      row >= rows ||
      column >= columns
      ? undefined
      : { row, column };
  };
  const onMouseDown = (event: MouseEvent) => {
    const place = event.button === 0 ? under(event) : undefined;
    if (place !== undefined) {
      const begin = event.shiftKey ? at : place;
      const next = {
        row: begin.row,
        column: begin.column,
        toRow: place.row,
        toColumn: place.column,
      };
      from.current = next;
      mark(next);
    }
  };
  const onMouseMove = (event: MouseEvent) => {
    const before = from.current;
    const place = before === undefined ? undefined : under(event);
    if (
      before !== undefined &&
      place !== undefined &&
      (place.row !== before.toRow || place.column !== before.toColumn)
    ) {
      const next = { ...before, toRow: place.row, toColumn: place.column };
      from.current = next;
      mark(next);
    }
  };
  const over = () => {
    from.current = undefined;
  };
  return { onMouseDown, onMouseMove, onMouseUp: over, onMouseLeave: over };
}
