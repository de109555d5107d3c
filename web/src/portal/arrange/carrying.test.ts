import { describe, expect, it } from 'vitest';
import { behind, type Lists, over, preview, staysPut, step, takeUp } from './carrying';

const LISTS: Lists = [
  { id: 'quay', items: ['a', 'b', 'c', 'd'] },
  { id: 'deck', items: ['x', 'b'] },
];

describe('carrying', () => {
  it('stays put until it is moved', () => {
    const carried = takeUp(LISTS, 'quay', ['c']);
    expect(staysPut(LISTS, carried)).toBe(true);
    expect(preview(LISTS, carried, 'quay')).toEqual(['a', 'b', null, 'd']);
    expect(staysPut(LISTS, step(LISTS, step(LISTS, carried, 'later'), 'earlier'))).toBe(true);
  });

  it('goes one place for each key, and on into the next list', () => {
    let carried = takeUp(LISTS, 'quay', ['c']);
    carried = step(LISTS, carried, 'later');
    expect(behind(LISTS, carried)).toBe('d');
    carried = step(LISTS, carried, 'later');
    expect([carried.list, behind(LISTS, carried)]).toEqual(['deck', null]);
    expect(step(LISTS, carried, 'earlier')).toMatchObject({ list: 'quay', index: 3 });
    expect(step(LISTS, step(LISTS, carried, 'down'), 'down').list).toBe('deck');
  });

  it('carries several together, in the order in which they lie', () => {
    let carried = takeUp(LISTS, 'quay', ['d', 'b']);
    expect(carried.items).toEqual(['b', 'd']);
    expect(preview(LISTS, carried, 'quay')).toEqual(['a', null, 'c']);
    expect(staysPut(LISTS, carried)).toBe(false);
    carried = step(LISTS, carried, 'earlier');
    expect(behind(LISTS, carried)).toBeNull();
  });

  it('leaves the same thing in another list alone', () => {
    const carried = step(LISTS, takeUp(LISTS, 'quay', ['b']), 'down');
    expect(preview(LISTS, carried, 'deck')).toEqual([null, 'x', 'b']);
  });

  it('goes before what it is over, or behind it on the way to the end', () => {
    const carried = takeUp(LISTS, 'quay', ['b']);
    expect(preview(LISTS, over(LISTS, carried, 'quay', 'd'), 'quay')).toEqual([
      'a',
      'c',
      'd',
      null,
    ]);
    expect(preview(LISTS, over(LISTS, carried, 'quay', 'a'), 'quay')).toEqual([
      null,
      'a',
      'c',
      'd',
    ]);
    expect(preview(LISTS, over(LISTS, carried, 'deck', 'x'), 'deck')).toEqual([null, 'x', 'b']);
    expect(preview(LISTS, over(LISTS, carried, 'deck', null), 'deck')).toEqual(['x', 'b', null]);
  });
});
