import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { foreseen, layOut, moment, problem } from '../testing/page';
import { app, DONE, entitlement, ground, ODA, openDesk, person, sent } from '../testing/samples';
import { EntitlementPage } from './EntitlementPage';

const APPROVER = entitlement('Refund Bench · Approver', { id: 'e1', sensitivity: 'high' });

const OWN: Schemas['GrantLine'] = {
  id: 'g1',
  subject: { kind: 'person', id: ODA.id, name: ODA.displayed, filter: null, people: 1 },
  from: '2026-03-02T09:00:00Z',
  until: '2027-03-01T23:00:00Z',
  source: 'request',
  request: 'R-2041',
  reason: 'covers the summer',
  givenBy: 'Lena Aho',
};
const DESK: Schemas['GrantLine'] = {
  ...OWN,
  id: 'g2',
  subject: { kind: 'group', id: 'refund', name: 'Refund desk', filter: null, people: 12 },
  until: null,
  source: 'hand',
  request: null,
};

function page(over: Partial<Schemas['EntitlementPage']> = {}): Schemas['EntitlementPage'] {
  return {
    entitlement: APPROVER,
    requestable: true,
    holders: 13,
    without: 0,
    grants: [OWN, DESK],
    units: [
      { unit: 'Ticketing', holders: 12, people: 140 },
      { unit: '', holders: 1, people: 3 },
    ],
    mayGive: true,
    mayEnd: true,
    mayEdit: false,
    at: '2026-11-30T09:00:00Z',
    position: 7,
    ...over,
  };
}

const LOSES = foreseen({
  digest: 'seen-1',
  moments: [
    moment('2026-11-30T09:00:00Z', 'lose', { id: 'e1', title: 'Refund Bench · Approver' }, 12, []),
  ],
});

function open(of: Schemas['EntitlementPage'], answers = {}, address = '/desk/entitlements/e1') {
  const lists: URLSearchParams[] = [];
  const act = (_: unknown, __: URL, headers: Headers) => ({
    body: headers.get('Foresee') === null ? DONE : { ...DONE, foreseen: LOSES },
  });
  const asked = openDesk(
    address,
    {
      '/desk/entitlements/:id': <EntitlementPage />,
      '/desk/queries/new': <h1>A query</h1>,
    },
    {
      'GET /api/entitlements/e1': () => ({ body: of }),
      'GET /api/entitlements/e1/holders': (_: unknown, url: URL) => {
        lists.push(url.searchParams);
        return {
          body: {
            total: 2,
            lines: [
              {
                person: ODA,
                signs: [
                  { by: 'person', name: null, source: 'request' },
                  { by: 'group', name: 'Refund desk', source: 'hand' },
                ],
                until: '2027-03-01T23:00:00Z',
                lastOpened: null,
              },
              {
                person: person('p-siri', 'Siri Dahl'),
                signs: [{ by: 'group', name: 'Refund desk', source: 'hand' }],
                until: null,
                lastOpened: '2026-11-20T09:00:00Z',
              },
            ],
          },
        };
      },
      'GET /api/people/p-oda/holdings/e1': () => ({
        body: {
          person: ODA,
          entitlement: APPROVER,
          holds: true,
          since: '2026-03-02T09:00:00Z',
          until: null,
          lastOpened: null,
          grounds: [
            ground({ until: '2027-03-01T23:00:00Z', request: 'R-2041', source: 'request' }),
            ground({
              grant: 'g2',
              by: 'group',
              chain: [{ id: 'refund', name: 'Refund desk' }],
              form: 'listed',
              covers: 12,
            }),
          ],
          at: '2026-11-30T09:00:00Z',
          position: 7,
        },
      }),
      'GET /api/people/p-oda/holdings/e1/times': () => ({
        body: {
          begins: '2024-11-25T07:00:00Z',
          at: '2026-11-30T09:00:00Z',
          times: [
            { from: '2025-01-01T00:00:00Z', until: '2025-06-01T00:00:00Z' },
            { from: '2026-03-02T09:00:00Z', until: null },
          ],
        },
      }),
      'POST /api/grants/end': act,
      'PUT /api/grants/g1/until': act,
      ...answers,
    },
    { powers: ['people.read', 'access.read', 'access.give', 'use.read'] },
  );
  return { asked, lists };
}

