import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { foreseen, moment, problem } from '../testing/page';
import { app, DONE, LENA, openDesk, sent } from '../testing/samples';
import { AppPage } from './AppPage';
import { NewAppPage } from './NewAppPage';

const CLERK: Schemas['RoleLine'] = {
  id: 'e1',
  name: 'Clerk',
  line: 'pays small sums back',
  sensitivity: 'low',
  requestable: true,
  holders: 12,
  grants: 3,
};

function page(over: Partial<Schemas['AppPage']> = {}): Schemas['AppPage'] {
  return {
    app: app('Refund Bench', { id: 'a1' }),
    line: 'pays money back',
    address: 'https://refunds.ternsound.example/',
    contact: 'refunds@ternsound.example',
    nicknames: ['refunds', 'the bench'],
    sensitivity: 'high',
    owners: [LENA],
    since: '2025-01-01T00:00:00Z',
    entitlements: [CLERK],
    seats: { count: 50, price: 450, currency: 'EUR' },
    tiles: [{ id: 't1', name: 'Refunds' }],
    missing: [],
    mayArrange: true,
    mayEdit: true,
    maySetWayIn: true,
    at: '2026-11-30T09:00:00Z',
    position: 7,
    ...over,
  };
}

function open(of: Schemas['AppPage'] | (() => Schemas['AppPage']), answers = {}) {
  const act = (_: unknown, __: URL, headers: Headers) => ({
    body:
      headers.get('Foresee') === null
        ? DONE
        : {
            ...DONE,
            foreseen: foreseen({
              digest: 'seen',
              moments: [
                moment(
                  '2026-11-30T09:00:00Z',
                  'lose',
                  { id: 'e1', title: 'Refund Bench · Clerk' },
                  12,
                  [],
                ),
              ],
            }),
          },
  });
  return openDesk(
    '/desk/apps/a1',
    { '/desk/apps/:id': <AppPage />, '/desk/entitlements/:id': <h1>An entitlement</h1> },
    {
      'GET /api/apps/a1': () => ({ body: typeof of === 'function' ? of() : of }),
      'PUT /api/apps/a1/state': act,
      'PUT /api/apps/a1/link': () => ({ body: DONE }),
      'PUT /api/apps/a1/seats': () => ({ body: DONE }),
      'PUT /api/apps/a1/profile': () => ({ body: DONE }),
      'POST /api/apps/a1/entitlements': () => ({ body: DONE }),
      'PUT /api/entitlements/e1': () => ({ body: DONE }),
      'GET /api/pictures': () => ({ body: { pictures: ['key'], hues: ['tide'] } }),
      ...answers,
    },
    { powers: ['apps.read', 'apps.edit'] },
  );
}

