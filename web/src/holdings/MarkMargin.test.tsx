import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { foreseen, problem } from '../testing/page';
import { DONE, entitlement, JONAS, LENA, ODA, openDesk, sent } from '../testing/samples';
import { AskedBar } from './Asking';
import { type Asked, addressOf, both, having, readAsked } from './asked';
import type { Names } from './cells';
import { MarkMargin } from './MarkMargin';

const SELLER = entitlement('Farebox · Seller', { id: 'e1' });

function view(over: Partial<Schemas['MarkView']> = {}): Schemas['MarkView'] {
  return {
    entitlement: SELLER,
    person: null,
    people: 12,
    of: 28,
    held: 12,
    elsewhere: 3,
    unused: 2,
    unusedBy: [ODA],
    unknown: 0,
    use: [0, 4, 9],
    lastUsed: '2026-11-29T09:00:00Z',
    conflicts: 1,
    breaches: [
      {
        person: JONAS,
        rule: 'Pay or count',
        with: entitlement('Coin House · Reader', { id: 'e9' }),
      },
    ],
    signs: [
      { held: 9, signs: [{ by: 'group', source: 'hand' }] },
      {
        held: 3,
        signs: [
          { by: 'person', source: 'request' },
          { by: 'group', source: 'hand' },
        ],
      },
    ],
    ...over,
  };
}

function open(
  of: Schemas['MarkView'],
  mark: Names = { keys: ['Ticketing'], person: undefined, columns: ['e1'] },
  asked: Asked = {},
  answers = {},
  mayEnd = true,
) {
  return openDesk(
    '/desk/holdings',
    {
      '/desk/holdings': (
        <MarkMargin asked={asked} shape={{}} mark={mark} query="/desk/queries/new" />
      ),
    },
    {
      'GET /api/holdings/mark': () => ({ body: of }),
      'GET /api/holdings/choices': () => ({
        body: { attributes: [], looksAtUse: true, mayEnd },
      }),
      'GET /api/holdings/endings': () => ({
        body: {
          ends: 2,
          grants: ['g1', 'g2'],
          more: 4,
          stays: [{ person: LENA, entitlement: SELLER, group: 'staff', on: 'Ticketing staff' }],
        },
      }),
      'POST /api/grants/end': (_: unknown, __: URL, headers: Headers) => ({
        body:
          headers.get('Foresee') === null ? DONE : { ...DONE, foreseen: foreseen({ digest: 's' }) },
      }),
      ...answers,
    },
    { powers: ['access.read', 'use.read'] },
  );
}

describe('what is selected on the map', () => {
  it('is told in numbers, each with the way to what is behind it', async () => {
    open(view());
    expect(await screen.findByText('held by 12 of 28 here; 3 more elsewhere')).toBeTruthy();
    expect(screen.getByText('Ticketing')).toBeTruthy();
    const grounds = screen
      .getAllByRole('listitem')
      .filter((one) => one.className === 'sign-count')
      .map((one) => one.textContent);
    expect(grounds[1]).toMatch(/granted directly, on request \+ through a group3$/);
    expect(screen.getByText(/2 of the 12/).parentElement?.textContent).toContain(
      'unused for 90 days: Oda Brekke and 1 more',
    );
    expect(screen.getByRole('link', { name: 'and 1 more' }).getAttribute('href')).toContain(
      'only=unused',
    );
    expect(screen.getByRole('link', { name: 'Weir, Jonas' }).closest('li')?.textContent).toBe(
      'Weir, Jonas also holds Coin House · Reader breaks “Pay or count”',
    );
  });

  it('becomes a list of just these people and things', async () => {
    open(view(), { keys: ['Ticketing', ''], person: undefined, columns: ['e1'] });
    const list = await screen.findByRole('link', { name: 'List and download 12 holdings' });
    const query = new URLSearchParams(list.getAttribute('href')?.split('?')[1]);
    expect(query.get('entitlements')).toBe('e1');
    expect(query.get('where')).toBe('(unit eq "Ticketing" or not (unit pr))');
  });

  it('is ended as far as it stands on grants of their own, and says what stays', async () => {
    const asked = open(view());
    await userEvent.click(await screen.findByRole('button', { name: 'End the 2 unused…' }));
    const dialog = await screen.findByRole('dialog', { name: 'End what is unused' });
    expect(await within(dialog).findByText(/^2 holdings end\. 5 stay/)).toBeTruthy();
    expect(
      within(dialog).getByText('Aho, Lena, Farebox · Seller: through', { exact: false }),
    ).toBeTruthy();
    expect(within(dialog).getByText('and 4 more')).toBeTruthy();
    await userEvent.type(within(dialog).getByLabelText(/^Reason/), 'season over');
    const end = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'End 2 holdings' });
    await waitFor(() => expect(end.disabled).toBe(false));
    await userEvent.click(end);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked)).toEqual([
      {
        what: 'POST /api/grants/end',
        body: { grants: ['g1', 'g2'], memberships: [], reason: 'season over' },
      },
    ]);
  });

  it('is not ended where the whole map is meant, on another day, or without the power', async () => {
    const nothing: Names = { keys: undefined, person: undefined, columns: undefined };
    open(view({ entitlement: null }), nothing);
    expect(await screen.findByText('The whole map')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^End/ })).toBeNull();
    cleanup();
    open(view(), undefined, { against: '2026-10-31T22:59:59Z' });
    expect(await screen.findByText(/^12 people gained or lost it/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^End/ })).toBeNull();
    cleanup();
    open(view(), undefined, {}, {}, false);
    await screen.findByText('held by 12 of 28 here; 3 more elsewhere');
    await waitFor(() => expect(screen.queryByRole('button', { name: /^End/ })).toBeNull());
  });

  it('says that use is not known, or that all of it is used', async () => {
    open(view({ unused: 0, unusedBy: [], unknown: 12, use: null, conflicts: 0, breaches: [] }));
    expect(await screen.findByText(/^The use of 12 holdings is not known/)).toBeTruthy();
    expect(screen.queryByText(/None of it has gone unused/)).toBeNull();
    cleanup();
    open(view({ unused: 0, unusedBy: [], unknown: 0, lastUsed: null }));
    expect(await screen.findByText('None of it has gone unused for 90 days.')).toBeTruthy();
    expect(screen.getByText('3 weeks of use. Not used in that time.')).toBeTruthy();
  });

  it('says why it could not be told', async () => {
    open(
      view(),
      undefined,
      {},
      {
        'GET /api/holdings/mark': () => ({
          status: 422,
          body: problem('filter', 'The filter names nothing.', 422),
        }),
      },
    );
    expect(await screen.findByText('The filter names nothing.')).toBeTruthy();
  });
});

