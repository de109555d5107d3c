import { describe, expect, it } from 'vitest';
import { both, having } from './asked';
import { moved, side, signs, within } from './cells';

describe('a cell', () => {
  it('is a square whose area is the share, and a number where that would be too small', () => {
    expect(side(28, 28)).toBe(24);
    expect(side(7, 28)).toBe(12);
    expect(side(4, 28)).toBe(9);
    expect(side(3, 28)).toBe(0);
    expect(side(1, 412)).toBe(0);
    // Who held something in a span may be more than who is there now.
    expect(side(9, 6)).toBe(24);
    expect(side(1, 0)).toBe(24);
  });

  it('tells by what and whence a person holds it', () => {
    expect(signs(0)).toEqual([]);
    expect(signs(0b10)).toEqual([{ by: 'person', source: 'request' }]);
    expect(signs((1 << 4) | (1 << 0) | (1 << 10))).toEqual([
      { by: 'person', source: 'hand' },
      { by: 'group', source: 'hand' },
      { by: 'filter', source: 'import' },
    ]);
  });
});

describe('the keyboard', () => {
  const at = { row: 2, column: 3, toRow: 2, toColumn: 3 };
  const size = { rows: 5, columns: 6, page: 10 };
  const press = (key: string, shiftKey = false, ctrlKey = false) =>
    moved(at, { key, shiftKey, ctrlKey }, size);

  it('moves, and stays inside', () => {
    expect(press('ArrowDown')).toEqual({ row: 3, column: 3, toRow: 3, toColumn: 3 });
    expect(press('PageDown')).toEqual({ row: 4, column: 3, toRow: 4, toColumn: 3 });
    expect(press('Home')).toEqual({ row: 2, column: 0, toRow: 2, toColumn: 0 });
    expect(press('End', false, true)).toEqual({ row: 4, column: 5, toRow: 4, toColumn: 5 });
    expect(press('x')).toBeUndefined();
  });

  it('goes before the first column to the head of the row', () => {
    const first = { row: 2, column: 0, toRow: 2, toColumn: 0 };
    expect(moved(first, { key: 'ArrowLeft', shiftKey: false, ctrlKey: false }, size)).toEqual({
      row: 2,
      column: -1,
      toRow: 2,
      toColumn: -1,
    });
  });

  it('reaches further with Shift, from where it began', () => {
    const piece = press('ArrowUp', true);
    expect(piece).toEqual({ row: 2, column: 3, toRow: 1, toColumn: 3 });
    expect(piece !== undefined && within(piece, 1, 3)).toBe(true);
    expect(piece !== undefined && within(piece, 3, 3)).toBe(false);
  });
});

describe('a row as a filter', () => {
  it('quotes its value, and knows who has none', () => {
    expect(having('unit', 'Yard "A"')).toBe('unit eq "Yard \\"A\\""');
    expect(having('unit', '')).toBe('not (unit pr)');
    expect(both(undefined, 'unit pr')).toBe('unit pr');
    expect(both('a pr or b pr', 'c pr')).toBe('(a pr or b pr) and (c pr)');
  });
});
