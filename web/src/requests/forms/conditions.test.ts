import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { type Answers, holds, proper, sent, shown } from './conditions';

type Kind = Schemas['AskQuestion']['kind'];
type Vector = {
  types: Record<string, 'text' | 'number' | 'day' | 'yesno' | 'person'>;
  filter: string;
  shape: Schemas['ShapeView'];
  cases: { answers: Answers; holds: boolean }[];
};

const KINDS: Record<string, Kind> = {
  text: 'SHORT',
  number: 'NUMBER',
  day: 'DAY',
  yesno: 'YES_NO',
  person: 'COLLEAGUE',
};

const vectors = JSON.parse(
  readFileSync('../core/src/test/resources/eleutheria/core/requests/conditions.json', 'utf8'),
) as Vector[];

function question(key: string, kind: Kind, more: Partial<Schemas['AskQuestion']> = {}) {
  return {
    key,
    label: key,
    help: '',
    required: true,
    kind,
    choices: [],
    looksLike: '',
    least: null,
    most: null,
    earliest: null,
    latest: null,
    shownWhen: null,
    ...more,
  };
}

function line(attribute: string, operator: string, ...values: string[]): Schemas['ShapeView'] {
  return { kind: 'line', parts: [], attribute, operator, values };
}

describe('conditions over answers', () => {
  it.each(vectors)('hold here as on the server: $filter', ({ types, shape, cases }) => {
    expect(cases.length).toBeGreaterThan(0);
    for (const each of cases) {
      expect(
        holds(shape, (key) => KINDS[types[key] ?? ''], each.answers),
        JSON.stringify(each.answers),
      ).toBe(each.holds);
    }
  });

  it('show what follows, and forget what is hidden without losing what was typed', () => {
    const questions = [
      question('need', 'ONE_OF', { choices: ['Covering', 'Work'] }),
      question('whom', 'SHORT', { shownWhen: line('need', 'eq', 'Covering') }),
      question('till', 'SHORT', { shownWhen: line('whom', 'co', 'mikkel') }),
    ];
    const typed: Answers = { need: ['Work'], whom: ['Mikkel Holm'], till: ['3'] };
    expect(sent(questions, typed)).toEqual({ need: ['Work'] });
    expect(sent(questions, { ...typed, need: ['Covering'] })).toEqual({
      ...typed,
      need: ['Covering'],
    });
    expect(shown(questions, {}).seen.map((one) => one.key)).toEqual(['need']);
  });

  it('take what is no proper answer for none, but send it to be told so', () => {
    const questions = [
      question('amount', 'NUMBER', { least: '1', most: '500.5' }),
      question('why', 'LONG', { shownWhen: line('amount', 'gt', '100') }),
    ];
    for (const wrong of ['lots', '501', '1e2', '0', '1.0001']) {
      expect(shown(questions, { amount: [wrong] }).seen).toHaveLength(1);
      expect(sent(questions, { amount: [wrong] })).toEqual({ amount: [wrong] });
    }
    expect(shown(questions, { amount: [' 500.5 '] }).seen).toHaveLength(2);
  });

  it('know what a short answer must look like', () => {
    const ticket = question('ticket', 'SHORT', { looksLike: 'CR-##*(@)' });
    for (const good of ['CR-12(x)', 'cr-12 anything (Ø)']) {
      expect(proper(ticket, [good])).toEqual([good]);
    }
    for (const bad of ['CR-1(x)', 'CR-12(1)', 'xCR-12(x)', 'CR-12(x']) {
      expect(proper(ticket, [bad])).toEqual([]);
    }
  });

  it('check days, choices, and yes or no', () => {
    const day = question('from', 'DAY', { earliest: '2026-12-01', latest: '2026-12-31' });
    expect(proper(day, ['2026-12-31'])).toEqual(['2026-12-31']);
    expect(proper(day, ['2027-01-01'])).toEqual([]);
    const several = question('sites', 'SEVERAL_OF', { choices: ['Sill', 'Grey Mole'] });
    expect(proper(several, ['Sill', 'Grey Mole'])).toEqual(['Sill', 'Grey Mole']);
    expect(proper(several, ['Sill', 'Skarholm'])).toEqual([]);
    expect(proper(question('urgent', 'YES_NO'), ['maybe'])).toEqual([]);
    expect(proper(question('whom', 'COLLEAGUE'), ['p-1'])).toEqual(['p-1']);
  });
});
