import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { heldFigures } from './PersonHoldings';

type Line = Schemas['HoldingLine'];

function line(unused: boolean | null, sensitivity: 'low' | 'high' = 'low', holds = true): Line {
  return {
    entitlement: {
      id: 'e',
      name: 'Reader',
      title: 'Quay Clock · Reader',
      line: '',
      sensitivity,
      app: { id: 'a', name: 'Quay Clock', picture: 'signpost', hue: 'slate' },
    },
    holds,
    signs: [],
    since: null,
    until: null,
    lastOpened: null,
    unused,
  } as unknown as Line;
}

const told = (held: Line[]) => heldFigures(held).map((figure) => `${figure.n} ${figure.of}`);

describe('the key figures of a person', () => {
  it('count what was never used among what is unused', () => {
    expect(told([line(true, 'high'), line(false), line(null)])).toEqual([
      '3 holdings in 1 app',
      '1 of high sensitivity',
      '1 unused for 90 days',
    ]);
  });

  it('say nothing about use to whoever may not see it', () => {
    expect(told([line(null), line(null)])).toHaveLength(2);
  });

  it('do not count what is without effect now', () => {
    expect(told([line(false), line(false, 'high', false)]).slice(0, 2)).toEqual([
      '1 holding in 1 app',
      '0 of high sensitivity',
    ]);
  });
});
