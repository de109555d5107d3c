import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { bare, fitting } from './fitting';

function tile(name: string, line = ''): Schemas['TileView'] {
  return {
    id: name,
    name,
    line,
    picture: 'key',
    hue: 'tide',
    offered: null,
    contact: '',
    apart: false,
  };
}

function section(id: string, ...tiles: Schemas['TileView'][]): Schemas['SectionView'] {
  return { id, name: id, line: '', tiles };
}

const SECTIONS = [
  section('Aboard', tile('Crewsheet', 'Your shifts and swaps'), tile('Tidewatch', 'Sea state')),
  section('Counter', tile('Farebox', 'Sell'), tile('Crewsheet', 'Your shifts and swaps')),
  section('Also', tile('Shift Book', 'Who is on')),
];

const names = (sections: Schemas['SectionView'][]) =>
  sections.map((one) => [one.id, ...one.tiles.map((shown) => shown.name)]);

describe('typing on the front page', () => {
  it('changes nothing while nothing is typed', () => {
    expect(fitting(SECTIONS, '  ')).toBe(SECTIONS);
  });

  it('finds by the beginning of any word of name or line, each tile once', () => {
    expect(names(fitting(SECTIONS, 'swa'))).toEqual([['Aboard', 'Crewsheet']]);
    expect(fitting(SECTIONS, 'sheet')).toEqual([]);
  });

  it('puts first what the name begins with, since Enter opens the first', () => {
    expect(names(fitting(SECTIONS, 'shi'))).toEqual([
      ['Also', 'Shift Book'],
      ['Aboard', 'Crewsheet'],
    ]);
  });

  it('needs every typed word', () => {
    expect(names(fitting(SECTIONS, 'your cr'))).toEqual([['Aboard', 'Crewsheet']]);
    expect(fitting(SECTIONS, 'crew sea')).toEqual([]);
  });

  it('does not ask for accents and case', () => {
    expect(bare('Ærø Ólafur STRAẞE')).toBe('aero olafur strasse');
    expect(names(fitting([section('a', tile('Blåskjell'))], 'blask'))).toEqual([
      ['a', 'Blåskjell'],
    ]);
  });
});
