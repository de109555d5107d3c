import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { DONE, openDesk, sent } from '../testing/samples';
import { EntryPage } from './EntryPage';
import { LedgerPage } from './LedgerPage';

function entry(position: number, over: Partial<Schemas['EntryLine']> = {}): Schemas['EntryLine'] {
  return {
    position,
    act: 'GROUP_ADD',
    actor: 'p-ines',
    actorName: 'Ines Roth',
    instant: '2026-11-30T09:00:00Z',
    objects: [
      { id: 'refund', kind: 'group', name: 'Refund desk' },
      { id: 'p-ines', kind: 'person', name: 'Ines Roth' },
    ],
    objectsTotal: 2,
    changes: 1,
    details: {},
    hash: `hash-${position}`,
    previous: `hash-${position - 1}`,
    reason: 'joins the desk',
    ...over,
  };
}

const FIFTY = Array.from({ length: 50 }, (_, at) => entry(4711 - at));

function open(
  address: string,
  answers = {},
  powers = ['ledger.read', 'ledger.export'],
  drafts = false,
) {
  const lists: URLSearchParams[] = [];
  const asked = openDesk(
    address,
    {
      '/desk/ledger': <LedgerPage />,
      '/desk/ledger/:position': <EntryPage />,
      '/desk/drafts/:id': <h1>The draft</h1>,
    },
    {
      'GET /api/ledger': (_: unknown, url: URL) => {
        lists.push(url.searchParams);
        const before = url.searchParams.get('before');
        return {
          body: {
            lines: before === null ? FIFTY : [entry(12, { actorName: 'clock', reason: null })],
            limited: false,
            position: 4711,
          },
        };
      },
      ...answers,
    },
    { powers, drafts },
  );
  return { asked, lists };
}

describe('the ledger', () => {
  it('tells each act in a sentence, and goes on to older ones', async () => {
    const { lists } = open('/desk/ledger');
    const first = (await screen.findByRole('link', { name: '4711' })).closest('tr');
    const cells = [...(first?.cells ?? [])].map((cell) => cell.textContent);
    expect(cells[2]).toBe('Ines Roth');
    expect(cells[3]).toBe('added members');
    // Whoever did it is not told a second time.
    expect(cells[4]).toBe('Refund desk');
    expect(cells.slice(5)).toEqual(['joins the desk', '1']);
    await userEvent.click(screen.getByRole('button', { name: 'Older entries' }));
    const last = (await screen.findByRole('link', { name: '12' })).closest('tr');
    expect(last?.textContent).toContain('the clock');
    expect(lists.at(-1)?.get('before')).toBe('4662');
    // Less than a page: there is nothing older.
    expect(screen.queryByRole('button', { name: 'Older entries' })).toBeNull();
  });

  it('is narrowed by act, days and words in its address', async () => {
    const { lists } = open('/desk/ledger?act=GROUP_ADD&from=2026-11-01&until=2026-11-30&find=desk');
    await screen.findByRole('link', { name: '4711' });
    expect(Object.fromEntries(lists.at(-1) ?? [])).toMatchObject({
      act: 'GROUP_ADD',
      from: '2026-11-01',
      until: '2026-11-30',
      find: 'desk',
    });
    cleanup();
    // What is no act and no day is not asked for.
    const other = open('/desk/ledger?act=EVERYTHING&from=31-31-31');
    await screen.findByRole('link', { name: '4711' });
    expect(other.lists.at(-1)?.has('act')).toBe(false);
    expect(other.lists.at(-1)?.has('from')).toBe(false);
  });

  it.each([
    [{ broken: null, why: null, erased: 3 }, 'Intact: all 4,711 entries, 3 values erased.'],
    [{ broken: 812, why: 'its hash is another' }, 'Broken at entry 812: its hash is another.'],
    [
      { broken: null, why: 'a fact has no entry' },
      'The chain of 4,711 entries is intact, but a fact has no entry.',
    ],
  ])('says what a check found: %o', async (found, told) => {
    open('/desk/ledger', {
      'POST /api/ledger/check': () => ({
        body: { entries: 4711, erased: 0, facts: 9000, ...found },
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Check the chain' }));
    expect(await screen.findByText(told)).toBeTruthy();
  });

  it('is exported only by whoever may, and a refusal is told', async () => {
    open('/desk/ledger', {}, ['ledger.read']);
    await screen.findByRole('link', { name: '4711' });
    expect(screen.queryByRole('button', { name: 'Export as JSON Lines' })).toBeNull();
    cleanup();
    open('/desk/ledger', {
      'POST /api/ledger/export': () => ({
        status: 429,
        body: problem('too-many', 'Another export is still running.', 429),
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Export as JSON Lines' }));
    expect(await screen.findByText('Another export is still running.')).toBeTruthy();
  });

  it('says that it has no past of its own', async () => {
    open('/desk/ledger?asOf=2026-06-01');
    expect(await screen.findByText('This page has no past; it shows the present.')).toBeTruthy();
  });
});

describe('an entry of the ledger', () => {
  const whole = (over: Partial<Schemas['EntryLine']> = {}) => ({
    'GET /api/ledger/4711': () => ({ body: { entry: entry(4711, over), changes: [] } }),
    'POST /api/ledger/4711/revert': () => ({ body: { ...DONE, result: 'd9' } }),
  });

  it('tells its details by name, and the hash it stands on', async () => {
    open('/desk/ledger/4711', whole({ details: { draft: 'd1', leftOut: '3' }, reason: '' }));
    expect(await screen.findByRole('heading', { name: 'Entry 4,711' })).toBeTruthy();
    const told = (name: string) =>
      screen.getByText(name, { selector: 'dt' }).nextElementSibling?.textContent;
    expect(told('Lines skipped')).toBe('3');
    expect(told('Hash')).toBe('hash-4711');
    expect(told('Hash of the entry before')).toBe('hash-4710');
    // A reason that was erased is told as such.
    expect(told('Why')).toBe('erased');
    expect(
      within(screen.getByText('Draft', { selector: 'dt' }).parentElement as HTMLElement)
        .getByRole('link')
        .getAttribute('href'),
    ).toBe('/desk/drafts/d1');
  });

  it('is reverted as a draft, by whoever works with drafts', async () => {
    const { asked } = open(
      '/desk/ledger/4711',
      {
        ...whole(),
        'GET /api/drafts': () => ({ body: { mine: [], shared: [], open: null } }),
      },
      ['ledger.read'],
      true,
    );
    await userEvent.click(await screen.findByRole('button', { name: 'Revert' }));
    expect(await screen.findByRole('heading', { name: 'The draft' })).toBeTruthy();
    expect(sent(asked).map((one) => one.what)).toEqual(['POST /api/ledger/4711/revert']);
    cleanup();
    open('/desk/ledger/4711', whole({ changes: 0 }), ['ledger.read'], true);
    expect(await screen.findByText('No facts changed.')).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Revert' })).toBeNull());
  });
});