describe('the page of an application', () => {
  it('tells what it is, who answers for it, and how people get in', async () => {
    open(page());
    expect(await screen.findByRole('heading', { name: 'Refund Bench' })).toBeTruthy();
    expect(screen.getByText('refunds, the bench')).toBeTruthy();
    expect(screen.getByText('https://refunds.ternsound.example/')).toBeTruthy();
    expect(screen.getByText('50 seats at 4.50 EUR a month each')).toBeTruthy();
    const row = screen.getByRole('link', { name: 'Clerk' }).closest('tr');
    expect([...(row?.cells ?? [])].slice(2, 5).map((cell) => cell.textContent)).toEqual([
      'requestable',
      '12',
      '3',
    ]);
  });

  it('says what a proposed app still needs, and is opened only then', async () => {
    open(
      page({
        app: app('Refund Bench', { id: 'a1', state: 'proposed' }),
        missing: ['owner', 'way-in'],
      }),
    );
    expect(
      await screen.findByText('It needs an owner, a way in before it can be opened.'),
    ).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Open it' }).disabled).toBe(true);
    expect(screen.queryByRole('button', { name: 'Pause it' })).toBeNull();
  });

  it('is paused only after it was seen who loses what, with a reason', async () => {
    const asked = open(page());
    await userEvent.click(await screen.findByRole('button', { name: 'Pause it' }));
    const dialog = await screen.findByRole('dialog', { name: 'Pause it “Refund Bench”' });
    expect(await within(dialog).findByText(/Refund Bench · Clerk/)).toBeTruthy();
    await userEvent.type(within(dialog).getByLabelText(/^Reason/), 'audit');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Pause it' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked)).toEqual([
      {
        what: 'PUT /api/apps/a1/state',
        body: { base: 'OPEN', state: 'PAUSED', reason: 'audit' },
      },
    ]);
  });

  it('offers of each state only what may follow it', async () => {
    for (const [state, acts] of [
      ['paused', ['Open it', 'Retire it']],
      ['blocked', ['Retire it']],
      ['retired', []],
    ] as [string, string[]][]) {
      open(page({ app: app('Refund Bench', { id: 'a1', state }) }));
      await screen.findByRole('heading', { name: 'Refund Bench' });
      expect(
        ['Open it', 'Pause it', 'Retire it'].filter((name) =>
          screen.queryByRole('button', { name }),
        ),
      ).toEqual(acts);
      cleanup();
    }
  });

  it('has its address changed against the one that stood there, and says where that is wrong', async () => {
    let wrong = true;
    const asked = open(page(), {
      'PUT /api/apps/a1/link': () =>
        wrong
          ? {
              status: 422,
              body: problem('address', 'It must begin with https://.', 422, 'address'),
            }
          : { body: DONE },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Set the address' }));
    const field = screen.getByLabelText<HTMLInputElement>('Address it opens at');
    await userEvent.clear(field);
    await userEvent.type(field, 'ftp://x.example');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('It must begin with https://.')).toBeTruthy();
    wrong = false;
    await userEvent.clear(field);
    await userEvent.type(field, 'https://new.ternsound.example/');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(sent(asked).at(-1)?.body).toEqual({
        base: 'https://refunds.ternsound.example/',
        address: 'https://new.ternsound.example/',
      }),
    );
  });

  it('takes a price as people write one, and no seats where nothing stands', async () => {
    const asked = open(page());
    await userEvent.click(await screen.findByRole('button', { name: 'Set seats' }));
    let dialog = await screen.findByRole('dialog', { name: 'Seats of Refund Bench' });
    const price = within(dialog).getByLabelText<HTMLInputElement>('Price per seat, per month');
    expect(price.value).toBe('4.50');
    await userEvent.clear(price);
    await userEvent.type(price, '12,90');
    const currency = within(dialog).getByLabelText(/^Currency/);
    await userEvent.clear(currency);
    await userEvent.type(currency, 'nok');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Set seats' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked)[0]?.body).toEqual({
      base: { count: 50, price: 450, currency: 'EUR' },
      wanted: { count: 50, price: 1290, currency: 'NOK' },
    });
    await userEvent.click(screen.getByRole('button', { name: 'Set seats' }));
    dialog = await screen.findByRole('dialog');
    await userEvent.clear(within(dialog).getByLabelText('Seats paid for'));
    await userEvent.clear(within(dialog).getByLabelText('Price per seat, per month'));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Set seats' }));
    await waitFor(() => expect(sent(asked)).toHaveLength(2));
    expect(sent(asked)[1]?.body).toMatchObject({ wanted: null });
  });

  it('has an entitlement added and another changed', async () => {
    const asked = open(page());
    await userEvent.click(await screen.findByRole('button', { name: 'Add an entitlement' }));
    let dialog = await screen.findByRole('dialog', { name: 'Add an entitlement' });
    await userEvent.type(within(dialog).getByLabelText('Entitlement'), 'Approver');
    await userEvent.selectOptions(within(dialog).getByLabelText('Sensitivity'), 'HIGH');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Add entitlement' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked)[0]?.body).toEqual({
      name: 'Approver',
      line: '',
      sensitivity: 'HIGH',
      requestable: true,
    });
    await userEvent.click(screen.getByRole('button', { name: 'Change Clerk' }));
    dialog = await screen.findByRole('dialog', { name: 'Change Clerk' });
    await userEvent.click(within(dialog).getByLabelText('Requestable'));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const clerk = {
      name: 'Clerk',
      line: 'pays small sums back',
      sensitivity: 'LOW',
      requestable: true,
    };
    expect(sent(asked)[1]).toEqual({
      what: 'PUT /api/entitlements/e1',
      body: { base: clerk, wanted: { ...clerk, requestable: false } },
    });
  });

  it('shows theirs beside yours where somebody has changed it meanwhile', async () => {
    let contact = 'refunds@ternsound.example';
    const asked = open(() => page({ contact }), {
      'PUT /api/apps/a1/profile': (body: unknown) =>
        (body as { base: { contact: string } }).base.contact === contact
          ? { body: DONE }
          : { status: 409, body: problem('changed-meanwhile', 'Somebody changed it.', 409) },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Change what it is' }));
    const dialog = await screen.findByRole('dialog');
    const name = within(dialog).getByLabelText('Name');
    await userEvent.clear(name);
    await userEvent.type(name, 'Refunds');
    contact = 'desk 4';
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    const note = await within(dialog).findByRole('alert', { name: /changed/ });
    // Only what was changed by somebody else is told.
    expect(
      within(note)
        .getAllByRole('rowheader')
        .map((one) => one.closest('tr')?.textContent),
    ).toEqual(['Contactdesk 4not changed by you']);
    await userEvent.click(within(note).getAllByRole('button').at(-1) as HTMLElement);
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked).at(-1)?.body).toMatchObject({
      base: { contact: 'desk 4', name: 'Refund Bench' },
      wanted: { contact: 'desk 4', name: 'Refunds' },
    });
  });

  it('is only read by whoever may not change it', async () => {
    open(page({ mayEdit: false, maySetWayIn: false, mayArrange: false, owners: [], tiles: [] }));
    await screen.findByRole('heading', { name: 'Refund Bench' });
    expect(screen.queryAllByRole('button')).toEqual([]);
    expect(screen.getByText('no owner')).toBeTruthy();
    expect(screen.getByText('No tile opens it yet.')).toBeTruthy();
  });
});

