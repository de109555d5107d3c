import { describe, expect, it } from 'vitest';
import { dayIn, endOfDay, isDay, months, tellAsOf, tellDay, tellTime } from './times';

describe('days in the organisation’s zone', () => {
  it('end at the start of the next one there', () => {
    expect(endOfDay('Europe/Oslo', '2026-09-30')).toBe('2026-09-30T21:59:59.999Z');
    expect(endOfDay('Europe/Oslo', '2026-12-01')).toBe('2026-12-01T22:59:59.999Z');
    expect(endOfDay('UTC', '2024-02-28')).toBe('2024-02-28T23:59:59.999Z');
    expect(endOfDay('America/St_Johns', '2026-06-30')).toBe('2026-07-01T02:29:59.999Z');
  });

  it('keep their length when clocks change', () => {
    // Clocks go forward on 29 March and back on 25 October 2026.
    expect(endOfDay('Europe/Oslo', '2026-03-28')).toBe('2026-03-28T22:59:59.999Z');
    expect(endOfDay('Europe/Oslo', '2026-03-29')).toBe('2026-03-29T21:59:59.999Z');
    expect(endOfDay('Europe/Oslo', '2026-10-25')).toBe('2026-10-25T22:59:59.999Z');
  });

  it('are told from an instant', () => {
    expect(dayIn('Europe/Oslo', new Date('2026-09-30T22:30:00Z'))).toBe('2026-10-01');
  });

  it('stand for the moment at which they end; any other moment is told by the reader’s clock', () => {
    const end = '2026-09-30T21:59:59.999999Z';
    expect(tellAsOf('Europe/Oslo', end)).toBe(tellDay('2026-09-30'));
    expect(tellAsOf('UTC', end)).toBe(tellTime(end));
    const other = '2026-09-30T14:05:00Z';
    expect(tellAsOf('Europe/Oslo', other)).toBe(tellTime(other));
    expect(tellAsOf('America/St_Johns', other)).toBe(tellTime(other));
  });

  it('are read only in their one form', () => {
    expect(isDay('2026-03-01')).toBe(true);
    expect(isDay('2026-3-1')).toBe(false);
    expect(isDay('2026-13-01')).toBe(false);
    expect(isDay(null)).toBe(false);
  });
});

describe('months since something began', () => {
  it('are whole but for the first and the running one, the newest first', () => {
    const today = dayIn('Europe/Oslo', new Date());
    const found = months(new Date(Date.now() - 70 * 86_400_000).toISOString(), 'Europe/Oslo');
    expect(found.length).toBeGreaterThanOrEqual(3);
    expect(found[0]?.[0]).toBe(`${today.slice(0, 7)}-01`);
    expect(found[0]?.[1]).toBe(today);
    expect(found[1]?.[0]).toMatch(/-01$/);
    expect(endOfDay('UTC', found[1]?.[1] ?? '').slice(0, 7)).toBe(found[1]?.[0].slice(0, 7));
    expect(found.at(-1)?.[0]).toBe(dayIn('Europe/Oslo', new Date(Date.now() - 70 * 86_400_000)));
    expect(months(null, 'Europe/Oslo')).toEqual([]);
  });
});
