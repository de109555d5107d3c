import { expect, test } from 'vitest';
import { group, isWhole, line, present, saying, sayingOf, textOf } from './shape';

const typeOf = (attribute: string) => (attribute === 'grade' ? 'number' : 'text');
const text = (shape: Parameters<typeof textOf>[0]) => textOf(shape, typeOf);

test('lines are written in the syntax of filters', () => {
  expect(text(line('unit', 'eq', ['Ticketing']))).toBe('unit eq "Ticketing"');
  expect(text(line('unit', 'eq', ['A', 'B']))).toBe('unit eq "A" or unit eq "B"');
  expect(text(line('grade', 'ge', ['12']))).toBe('grade ge 12');
  expect(text(line('unit', 'sw', ['say "so"']))).toBe('unit sw "say \\"so\\""');
  expect(text(saying('title', 'empty', []))).toBe('not (title pr)');
  expect(text(saying('unit', 'not-eq', ['A', 'B']))).toBe('not (unit eq "A" or unit eq "B")');
});

test('groups are bound where they must be, and nowhere else', () => {
  const either = line('unit', 'eq', ['A', 'B']);
  expect(text(group('all', [either, present('title')]))).toBe(
    '(unit eq "A" or unit eq "B") and title pr',
  );
  expect(text(group('any', [either, present('title')]))).toBe(
    'unit eq "A" or unit eq "B" or title pr',
  );
  expect(
    text(group('all', [group('any', [present('unit'), present('site')]), present('title')])),
  ).toBe('(unit pr or site pr) and title pr');
  expect(text(group('any', [group('all', [present('unit'), either]), present('title')]))).toBe(
    '(unit pr and (unit eq "A" or unit eq "B")) or title pr',
  );
});

test('a half typed day is no value', () => {
  expect(isWhole(line('firstDay', 'gt', ['unreadable']))).toBe(false);
});

test('what is not complete yet is left out', () => {
  const half = line('unit', 'eq', []);
  expect(isWhole(half)).toBe(false);
  expect(text(group('all', [half, present('title')]))).toBe('title pr');
  expect(text(group('all', [half]))).toBe('');
  expect(text(group('all', [group('any', [half, either()]), present('title')]))).toBe(
    '(unit eq "A" or unit eq "B") and title pr',
  );
  function either() {
    return line('unit', 'eq', ['A', 'B']);
  }
});

test('a denied line is one choice', () => {
  expect(sayingOf(saying('unit', 'not-eq', ['A']))).toEqual({
    attribute: 'unit',
    saying: 'not-eq',
  });
  expect(sayingOf(saying('unit', 'empty', []))).toEqual({ attribute: 'unit', saying: 'empty' });
  expect(sayingOf(group('except', [group('any', [present('a'), present('b')])]))).toBeUndefined();
});
