import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { whereIs } from './whereabouts';

function tile(name: string): Schemas['TileView'] {
  return {
    id: name,
    name,
    line: '',
    picture: 'key',
    hue: 'tide',
    offered: null,
    contact: '',
    whom: [],
    apart: false,
    app: '',
    nicknames: [],
    tidings: '',
    ends: null,
  };
}

const SECTIONS = [
  { id: 'a', name: 'Ticket office', line: '', tiles: [tile('Farebox'), tile('Refund Bench')] },
  { id: null, name: '', line: '', tiles: [tile('Fare Table'), tile('Refund')] },
];

describe('where a tile is', () => {
  it('tells section and place, and the fewest letters that bring it to the front', () => {
    expect(whereIs(SECTIONS, 'Refund Bench')).toMatchObject({ place: 2, type: 'r' });
    expect(whereIs(SECTIONS, 'Fare Table')).toMatchObject({ place: 1, type: 'fare t' });
    expect(whereIs(SECTIONS, 'Fare Table')?.section.id).toBeNull();
  });

  it('tells nothing to type where another always comes first', () => {
    expect(whereIs(SECTIONS, 'Refund')).toMatchObject({ place: 2, type: undefined });
    expect(whereIs(SECTIONS, 'Payrow')).toBeUndefined();
  });
});
