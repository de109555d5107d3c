import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { SIGNED } from '../testing/page';
import { LENA, ODA, openDesk } from '../testing/samples';
import { PortalUsePage } from './PortalUsePage';
import { WherePage } from './WherePage';

function use(id: string, name: string, openings: number[]): Schemas['TileUse'] {
  return { id, name, openings, picture: 'key', hue: 'tide', holders: 12 };
}

describe('the use of the portal', () => {
  function open(over: Partial<Schemas['UseView']>) {
    openDesk(
      '/desk/portal/use',
      { '/desk/portal/use': <PortalUsePage /> },
      {
        'GET /api/portal/use': () => ({
          body: {
            weeks: ['2026-11-16', '2026-11-23', '2026-11-30'],
            tiles: [],
            collections: [],
            sought: [],
            ...over,
          },
        }),
      },
      { powers: ['portal.curate'] },
    );
  }

  it('puts the most used first, and tells each week in words', async () => {
    open({
      tiles: [use('t1', 'Farebox', [3, 9, 1]), use('t2', 'Coin House', [20, 1, 0])],
      collections: [{ id: 'c1', name: 'Ticket office', openings: [23, 10, 1] }],
    });
    const table = await screen.findByRole('table', { name: 'Tiles, by week' });
    expect(
      within(table)
        .getAllByRole('link')
        .map((one) => one.textContent),
    ).toEqual(['Coin House', 'Farebox']);
    expect(
      within(table).getByRole('img', {
        name: /^13 uses; most, 9, in the week of 23 Nov.*; 1 so far this week$/,
      }),
    ).toBeTruthy();
  });

  it('names what nobody used, how many could, and what was looked for in vain', async () => {
    open({
      tiles: [use('t1', 'Farebox', [0, 0, 0])],
      sought: [{ words: 'parking', times: 4 }],
    });
    expect(await screen.findByText('1 tile nobody used')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Farebox' }).closest('li')?.textContent).toBe(
      'Farebox 12 people could',
    );
    expect(screen.getByText('4 times').closest('li')?.textContent).toBe('“parking” 4 times');
    expect(screen.getByText('Nothing was used in these weeks')).toBeTruthy();
  });
});

describe('where is it?', () => {
  function faced(id: string, name: string): Schemas['TileView'] {
    return {
      id,
      name,
      line: '',
      picture: 'key',
      hue: 'tide',
      app: name,
      apart: false,
      contact: '',
      ends: null,
      nicknames: [],
      offered: null,
      tidings: '',
      whom: [],
    };
  }

  function open(
    address = '/desk/portal/where',
    tiles = [faced('t1', 'Farebox'), faced('t2', 'Refund Bench')],
  ) {
    openDesk(
      address,
      { '/desk/portal/where': <WherePage /> },
      {
        'GET /api/find': () => ({
          body: {
            people: [LENA],
            peopleTotal: 1,
            groups: [],
            groupsTotal: 0,
            apps: [],
            entitlements: [],
          },
        }),
        'POST /api/previews': () => ({
          body: {
            brand: SIGNED.brand,
            organisation: 'Tern Sound Ferries',
            front: 'f1',
            given: 'Oda',
            name: '',
            like: null,
            of: null,
            place: 1,
            pages: 1,
            person: ODA,
            why: { kind: 'everyone', name: '' },
            page: {
              ends: [],
              notice: '',
              own: null,
              recent: [],
              sections:
                tiles.length === 0 ? [] : [{ id: 'c1', name: 'Ticket office', line: '', tiles }],
              waiting: 0,
              whom: '',
            },
          },
        }),
      },
      { powers: ['portal.preview', 'people.read'] },
    );
  }

  it('says to whoever answers the phone what to say', async () => {
    open();
    await userEvent.type(await screen.findByLabelText('Find someone'), 'lena');
    await userEvent.click(await screen.findByRole('button', { name: /^Aho, Lena/ }));
    await userEvent.selectOptions(
      await screen.findByLabelText('What they are looking for'),
      'Refund Bench',
    );
    expect(
      await screen.findByText(
        /^Look under “Ticket office”: Refund Bench is the second tile there\./,
      ),
    ).toBeTruthy();
    expect(screen.getByText(/\/\?tile=t2$/)).toBeTruthy();
  });

  it('copies the link that points it out', async () => {
    const copied: string[] = [];
    vi.stubGlobal('navigator', {
      ...navigator,
      language: 'en-GB',
      languages: ['en-GB'],
      clipboard: { writeText: async (text: string) => copied.push(text) },
    });
    open('/desk/portal/where?person=p-oda&tile=t1');
    const button = await screen.findByRole('button', { name: 'Copy' });
    button.click();
    expect(await screen.findByRole('button', { name: 'Copied' })).toBeTruthy();
    expect(copied[0]).toMatch(/\/\?tile=t1$/);
  });

  it('says that somebody sees nothing at all', async () => {
    open('/desk/portal/where?person=p-oda', []);
    expect(await screen.findByText('You have no apps yet')).toBeTruthy();
    expect(screen.getByText('Choose one of the 0 tiles they see')).toBeTruthy();
  });
});