describe('what is asked for', () => {
  it('is the same in an address and back', () => {
    const asked: Asked = {
      apps: ['a1', 'a2'],
      sensitivities: ['high'],
      where: 'unit eq "Ticketing"',
      only: ['unused'],
      days: 60,
      from: '2026-01-01',
      until: '2026-03-31',
    };
    const address = addressOf('/desk/holdings', asked, 'Europe/Oslo');
    const query = new URLSearchParams(address.split('?')[1]);
    const again = readAsked((name) => query.get(name) ?? '', 'Europe/Oslo');
    expect(
      Object.fromEntries(Object.entries(again).filter(([, one]) => one !== undefined)),
    ).toEqual(asked);
    // A day is the end of that day where the organisation is, summer or winter.
    expect(
      readAsked((name) => (name === 'against' ? '2026-07-01' : ''), 'Europe/Oslo').against,
    ).toMatch(/^2026-07-01T2[12]:/);
    expect(addressOf('/desk/holdings', {}, 'Europe/Oslo')).toBe('/desk/holdings');
  });

  it('joins filters, quotes values, and tells none from some', () => {
    expect(having('unit', 'Quay "A"')).toBe('unit eq "Quay \\"A\\""');
    expect(having('unit', '')).toBe('not (unit pr)');
    expect(both(undefined, 'unit pr')).toBe('unit pr');
    expect(both('a pr', 'b pr')).toBe('(a pr) and (b pr)');
  });

  function bar(address: string, looksAtUse = true) {
    openDesk(
      address,
      { '/desk/holdings': <AskedBar /> },
      {
        'GET /api/holdings/choices': () => ({
          body: { attributes: [], looksAtUse, mayEnd: true },
        }),
        'GET /api/attributes': () => ({ body: [] }),
        'POST /api/filters/try': () => ({
          body: {
            count: 3,
            error: null,
            from: 0,
            until: 0,
            more: null,
            fewer: null,
            sample: [],
            words: 'whose unit is Ticketing',
            shape: null,
          },
        }),
      },
      { powers: ['access.read'] },
    );
  }

  it('is switched on and off by marks, and shown whole again', async () => {
    bar('/desk/holdings');
    const unused = await screen.findByRole('button', { name: 'unused' });
    await userEvent.click(unused);
    expect(unused.getAttribute('aria-pressed')).toBe('true');
    await userEvent.click(screen.getByRole('button', { name: 'in conflict' }));
    await userEvent.click(screen.getByRole('button', { name: 'Show everything' }));
    expect(unused.getAttribute('aria-pressed')).toBe('false');
    expect(screen.queryByRole('button', { name: 'Show everything' })).toBeNull();
  });

  it('knows no marks of use for who may not see use, and none of a span', async () => {
    bar('/desk/holdings', false);
    await screen.findByRole('button', { name: 'in conflict' });
    expect(screen.queryByRole('button', { name: 'unused' })).toBeNull();
    cleanup();
    bar('/desk/holdings?from=2026-01-01&until=2026-03-31');
    expect(
      await screen.findByRole('button', { name: /any time from 1 Jan 2026 to 31 Mar 2026/ }),
    ).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'in conflict' })).toBeNull();
  });

  it('tells a filter in words, and asks for another day', async () => {
    bar('/desk/holdings?where=unit%20eq%20%22Ticketing%22&only=unused');
    expect(
      await screen.findByRole('button', { name: 'people whose unit is Ticketing' }),
    ).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'when now' }));
    await userEvent.click(screen.getByLabelText('What has changed since a day'));
    await userEvent.type(screen.getByLabelText('Since the end of'), '2026-10-31');
    await userEvent.click(screen.getByRole('button', { name: 'Show' }));
    expect(await screen.findByRole('button', { name: /changes since 31 Oct 2026/ })).toBeTruthy();
    // Marks are of one moment, and go.
    expect(screen.queryByRole('button', { name: 'unused' })).toBeNull();
  });
});
