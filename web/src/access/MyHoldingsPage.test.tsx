import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { DONE, entitlement, ground, openDesk, sent } from '../testing/samples';
import { MyHoldingsPage } from './MyHoldingsPage';

function holding(title: string, over: Partial<Schemas['MyHolding']> = {}): Schemas['MyHolding'] {
  return {
    entitlement: entitlement(title, { id: title, line: `what ${title} is for` }),
    grounds: [ground()],
    since: '2026-03-02T09:00:00Z',
    until: null,
    lastOpened: null,
    opens: true,
    unused: false,
    askable: false,
    contact: '',
    whom: ['Lena Aho'],
    ...over,
  };
}

function soon(days: number): string {
  return new Date(Date.now() + days * 86_400_000).toISOString();
}

function open(holdings: Schemas['MyHolding'][], answers = {}) {
  return openDesk(
    '/access',
    { '/access': <MyHoldingsPage />, '/ask/:id': <h1>Asking</h1> },
    { 'GET /api/my/holdings': () => ({ body: { holdings } }), ...answers },
    { powers: [] },
  );
}

const BACK: Schemas['HandBack'] = {
  entitlement: entitlement('Refund Bench · Approver'),
  gone: true,
  grants: ['g1'],
  groups: [{ id: 'refund', name: 'Refund desk' }],
  loses: [entitlement('Coin House · Reader')],
  remains: [],
  tiles: ['Refund Bench', 'Coin House'],
  whom: [],
};

describe('what one holds oneself', () => {
  it('puts what ends soon and what is unused first', async () => {
    open([
      holding('Farebox · Seller'),
      holding('Quaynotes · Reader', { unused: true }),
      holding('Refund Bench · Approver', { until: soon(6), unused: true, askable: true }),
      holding('Coin House · Reader', { until: soon(200) }),
    ]);
    await screen.findByRole('region', { name: /^Ending soon/ });
    const names = (group: RegExp) =>
      within(screen.getByRole('region', { name: group }))
        .getAllByRole('heading', { level: 3 })
        .map((one) => one.textContent);
    expect(names(/^Ending soon 1/)).toEqual(['Refund Bench · Approver']);
    expect(names(/^Unused .* 1$/)).toEqual(['Quaynotes · Reader']);
    expect(names(/^Everything else 2/)).toEqual(['Farebox · Seller', 'Coin House · Reader']);
    // What ends can be asked for anew where it stands.
    await userEvent.click(screen.getByRole('link', { name: 'Ask to keep it' }));
    expect(await screen.findByRole('heading', { name: 'Asking' })).toBeTruthy();
  });

  it('says why in plain words, whatever the way it came', async () => {
    open([
      holding('Refund Bench · Approver', {
        grounds: [
          ground({ request: 'R-2041', source: 'request', until: '2027-03-01T23:00:00Z' }),
          ground({
            grant: 'g2',
            by: 'group',
            chain: [
              { id: 'leads', name: 'Counter leads' },
              { id: 'office', name: 'Ticket office' },
            ],
            reason: null,
          }),
          ground({ grant: 'g3', by: 'filter', matched: { Unit: 'Ticketing', Site: 'Skarholm' } }),
        ],
      }),
    ]);
    await userEvent.click(await screen.findByRole('button', { name: /^Why/ }));
    const lines = screen.getAllByRole('listitem').map((one) => one.textContent);
    expect(lines.some((one) => one?.includes('You asked for it (R-2041)'))).toBe(true);
    expect(lines.some((one) => /It ends by itself after 1 Mar 2027/.test(one ?? ''))).toBe(true);
    expect(
      lines.some((one) => one?.includes('You are in Counter leads, which is in Ticket office')),
    ).toBe(true);
    expect(
      lines.some((one) =>
        one?.includes('Everyone whose unit is Ticketing and whose site is Skarholm has it.'),
      ),
    ).toBe(true);
    expect(screen.getByText('Whom to ask: Lena Aho.')).toBeTruthy();
  });

  it('is handed back after seeing everything that goes with it', async () => {
    const asked = open([holding('Refund Bench · Approver')], {
      'GET /api/my/holdings/Refund%20Bench%20%C2%B7%20Approver/hand-back': () => ({ body: BACK }),
      'POST /api/my/holdings/Refund%20Bench%20%C2%B7%20Approver/hand-back': () => ({ body: DONE }),
    });
    await userEvent.click(await screen.findByRole('button', { name: /^Hand it back/ }));
    const dialog = await screen.findByRole('dialog');
    await within(dialog).findByText('You leave the group Refund desk');
    expect(within(dialog).getByText('You no longer hold Coin House · Reader')).toBeTruthy();
    expect(within(dialog).getByText(/^2 tiles go: Refund Bench/)).toBeTruthy();
    await userEvent.click(within(dialog).getByRole('button', { name: 'Hand it back' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    // What was seen is what is given back, and nothing that came since.
    expect(sent(asked).at(-1)?.body).toEqual({ grants: ['g1'], groups: ['refund'] });
  });

  it('cannot be handed back where nothing of it is one’s own', async () => {
    open([holding('Quaynotes · Reader')], {
      'GET /api/my/holdings/Quaynotes%20%C2%B7%20Reader/hand-back': () => ({
        body: {
          ...BACK,
          gone: false,
          grants: [],
          groups: [],
          loses: [],
          tiles: [],
          remains: [ground({ by: 'filter', matched: { Unit: 'Ticketing' } })],
          whom: ['Lena Aho'],
        },
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: /^Hand it back/ }));
    const dialog = await screen.findByRole('dialog');
    expect(await within(dialog).findByText(/^You cannot hand it back yourself/)).toBeTruthy();
    expect(within(dialog).getByText('Whom to ask: Lena Aho.')).toBeTruthy();
    expect(within(dialog).queryByRole('button', { name: 'Hand it back' })).toBeNull();
  });

  it('stays in the dialog where the server refuses', async () => {
    open([holding('Farebox')], {
      'GET /api/my/holdings/Farebox/hand-back': () => ({ body: BACK }),
      'POST /api/my/holdings/Farebox/hand-back': () => ({
        status: 409,
        body: problem('changed-meanwhile', 'This has changed. Look again.', 409),
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: /^Hand it back/ }));
    const dialog = await screen.findByRole('dialog');
    await within(dialog).findByText('You leave the group Refund desk');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Hand it back' }));
    expect(await within(dialog).findByText('This has changed. Look again.')).toBeTruthy();
  });

  it('leads whoever holds nothing to asking', async () => {
    open([]);
    expect(await screen.findByText('You have no access yet')).toBeTruthy();
    expect(
      screen.getAllByRole('link', { name: 'Ask for access' }).at(-1)?.getAttribute('href'),
    ).toBe('/ask');
  });
});
