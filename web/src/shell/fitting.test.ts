import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { bare, fitting, indexed } from './fitting';
import { nearness, slips } from './nearWords';

type One = { name: string; line: string; nicknames?: string[] };

const TILES: One[] = [
  { name: 'Crewsheet', line: 'Your shifts and swaps', nicknames: ['rota', 'watch bill'] },
  { name: 'Tidewatch', line: 'Sea state' },
  { name: 'Farebox', line: 'Sell' },
  { name: 'Shift Book', line: 'Who is on' },
  { name: 'Blåskjell', line: '' },
  { name: 'Ώρες εργασίας', line: 'Πρόγραμμα' },
  { name: 'Расписание', line: 'смены' },
  { name: 'جدول المناوبات', line: '' },
  { name: '排班表', line: '船员' },
];

const INDEX = indexed(
  TILES,
  (one) => one.name,
  (one) => [one.line, ...(one.nicknames ?? [])],
);

const found = (text: string) => fitting(INDEX, text).map((one) => one.name);

describe('typing to find something', () => {
  it('finds nothing while nothing is typed', () => {
    expect(found('  ')).toEqual([]);
  });

  it('finds by the beginning of any word of name, line or nickname, each once', () => {
    expect(found('swa')).toEqual(['Crewsheet']);
    expect(found('bill')).toEqual(['Crewsheet']);
    expect(found('ota')).toEqual([]);
  });

  it('puts first what the name begins with, then what stands in it, since Enter opens the first', () => {
    expect(found('shi')).toEqual(['Shift Book', 'Crewsheet']);
    expect(found('s')).toEqual(['Shift Book', 'Crewsheet', 'Tidewatch', 'Farebox']);
  });

  it('needs every typed word', () => {
    expect(found('your cr')).toEqual(['Crewsheet']);
    expect(found('crew sea')).toEqual([]);
  });

  it('does not ask for accents and case, in any script', () => {
    expect(bare('Ærø Ólafur STRAẞE')).toBe('aero olafur strasse');
    expect(found('blask')).toEqual(['Blåskjell']);
    expect(found('ωρες')).toEqual(['Ώρες εργασίας']);
    expect(found('ПРОГ')).toEqual([]);
    expect(found('προγ')).toEqual(['Ώρες εργασίας']);
    expect(found('РАСП')).toEqual(['Расписание']);
    expect(found('المناوبات')).toEqual(['جدول المناوبات']);
    expect(found('排班')).toEqual(['排班表']);
  });

  it('takes a word that begins none for the nearest ones, by its length', () => {
    expect(found('farbox')).toEqual(['Farebox']);
    expect(found('tidewacth')).toEqual(['Tidewatch']);
    expect(found('cerwshet')).toEqual(['Crewsheet']);
    // Three letters are too few to guess at.
    expect(found('fra')).toEqual([]);
    // What is written rightly is not drowned in what is only near.
    expect(found('sell')).toEqual(['Farebox']);
  });

  it('measures slips as another program does', () => {
    const vectors = JSON.parse(
      readFileSync('../core/src/test/resources/near-words.json', 'utf8'),
    ) as { typed: string; word: string; most: number; nearness: number }[];
    expect(vectors.length).toBeGreaterThan(100);
    for (const { typed, word, most, nearness: expected } of vectors) {
      expect([typed, word, nearness(typed, word, most)]).toEqual([typed, word, expected]);
    }
    expect([3, 4, 7, 8].map((length) => slips('x'.repeat(length)))).toEqual([0, 1, 1, 2]);
  });
});
