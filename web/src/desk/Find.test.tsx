import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { problem } from '../testing/page';
import { app, entitlement, LENA, openDesk } from '../testing/samples';
import { Find } from './Find';

const FOUND = {
  people: [LENA],
  peopleTotal: 9,
  groups: [{ id: 'leads', name: 'Counter leads' }],
  groupsTotal: 1,
  apps: [app('Ledger Line', { state: 'paused' })],
  entitlements: [entitlement('Ledger Line · Reader', { id: 'e1', line: 'reads the books' })],
};

function open(powers = ['people.read'], answers = {}, address = '/desk/people') {
  let closed = 0;
  const asked = openDesk(
    address,
    {
      '/desk/people': <Find onClose={() => closed++} />,
      '/desk/people/:id': <h1>A person</h1>,
      '/desk/groups/:id': <h1>A group</h1>,
      '/desk/docket/request/:id': <h1>A request</h1>,
    },
    {
      'GET /api/find': (_: unknown, url: URL) => ({
        body:
          url.searchParams.get('text') === 'zz'
            ? {
                people: [],
                peopleTotal: 0,
                groups: [],
                groupsTotal: 0,
                apps: [],
                entitlements: [],
              }
            : FOUND,
      }),
      'GET /api/requests/numbered/2041': () => ({
        body: {
          id: 'r1',
          number: 'R-2041',
          person: 'Oda Brekke',
          title: 'Refund Bench · Approver',
        },
      }),
      'GET /api/requests/numbered/9': () => ({
        status: 404,
        body: problem('absent', 'Not here.', 404),
      }),
      ...answers,
    },
    { powers },
  );
  return { asked, closed: () => closed };
}

const field = () => screen.findByRole('combobox');
const hits = () => screen.queryAllByRole('option').map((one) => one.textContent);

describe('finding', () => {
  it('tells of each thing what it is, and how many more there are', async () => {
    open();
    await userEvent.type(await field(), 'le');
    await waitFor(() =>
      expect(hits()).toEqual([
        'Aho, Lena Clerk · Ticketing · Harrow Quay',
        'Counter leads Group',
        'Ledger Line Applications · paused',
        'Ledger Line · Reader reads the books',
      ]),
    );
    expect(screen.getByText('8 more; type more of the name')).toBeTruthy();
  });

  it('is gone through by arrows, and leads where Enter is pressed', async () => {
    const { closed } = open();
    await userEvent.type(await field(), 'le');
    await screen.findAllByRole('option');
    await userEvent.keyboard('{ArrowDown}');
    expect(screen.getAllByRole('option')[1]?.getAttribute('aria-selected')).toBe('true');
    await userEvent.keyboard('{Enter}');
    expect(await screen.findByRole('heading', { name: 'A group' })).toBeTruthy();
    expect(closed()).toBe(1);
  });

  it('shows nobody to who may not read people', async () => {
    open([]);
    await userEvent.type(await field(), 'le');
    await waitFor(() => expect(hits()).toHaveLength(3));
    expect(hits().join()).not.toContain('Aho');
    expect(screen.queryByText(/more; type more/)).toBeNull();
  });

  it('finds a request by its number, however it is written', async () => {
    for (const written of ['R-2041', 'r2041', '2041']) {
      open();
      await userEvent.type(await field(), written);
      await waitFor(() =>
        expect(hits()[0]).toBe('R-2041 Access request · Oda Brekke, Refund Bench · Approver'),
      );
      cleanup();
    }
    open();
    await userEvent.type(await field(), '9');
    await waitFor(() => expect(hits()).toHaveLength(4));
  });

  it('says that there is nothing, and keeps the past day in what it leads to', async () => {
    open();
    await userEvent.type(await field(), 'zz');
    expect(await screen.findByText('Nothing here is called “zz”.')).toBeTruthy();
    cleanup();
    open(['people.read'], {}, '/desk/people?asOf=2026-06-01');
    await userEvent.type(await field(), 'le');
    await screen.findAllByRole('option');
    await userEvent.keyboard('{Enter}');
    expect(await screen.findByRole('heading', { name: 'A person' })).toBeTruthy();
  });

  it('leaves what was found at Escape, and the field as it is', async () => {
    open();
    const box = (await field()) as HTMLInputElement;
    await userEvent.type(box, 'le');
    await screen.findAllByRole('option');
    await userEvent.keyboard('{Escape}');
    expect(box.getAttribute('aria-expanded')).toBe('false');
    expect(box.value).toBe('le');
  });
});
