import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { DONE, entitlement, ODA, openDesk, sent } from '../testing/samples';
import { HintsPage } from './HintsPage';

const UNUSED: Schemas['UnusedHint'] = {
  kind: 'UNUSED',
  key: 'k1',
  entitlement: entitlement('Tide Atlas · Editor', { id: 'e1' }),
  people: 6,
  draft: { ends: ['g1', 'g2'], gives: [] },
  aside: null,
};
const RULE: Schemas['RuleHint'] = {
  kind: 'RULE',
  key: 'k3',
  entitlement: entitlement('Farebox · Seller', { id: 'e3' }),
  people: 28,
  filter: 'unit eq "Ticketing"',
  filterWords: 'whose unit is Ticketing',
  draft: {
    ends: ['g1', 'g2'],
    gives: [{ entitlement: 'e3', kind: 'filter', subject: 'unit eq "Ticketing"' }],
  },
  aside: null,
};
const KINDS: Schemas['HintLine'][] = [
  UNUSED,
  {
    kind: 'UNLIKE',
    key: 'k2',
    entitlement: entitlement('Refund Bench · Approver', { id: 'e2' }),
    person: ODA,
    alike: 1,
    peers: 24,
    draft: { ends: ['g3'], gives: [] },
    aside: null,
  },
  RULE,
  {
    kind: 'IDLE',
    key: 'k4',
    entitlement: entitlement('Quaynotes · Reader', { id: 'e4' }),
    people: 0,
    subject: { kind: 'group', id: 'cadets', name: 'Cadets', filter: null, people: 0 },
    draft: { ends: ['g4'], gives: [] },
    aside: null,
  },
  {
    kind: 'SAME',
    key: 'k5',
    people: 9,
    groups: [
      { id: 'a', name: 'Night watch' },
      { id: 'b', name: 'Harbour nights' },
    ],
    draft: { ends: [], gives: [] },
    aside: null,
  },
];

function open(hints: Schemas['HintLine'][], answers = {}, drafts = true) {
  const asked = openDesk(
    '/desk/hints',
    { '/desk/hints': <HintsPage />, '/desk/drafts/:id': <h1>The draft</h1> },
    {
      'GET /api/hints': (_: unknown, url: URL) => ({
        body: {
          kinds: hints.map((one) => ({ kind: one.kind, total: 3, hints: [one] })),
          aside: url.searchParams.get('aside') === 'true' ? 0 : 4,
          maySet: true,
          thresholds: { days: 120, peers: 10, share: 10, nearlyAll: 90 },
          position: 7,
        },
      }),
      'POST /api/drafts': () => ({ body: { ...DONE, result: 'd1' } }),
      'DELETE /api/drafts/d1': () => ({ body: DONE }),
      'POST /api/grants/end': () => ({ body: { ...DONE, edit: 1 } }),
      'POST /api/entitlements/e3/grants': () => ({ body: { ...DONE, edit: 1 } }),
      'POST /api/hints/aside': () => ({ body: DONE }),
      'POST /api/hints/back': () => ({ body: DONE }),
      'PUT /api/hints/thresholds': () => ({ body: DONE }),
      ...answers,
    },
    { powers: ['access.read'], drafts },
  );
  return asked;
}

