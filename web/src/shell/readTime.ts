import { dates } from '../words/locale';
import { UNREADABLE } from './times';

/** Twelve names of months, long and short, in a way of writing dates. */
function names(format: (options: Intl.DateTimeFormatOptions) => Intl.DateTimeFormat): string[][] {
  return Array.from({ length: 12 }, (_, month) =>
    (['long', 'short'] as const).map(
      (length) =>
        format({ day: 'numeric', month: length, timeZone: 'UTC' })
          .formatToParts(Date.UTC(2024, month, 15))
          .find((part) => part.type === 'month')
          ?.value.toLowerCase()
          .replace('.', '') ?? '',
    ),
  );
}

/** The month that a word begins, from one; 0 where there is none or more than one. */
function month(word: string): number {
  const english = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat('en-GB', options);
  for (const format of [dates, english]) {
    const all = names(format);
    const whole = all.findIndex((one) => one.includes(word));
    if (whole >= 0) {
      return whole + 1;
    }
    const begun = all.flatMap((one, at) => (one.some((n) => n.startsWith(word)) ? [at + 1] : []));
    if (word.length >= 3 && begun.length === 1) {
      return begun[0] ?? 0;
    }
  }
  return 0;
}

function iso(year: string, month: number, day: string): string {
  const full = year.length === 2 ? `20${year}` : year;
  const written = `${full}-${String(month).padStart(2, '0')}-${day.padStart(2, '0')}`;
  const read = new Date(`${written}T00:00:00Z`);
  // A 31 June would be another day, and is none.
  return !Number.isNaN(read.getTime()) && read.toISOString().startsWith(written)
    ? written
    : UNREADABLE;
}

/**
 * A day as a person writes one, read in the reader's order: "31 Mar 2027", "March 31, 2027",
 * "31/3/27", "2027-03-31". Empty for nothing; {@link UNREADABLE} for what is no whole day.
 */
export function readDay(text: string): string {
  const bare = text.trim().toLowerCase();
  if (bare === '') {
    return '';
  }
  const parts = bare
    .replace(/(\d)(st|nd|rd|th)\b/, '$1')
    .split(/[\s,./-]+/)
    .filter((part) => part !== '');
  const [a = '', b = '', c = ''] = parts;
  if (parts.length !== 3) {
    return UNREADABLE;
  }
  const number = /^\d{1,2}$/;
  const year = /^(\d{2}|\d{4})$/;
  if (/^\d{4}$/.test(a) && number.test(b) && number.test(c)) {
    return iso(a, Number(b), c);
  }
  if (!year.test(c)) {
    return UNREADABLE;
  }
  if (number.test(a) && number.test(b)) {
    const order = dates({ day: 'numeric', month: 'numeric', year: 'numeric' })
      .formatToParts(0)
      .map((part) => part.type);
    return order.indexOf('month') < order.indexOf('day')
      ? iso(c, Number(a), b)
      : iso(c, Number(b), a);
  }
  return number.test(a) ? iso(c, month(b), a) : number.test(b) ? iso(c, month(a), b) : UNREADABLE;
}

/** A time of day as a person writes one: "18", "18:30", "18.30", "6:30 pm"; as "18:30". */
export function readTime(text: string): string {
  const bare = text.trim().toLowerCase();
  if (bare === '') {
    return '';
  }
  const [, hours, minutes = '00', half] =
    /^(\d{1,2})(?:[:.]?(\d{2}))?\s*(am|pm)?$/.exec(bare) ?? [];
  if (hours === undefined || Number(minutes) > 59) {
    return UNREADABLE;
  }
  const hour = Number(hours);
  if (half === undefined ? hour > 23 : hour < 1 || hour > 12) {
    return UNREADABLE;
  }
  const told = half === undefined ? hour : (hour % 12) + (half === 'pm' ? 12 : 0);
  return `${String(told).padStart(2, '0')}:${minutes}`;
}