describe('the page of an entitlement', () => {
  beforeAll(layOut);

  it('names what each holder has it through, and until when', async () => {
    open(page({ without: 2 }));
    const row = (await screen.findByRole('button', { name: 'Brekke, Oda' })).closest('[role=row]');
    expect(row?.textContent).toContain('on request');
    expect(row?.textContent).toContain('Refund desk');
    expect(row?.textContent).toMatch(/1 Mar 2027/);
    expect(screen.getByText('13 holders')).toBeTruthy();
    expect(screen.getByText('2 more have been granted it, without effect now')).toBeTruthy();
    // The last use is a day where there was one, and a dash where none is on record.
    const siri = screen.getByRole('button', { name: 'Dahl, Siri' }).closest('[role=row]');
    expect(siri?.textContent).toMatch(/20 Nov 2026/);
    expect(row?.textContent).toContain('–');
  });

  it('shows why one of them holds it, in its address', async () => {
    open(page());
    await userEvent.click(await screen.findByRole('button', { name: 'Brekke, Oda' }));
    expect(await screen.findByText('2 grounds')).toBeTruthy();
    const card = screen
      .getAllByText(/through a group/)
      .at(-1)
      ?.closest('li');
    expect(card?.textContent).toContain('covers 12 people');
    expect(screen.getByText(/R-2041 by Lena Aho/)).toBeTruthy();
    expect(
      screen.getByRole('img', { name: /held from .*2025 to .*2025; held since .*2026/ }),
    ).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Back to the units' }));
    expect(await screen.findByText('Holders by unit')).toBeTruthy();
    expect(screen.getByText('12 of 140')).toBeTruthy();
    expect(screen.getByText('no unit')).toBeTruthy();
  });

  it('ends a grant to a group only once it was seen whom that costs it', async () => {
    const { asked } = open(page());
    await userEvent.click(
      await screen.findByRole('button', { name: 'End the grant to Refund desk' }),
    );
    const dialog = await screen.findByRole('dialog');
    const end = await within(dialog).findByRole<HTMLButtonElement>('button', {
      name: 'End the grant: 12 people lose it',
    });
    expect(end.disabled).toBe(false);
    await userEvent.type(within(dialog).getByLabelText(/^Reason/), 'the desk closes');
    await userEvent.click(end);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked)).toEqual([
      {
        what: 'POST /api/grants/end',
        body: { grants: ['g2'], memberships: [], reason: 'the desk closes' },
      },
    ]);
  });

  it('moves the last day of a grant against the one that stood there', async () => {
    const { asked } = open(page());
    await userEvent.click(
      await screen.findByRole('button', { name: 'Change the last day of the grant to Oda Brekke' }),
    );
    const dialog = await screen.findByRole('dialog');
    const field = within(dialog).getByLabelText<HTMLInputElement>(/^Last day/);
    await userEvent.clear(field);
    const button = () =>
      within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Remove the end date' });
    await waitFor(() => expect(button().disabled).toBe(false));
    await userEvent.type(field, '2027-06-30');
    const set = await within(dialog).findByRole<HTMLButtonElement>('button', {
      name: /Let it end after 30 Jun 2027/,
    });
    await waitFor(() => expect(set.disabled).toBe(false));
    await userEvent.click(set);
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        {
          what: 'PUT /api/grants/g1/until',
          body: { base: '2027-03-01', until: '2027-06-30', reason: '' },
        },
      ]),
    );
  });

  it('says at once what a refusal of the look ahead says, and lets nothing be done', async () => {
    const { asked } = open(page(), {
      'POST /api/grants/end': () => ({
        status: 409,
        body: problem('changed-meanwhile', 'The grant has ended already.', 409),
      }),
    });
    await userEvent.click(
      await screen.findByRole('button', { name: 'End the grant to Oda Brekke' }),
    );
    const dialog = await screen.findByRole('dialog');
    expect(await within(dialog).findByText('The grant has ended already.')).toBeTruthy();
    expect(
      within(dialog).getByRole<HTMLButtonElement>('button', { name: /^End the grant/ }).disabled,
    ).toBe(true);
    expect(sent(asked)).toEqual([]);
  });

  it('is narrowed to a unit and a part of a name', async () => {
    const { lists } = open(page());
    await screen.findByRole('button', { name: 'Brekke, Oda' });
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Unit' }), 'Ticketing');
    await waitFor(() => expect(lists.at(-1)?.get('unit')).toBe('Ticketing'));
    await userEvent.type(screen.getByLabelText('Part of a name'), 'oda');
    await waitFor(() => expect(lists.at(-1)?.get('find')).toBe('oda'));
  });

  it('offers whoever only reads it neither giving nor ending', async () => {
    open(page({ mayGive: false, mayEnd: false, requestable: false }));
    await screen.findByRole('button', { name: 'Brekke, Oda' });
    expect(screen.getByText('Not requestable.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Grant access' })).toBeNull();
    expect(screen.queryByRole('button', { name: /^End the grant/ })).toBeNull();
    expect(screen.queryByRole('button', { name: /^Change the last day/ })).toBeNull();
  });

  it('says what state its app is in, and asks of a month as a query', async () => {
    open(page({ entitlement: { ...APPROVER, app: app('Refund Bench', { state: 'paused' }) } }));
    expect(await screen.findByText('paused', { selector: '.tag' })).toBeTruthy();
    const span = screen.getByRole<HTMLSelectElement>('combobox', { name: 'held' });
    await userEvent.selectOptions(span, span.options[1]?.value ?? '');
    expect(await screen.findByRole('heading', { name: 'A query' })).toBeTruthy();
  });

  it('shows forty grants, and the others on demand', async () => {
    const many = Array.from({ length: 45 }, (_, at) => ({
      ...OWN,
      id: `g-${at}`,
      subject: { ...OWN.subject, id: `p-${at}`, name: `Cadet ${at}` },
    }));
    open(page({ grants: many }));
    await screen.findByText('45 grants');
    expect(screen.getAllByRole('button', { name: /^End the grant to/ })).toHaveLength(40);
    await userEvent.click(screen.getByRole('button', { name: 'Show 5 more' }));
    expect(screen.getAllByRole('button', { name: /^End the grant to/ })).toHaveLength(45);
  });
});