describe('hints', () => {
  it('say each with its own numbers', async () => {
    open(KINDS);
    const line = async (text: string | RegExp) =>
      (await screen.findByText(text, { selector: 'a, b' })).closest('li')?.textContent;
    expect(await line('Tide Atlas · Editor')).toContain(
      'none of its 6 holders has used it for 120 days.',
    );
    expect(await line('Brekke, Oda')).toMatch(
      /holds Refund Bench · Approver: 1 of 24 others with the same unit and title do\. Clerk, Ticketing/,
    );
    expect(await line('Farebox · Seller')).toContain(
      'all 28 have it, through 2 grants of their own; the same people match',
    );
    expect(await line('Quaynotes · Reader')).toContain('the grant to Cadets covers nobody.');
    expect(await line('Night watch')).toContain(
      'Night watch and Harbour nights: the same 9 members.',
    );
    expect(screen.getAllByText('2 more; they appear once these are dealt with.')).toHaveLength(5);
  });

  it('open as a draft that ends the grants, and lead to it', async () => {
    const asked = open([UNUSED]);
    await userEvent.click(await screen.findByRole('button', { name: 'Draft: end 2 grants' }));
    expect(await screen.findByRole('heading', { name: 'The draft' })).toBeTruthy();
    expect(sent(asked)).toEqual([
      { what: 'POST /api/drafts', body: { name: 'Unused: Tide Atlas · Editor' } },
      {
        what: 'POST /api/grants/end',
        body: { grants: ['g1', 'g2'], memberships: [], reason: 'Nobody uses it.' },
      },
    ]);
  });

  it('give by one filter before they end what it replaces', async () => {
    const asked = open([RULE]);
    await userEvent.click(await screen.findByRole('button', { name: 'Draft: one filter instead' }));
    await screen.findByRole('heading', { name: 'The draft' });
    expect(sent(asked).map((one) => one.what)).toEqual([
      'POST /api/drafts',
      'POST /api/entitlements/e3/grants',
      'POST /api/grants/end',
    ]);
    expect(sent(asked)[1]?.body).toMatchObject({
      subjects: [{ kind: 'filter', id: null, filter: 'unit eq "Ticketing"' }],
    });
  });

  it('leave no half draft behind where a part is refused', async () => {
    const asked = open([UNUSED], {
      'POST /api/grants/end': () => ({
        status: 403,
        body: problem('power-missing', 'You may not end this grant.', 403),
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Draft: end 2 grants' }));
    expect(await screen.findByText('You may not end this grant.')).toBeTruthy();
    expect(sent(asked).map((one) => one.what)).toEqual([
      'POST /api/drafts',
      'POST /api/grants/end',
      'DELETE /api/drafts/d1',
    ]);
    expect(screen.queryByRole('heading', { name: 'The draft' })).toBeNull();
  });

  it('are dismissed with a reason and shown again', async () => {
    const asked = open([UNUSED]);
    await userEvent.click(await screen.findByRole('button', { name: 'Dismiss' }));
    const dialog = await screen.findByRole('dialog');
    await userEvent.type(within(dialog).getByLabelText(/^Why it can stay/), 'for the storm season');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Dismiss' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked).at(-1)?.body).toEqual({ key: 'k1', reason: 'for the storm season' });
    cleanup();
    const again = open([
      { ...UNUSED, aside: { by: 'Ines Roth', at: '2026-11-01T09:00:00Z', reason: 'storm season' } },
    ]);
    expect(await screen.findByText(/^Dismissed by Ines Roth on 1 Nov 2026:/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Show it again' }));
    await waitFor(() => expect(sent(again).at(-1)?.body).toEqual({ key: 'k1' }));
  });

  it('offer no draft to whoever works with none', async () => {
    open([UNUSED], {}, false);
    await screen.findByRole('button', { name: 'Dismiss' });
    expect(screen.queryByRole('button', { name: /^Draft/ })).toBeNull();
  });

  it('have their thresholds set for everyone, or are told at the field why not', async () => {
    let refuse = true;
    const asked = open([], {
      'PUT /api/hints/thresholds': () =>
        refuse
          ? { status: 422, body: problem('out-of-range', 'From 1 to 730.', 422, 'days') }
          : { body: DONE },
    });
    expect(await screen.findByText('Nothing stands out')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Thresholds' }));
    const dialog = await screen.findByRole('dialog');
    const days = within(dialog).getByLabelText<HTMLInputElement>(/^Unused: days/);
    expect(days.value).toBe('120');
    await userEvent.clear(days);
    await userEvent.type(days, '900');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Set for everyone' }));
    expect(await within(dialog).findByText('From 1 to 730.')).toBeTruthy();
    refuse = false;
    await userEvent.clear(days);
    await userEvent.type(days, '90');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Set for everyone' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked).at(-1)?.body).toEqual({ days: 90, peers: 10, share: 10, nearlyAll: 90 });
  });
});
