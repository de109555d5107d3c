import { dates } from '../words/locale';

/** The day of an instant in a zone, as ISO 8601. */
export function dayIn(zone: string, instant: Date): string {
  return new Intl.DateTimeFormat('sv-SE', { timeZone: zone }).format(instant);
}

/** How far a zone is ahead of UTC at an instant, in milliseconds. */
function offset(zone: string, instant: Date): number {
  const parts = new Intl.DateTimeFormat('en-US', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
  }).formatToParts(instant);
  const value = (type: string) => Number(parts.find((part) => part.type === type)?.value);
  const local = Date.UTC(
    value('year'),
    value('month') - 1,
    value('day'),
    value('hour'),
    value('minute'),
    value('second'),
  );
  return local - Math.floor(instant.getTime() / 1000) * 1000;
}

/** The last moment of a day in a zone, to the millisecond, as ISO 8601 in UTC. */
export function endOfDay(zone: string, day: string): string {
  const next = new Date(`${day}T00:00:00Z`);
  next.setUTCDate(next.getUTCDate() + 1);
  let start = next.getTime() - offset(zone, next);
  // The offset may differ on the other side of a change of clocks.
  start = next.getTime() - offset(zone, new Date(start));
  return new Date(start - 1).toISOString();
}

export function isDay(text: string | null): text is string {
  return text !== null && /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text));
}

const DAY = { day: 'numeric', month: 'short', year: 'numeric' } as const;
const TIME = { ...DAY, hour: '2-digit', minute: '2-digit' } as const;

/** What stands for a day that is half typed: no day, and not none either. */
export const UNREADABLE = 'unreadable';

/** A day that is written as ISO 8601, in the reader's way. */
export function tellDay(day: string): string {
  if (!isDay(day)) {
    return '…';
  }
  return dates({ ...DAY, timeZone: 'UTC' }).format(new Date(`${day}T00:00:00Z`));
}

export function tellDate(instant: string): string {
  return dates(DAY).format(new Date(instant));
}

/** A day of this year without its year, for where room is short. */
export function tellShortDay(day: string): string {
  const date = new Date(`${day}T00:00:00Z`);
  return dates({
    day: 'numeric',
    month: 'short',
    year: date.getUTCFullYear() === new Date().getFullYear() ? undefined : 'numeric',
    timeZone: 'UTC',
  }).format(date);
}

export function tellTime(instant: string): string {
  return dates(TIME).format(new Date(instant));
}

/** A moment: the end of one of a zone's days as that day, any other with the reader's own time. */
export function tellAsOf(zone: string, instant: string): string {
  const at = new Date(instant);
  const day = dayIn(zone, at);
  // What the server keeps is finer than a millisecond.
  return dayIn(zone, new Date(at.getTime() + 1)) !== day ? tellDay(day) : tellTime(instant);
}

/** The last day on which something is true that ends at an instant. */
export function lastDay(zone: string, until: string): string {
  return dayIn(zone, new Date(new Date(until).getTime() - 1));
}

/** So many days after a day, as ISO 8601. */
export function addDays(day: string, days: number): string {
  const next = new Date(`${day}T00:00:00Z`);
  next.setUTCDate(next.getUTCDate() + days);
  return next.toISOString().slice(0, 10);
}

/** The months since something began, the newest first: first day, last day, name. */
export function months(begins: string | null, zone: string): [string, string, string][] {
  const found: [string, string, string][] = [];
  const first = begins === null ? '9999-12-31' : dayIn(zone, new Date(begins));
  const today = dayIn(zone, new Date());
  const month = new Date(`${today.slice(0, 7)}-01T00:00:00Z`);
  const name = dates({
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  });
  while (found.length < 36) {
    const from = month.toISOString().slice(0, 10);
    const next = new Date(month);
    next.setUTCMonth(next.getUTCMonth() + 1);
    const last = addDays(next.toISOString().slice(0, 10), -1);
    if (last < first) {
      break;
    }
    const [begun] = [from, first].sort().slice(-1);
    const [ended] = [last, today].sort();
    found.push([begun ?? from, ended ?? last, name.format(month)]);
    month.setUTCMonth(month.getUTCMonth() - 1);
  }
  return found;
}

/** Days that lie a while back, with what they are called. */
export function daysBack(
  zone: string,
  begins: string | null,
): [string, 'week' | 'month' | 'quarter' | 'year'][] {
  const today = dayIn(zone, new Date());
  const first = begins === null ? today : dayIn(zone, new Date(begins));
  const all: [number, 'week' | 'month' | 'quarter' | 'year'][] = [
    [7, 'week'],
    [30, 'month'],
    [91, 'quarter'],
    [365, 'year'],
  ];
  return all
    .map(([days, name]): [string, typeof name] => [addDays(today, -days), name])
    .filter(([day]) => day >= first);
}
