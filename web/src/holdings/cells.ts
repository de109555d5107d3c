import type { Schemas } from '../api/client';

/** A cell of the map that is not empty. */
export type Cell = {
  count: number;
  /** −1 where it is not known. */
  unused: number;
  conflicts: number;
  /** By what and whence a person holds it, as bits. */
  signs: number;
  /** In a comparison, how many lost it. */
  lost: number;
};

export type RowHead = Schemas['RowHead'];
export type ColumnHead = Schemas['ColumnHead'] & { of: Schemas['AppRef'] };

/** Rows and columns of one answer are found by these, in whole numbers of blocks. */
export const BLOCK = 40;

/** Cells are drawn in pieces of so many columns, which lie in one block each. */
export const CHUNK = 8;

type View = Schemas['MapView'];

/** One answer with its cells by place. */
export class Block {
  private static made = 0;
  private static readonly known = new WeakMap<View, Block>();
  /** Tells it apart from all others. */
  readonly id = ++Block.made;
  private readonly cells = new Map<number, Cell>();

  private constructor(view: View) {
    for (const [
      r = 0,
      c = 0,
      count = 0,
      unused = -1,
      conflicts = 0,
      signs = 0,
      lost = 0,
    ] of view.cells) {
      this.cells.set(r * 100_000 + c, { count, unused, conflicts, signs, lost });
    }
  }

  /** The block of an answer, made once. */
  static of(view: View): Block {
    const known = Block.known.get(view) ?? new Block(view);
    Block.known.set(view, known);
    return known;
  }

  cell(row: number, column: number): Cell | undefined {
    return this.cells.get(row * 100_000 + column);
  }
}

/** What has come of the map so far, by place. */
export class Known {
  readonly rows = new Map<number, RowHead>();
  readonly columns = new Map<number, ColumnHead>();
  private readonly blocks = new Map<string, Block>();

  constructor(answers: { row: number; column: number; view: View }[]) {
    for (const { row, column, view } of answers) {
      view.rowHeads.forEach((head, index) => {
        this.rows.set(row + index, head);
      });
      view.columnHeads.forEach((head, index) => {
        const of = view.apps[head.app];
        if (of !== undefined) {
          this.columns.set(column + index, { ...head, of });
        }
      });
      this.blocks.set(`${row / BLOCK} ${column / BLOCK}`, Block.of(view));
    }
  }

  block(row: number, column: number): Block | undefined {
    return this.blocks.get(`${Math.floor(row / BLOCK)} ${Math.floor(column / BLOCK)}`);
  }

  /** Where rows with these names stand, if all of them have come and stand beside each other. */
  rowsOf({ keys, person }: Names): Span | undefined {
    const fits = (head: RowHead) =>
      person === undefined
        ? head.kind === 'value' && keys?.includes(head.key) === true
        : head.id === person;
    return beside(this.rows, fits, keys?.length ?? 1);
  }

  columnsOf(ids: string[]): Span | undefined {
    return beside(this.columns, (head) => ids.includes(head.id), ids.length);
  }
}

/** What is marked by names that stay when rows move; what is not given stands for all. */
export type Names = { keys?: string[]; person?: string; columns?: string[] };

/** What is marked, as the server takes it. */
export function marked({ keys, person, columns }: Names) {
  return { keys: keys?.join('\n'), person, marked: columns };
}

/** Places from the first to the last. */
export type Span = { first: number; last: number };

function beside<Head>(
  heads: Map<number, Head>,
  fits: (head: Head) => boolean,
  many: number,
): Span | undefined {
  const places = [...heads].filter(([, head]) => fits(head)).map(([place]) => place);
  const first = Math.min(...places);
  const last = Math.max(...places);
  return places.length === many && last - first + 1 === many ? { first, last } : undefined;
}

/** Under this share the number is told, since a square could not be seen. */
export const FEW = 1 / 8;

const LARGEST = 24;
const SMALLEST = 8;

/** The side of the square whose area is the share, in pixels; 0 where the number is told. */
export function side(count: number, of: number): number {
  const share = of === 0 ? 1 : count / of;
  return share < FEW ? 0 : Math.max(SMALLEST, Math.round(LARGEST * Math.sqrt(Math.min(1, share))));
}

const BY = ['person', 'group', 'filter'] as const;
const SOURCES = ['hand', 'request', 'import', 'review'] as const;

/** The signs behind a set of bits, as the server counts them: by what, then whence. */
export function signs(bits: number): { by: string; source: string }[] {
  return BY.flatMap((by, i) =>
    SOURCES.filter((_, j) => (bits & (1 << (i * SOURCES.length + j))) !== 0).map((source) => ({
      by,
      source,
    })),
  );
}

/** A piece of the map from one corner to another, in whatever order they were marked. */
export type Piece = { row: number; column: number; toRow: number; toColumn: number };

export function spread(piece: Piece) {
  return {
    top: Math.min(piece.row, piece.toRow),
    bottom: Math.max(piece.row, piece.toRow),
    left: Math.min(piece.column, piece.toColumn),
    right: Math.max(piece.column, piece.toColumn),
  };
}

export function within(piece: Piece, row: number, column: number): boolean {
  const { top, bottom, left, right } = spread(piece);
  return row >= top && row <= bottom && column >= left && column <= right;
}

/**
 * Where the keyboard goes from a piece: the arrows move, with Shift they reach further; Home and End
 * go along the row, with Control to the corners.
 *
 * @param size how many rows and columns there are
 * @return nothing where the key is none of these
 */
export function moved(
  piece: Piece,
  key: { key: string; shiftKey: boolean; ctrlKey: boolean },
  size: { rows: number; columns: number; page: number },
): Piece | undefined {
  const at = { row: piece.toRow, column: piece.toColumn };
  const last = { row: size.rows - 1, column: size.columns - 1 };
  const wanted: Record<string, { row: number; column: number }> = {
    ArrowDown: { row: at.row + 1, column: at.column },
    ArrowUp: { row: at.row - 1, column: at.column },
    ArrowRight: { row: at.row, column: at.column + 1 },
    ArrowLeft: { row: at.row, column: at.column - 1 },
    PageDown: { row: at.row + size.page, column: at.column },
    PageUp: { row: at.row - size.page, column: at.column },
    Home: { row: key.ctrlKey ? 0 : at.row, column: 0 },
    End: { row: key.ctrlKey ? last.row : at.row, column: last.column },
  };
  const next = wanted[key.key];
  if (next === undefined || size.rows === 0 || size.columns === 0) {
    return undefined;
  }
  const row = Math.min(Math.max(next.row, 0), last.row);
  // The heads of rows stand before the first column.
  const column = Math.min(Math.max(next.column, -1), last.column);
  return key.shiftKey
    ? { ...piece, toRow: row, toColumn: Math.max(column, 0) }
    : { row, column, toRow: row, toColumn: column };
}
