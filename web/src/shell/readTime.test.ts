import { afterEach, expect, test } from 'vitest';
import { setLocale } from '../words/locale';
import { readDay, readTime } from './readTime';
import { tellDay, UNREADABLE } from './times';

afterEach(() => setLocale('en-GB'));

test.each([
  ['31 Mar 2027'],
  ['31 march 2027'],
  ['31st March, 2027'],
  ['March 31, 2027'],
  ['31/3/2027'],
  ['31.03.27'],
  ['31-3-2027'],
  ['2027-03-31'],
  [' 31  Mar  2027 '],
])('%s is a day', (text) => {
  setLocale('en-GB');
  expect(readDay(text)).toBe('2027-03-31');
});

test.each([
  ['31'],
  ['31 Mar'],
  ['31 Jun 2027'],
  ['29 Feb 2027'],
  ['31 Ma 2027'],
  ['13/13/2027'],
  ['soon'],
  ['31/3/202'],
])('%s is no day yet', (text) => {
  setLocale('en-GB');
  expect(readDay(text)).toBe(UNREADABLE);
});

test('numbers are read in the order in which the reader writes them', () => {
  setLocale('en-GB');
  expect(readDay('4/5/2027')).toBe('2027-05-04');
  setLocale('en-US');
  expect(readDay('4/5/2027')).toBe('2027-04-05');
});

test('every day that is told is read as the same day, in each way of writing', () => {
  for (const locale of ['en-GB', 'en-US', 'en-CA', 'en-AU', 'de-DE', 'fr-FR', 'nb-NO']) {
    setLocale(locale);
    for (let day = Date.UTC(2026, 0, 1); day < Date.UTC(2027, 0, 1); day += 5 * 86_400_000) {
      const iso = new Date(day).toISOString().slice(0, 10);
      expect([locale, readDay(tellDay(iso))]).toEqual([locale, iso]);
    }
  }
});

test('times of day', () => {
  expect(
    ['18', '18:30', '18.30', '1830', '6 pm', '6:30pm', '12 am', '9:05', ''].map(readTime),
  ).toEqual(['18:00', '18:30', '18:30', '18:30', '18:00', '18:30', '00:00', '09:05', '']);
  expect(['24', '18:60', '13 pm', 'noon', '1:2'].map(readTime)).toEqual(Array(5).fill(UNREADABLE));
});
