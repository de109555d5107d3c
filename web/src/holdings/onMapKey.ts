import type { KeyboardEvent } from 'react';
import { moved, type Piece } from './cells';

/**
 * What a key does on the map: arrows move the focus, with Shift they mark; Enter opens a row, Escape
 * marks nothing, and Space marks, as in any grid: with Shift the whole row, with Control the column.
 */
export function onMapKey(
  event: KeyboardEvent,
  map: {
    /** Where the focus is. */
    at: Piece;
    piece: Piece | undefined;
    sizes: { rows: number; columns: number; page: number };
    /** Opens the row of the focus; undefined where it has not come yet. */
    open: () => (() => void) | undefined;
    mark: (piece: Piece | undefined) => void;
    show: (piece: Piece) => void;
  },
) {
  const { at, sizes } = map;
  if (event.altKey || event.metaKey) {
    return;
  }
  const open = event.key === 'Enter' ? map.open() : undefined;
  if (open !== undefined) {
    event.preventDefault();
    open();
  } else if (event.key === 'Escape' && map.piece !== undefined) {
    event.preventDefault();
    map.mark(undefined);
  } else if (event.key === ' ') {
    event.preventDefault();
    map.mark(
      event.ctrlKey
        ? { row: 0, toRow: sizes.rows - 1, column: at.toColumn, toColumn: at.toColumn }
        : event.shiftKey
          ? { row: at.toRow, toRow: at.toRow, column: 0, toColumn: sizes.columns - 1 }
          : at,
    );
  } else {
    const next = moved(at, event, sizes);
    if (next !== undefined) {
      event.preventDefault();
      map.mark(next);
      map.show(next);
    }
  }
}
