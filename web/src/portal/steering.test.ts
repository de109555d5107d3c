import { describe, expect, it } from 'vitest';
import { arrowTo } from './steering';

/** Tiles of 100 by 50, with a gap of 10; the second row has one tile, the third three again. */
const BOXES = [
  [0, 0],
  [1, 0],
  [2, 0],
  [0, 1],
  [0, 2],
  [1, 2],
  [2, 2],
].map(([column = 0, row = 0]) => ({
  left: column * 110,
  right: column * 110 + 100,
  top: row * 60,
  bottom: row * 60 + 50,
}));

describe('arrows among tiles', () => {
  it('begin at the first, and end at both ends', () => {
    expect(arrowTo('ArrowDown', BOXES, -1)).toBe(0);
    expect(arrowTo('Home', BOXES, 5)).toBe(0);
    expect(arrowTo('End', BOXES, 0)).toBe(6);
    expect(arrowTo('ArrowLeft', BOXES, 0)).toBe(-1);
    expect(arrowTo('ArrowRight', BOXES, 6)).toBe(-1);
    expect(arrowTo('ArrowDown', BOXES, 6)).toBe(-1);
    expect(arrowTo('ArrowUp', BOXES, 1)).toBe(-1);
    expect(arrowTo('ArrowDown', [], -1)).toBe(-1);
  });

  it('go along the order, over the end of a row', () => {
    expect(arrowTo('ArrowRight', BOXES, 2)).toBe(3);
    expect(arrowTo('ArrowLeft', BOXES, 4)).toBe(3);
  });

  it('go to the nearest in the next row that there is', () => {
    expect(arrowTo('ArrowDown', BOXES, 2)).toBe(3);
    expect(arrowTo('ArrowDown', BOXES, 3)).toBe(4);
    expect(arrowTo('ArrowUp', BOXES, 6)).toBe(3);
    expect(arrowTo('ArrowUp', BOXES, 3)).toBe(0);
  });
});