describe('adding an application', () => {
  function openNew(answers = {}) {
    return openDesk(
      '/desk/apps/new',
      { '/desk/apps/new': <NewAppPage />, '/desk/apps/:id': <h1>The new app</h1> },
      {
        'POST /api/apps': () => ({ body: { ...DONE, result: 'a9' } }),
        'GET /api/pictures': () => ({ body: { pictures: ['notebook'], hues: ['slate'] } }),
        ...answers,
      },
      { powers: ['apps.edit'] },
    );
  }

  it('sends the entitlements that were filled in, and leads to it', async () => {
    const asked = openNew();
    await userEvent.type(await screen.findByLabelText('Name'), 'Knot board');
    await userEvent.type(screen.getByLabelText('Also called'), 'knots, ropes');
    await userEvent.click(screen.getByRole('button', { name: 'Add another entitlement' }));
    await userEvent.click(screen.getByRole('button', { name: 'Add another entitlement' }));
    const second = screen.getByRole('group', { name: 'Entitlement 2' });
    await userEvent.type(within(second).getByLabelText('Entitlement'), 'Learner');
    await userEvent.click(screen.getByRole('button', { name: 'Add app' }));
    expect(await screen.findByRole('heading', { name: 'The new app' })).toBeTruthy();
    expect(sent(asked)[0]?.body).toMatchObject({
      profile: { name: 'Knot board', nicknames: ['knots', 'ropes'] },
      address: null,
      owners: [],
      entitlements: [{ name: 'Learner' }],
    });
  });

  it('keeps all of it where something is wrong, each thing at its field', async () => {
    openNew({
      'POST /api/apps': () => ({
        status: 422,
        body: {
          ...problem('name-taken', 'There is an app of this name.', 422, 'name'),
          problems: [
            { code: 'name-taken', field: 'name', sentence: 'There is an app of this name.' },
            { code: 'owner', field: 'owners', sentence: 'Lena Aho has departed.' },
          ],
        },
      }),
    });
    const name = await screen.findByLabelText<HTMLInputElement>('Name');
    await userEvent.type(name, 'Farebox');
    await userEvent.click(screen.getByRole('button', { name: 'Add app' }));
    expect(await screen.findByText('There is an app of this name.')).toBeTruthy();
    expect(screen.getByText('Lena Aho has departed.')).toBeTruthy();
    expect(name.value).toBe('Farebox');
  });
});
