import { describe, expect, it } from 'vitest';
import { addressOf, bySpan, type Fold, neighbour } from './due';

const NOW = new Date('2026-11-26T10:00:00Z');

function fold(id: string, due: string): Fold {
  return { due, cases: [{ kind: 'REQUEST', id } as Fold['cases'][number]] };
}

describe('the docket by when it is due', () => {
  it('counts a day that ends at midnight in Oslo as that day', () => {
    const tonight = fold('a', '2026-11-26T23:00:00Z');
    const past = fold('b', '2026-11-20T08:00:00Z');
    const soon = fold('c', '2026-12-03T22:59:00Z');
    const later = fold('d', '2026-12-03T23:30:00Z');
    expect(bySpan([past, tonight, soon, later], 'Europe/Oslo', NOW)).toEqual([
      ['today', [past, tonight]],
      ['week', [soon]],
      ['later', [later]],
    ]);
  });

  it('leaves out a span in which nothing is due', () => {
    expect(bySpan([], 'Europe/Oslo', NOW)).toEqual([]);
  });

  it('goes to the next and the one before, and no further', () => {
    const folds = [fold('a', ''), fold('b', '')];
    expect(neighbour(folds, folds[0], 1)).toBe(folds[1]);
    expect(neighbour(folds, folds[1], 1)).toBeUndefined();
    expect(neighbour(folds, folds[1], -1)).toBe(folds[0]);
    expect(neighbour(folds, undefined, 1)).toBe(folds[0]);
    expect(addressOf(folds[1] as Fold)).toBe('/desk/docket/request/b');
  });
});
