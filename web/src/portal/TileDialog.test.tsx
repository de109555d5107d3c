import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { app, DONE, LENA, openDesk, sent } from '../testing/samples';
import { TileDialog } from './TileDialog';

const PAGE: Schemas['AppPage'] = {
  app: app('Refund Bench', { id: 'a1' }),
  line: 'pays money back',
  address: 'https://refunds.ternsound.example/',
  contact: 'refunds@ternsound.example',
  nicknames: [],
  sensitivity: 'high',
  owners: [LENA],
  since: '2025-01-01T00:00:00Z',
  entitlements: [
    {
      id: 'e1',
      name: 'Clerk',
      line: '',
      sensitivity: 'low',
      requestable: true,
      holders: 12,
      grants: 2,
    },
    {
      id: 'e2',
      name: 'Approver',
      line: '',
      sensitivity: 'high',
      requestable: true,
      holders: 1,
      grants: 1,
    },
  ],
  seats: null,
  tiles: [],
  missing: [],
  mayArrange: true,
  mayEdit: true,
  maySetWayIn: true,
  at: '2026-11-30T09:00:00Z',
  position: 7,
};

const TILE: Schemas['CuratedTile'] = {
  id: 't1',
  name: 'Refunds',
  line: 'pays money back',
  picture: 'key',
  hue: 'tide',
  app: PAGE.app,
  address: '',
  leads: 'https://refunds.ternsound.example/',
  contact: '',
  apart: false,
  audience: { everyone: true, firstDays: 0, people: 0, subjects: [] },
  needs: [{ id: 'e1', name: 'Clerk' }],
  collections: 1,
  flags: [],
  from: null,
  until: '2027-03-01',
  holders: 12,
  openings: 4,
};

function open(tile?: Schemas['CuratedTile'], answers = {}) {
  let closed = 0;
  const asked = openDesk(
    '/desk/portal',
    { '/desk/portal': <TileDialog app={PAGE} tile={tile} onClose={() => closed++} /> },
    {
      'GET /api/pictures': () => ({ body: { pictures: ['key'], hues: ['tide'] } }),
      'POST /api/tiles': () => ({ body: DONE }),
      'PUT /api/tiles/t1': () => ({ body: DONE }),
      ...answers,
    },
  );
  return { asked, closed: () => closed };
}

describe('a tile', () => {
  it('begins as its app is, for the holders of any of its entitlements', async () => {
    const { asked, closed } = open();
    const dialog = await screen.findByRole('dialog', { name: 'New tile for Refund Bench' });
    expect(within(dialog).getByLabelText<HTMLInputElement>('Name on the tile').value).toBe(
      'Refund Bench',
    );
    expect(within(dialog).getByLabelText<HTMLInputElement>('Clerk (12 holders)').checked).toBe(
      true,
    );
    expect(within(dialog).queryByText('Who sees it')).toBeNull();
    await userEvent.click(within(dialog).getByLabelText('Approver (1 holder)'));
    await userEvent.click(within(dialog).getByRole('button', { name: 'New tile' }));
    await waitFor(() => expect(closed()).toBe(1));
    expect(sent(asked)[0]).toMatchObject({
      what: 'POST /api/tiles',
      body: { application: 'a1', name: 'Refund Bench', needs: ['e1'], address: '' },
    });
  });

  it('asks whom it is for where it needs nothing', async () => {
    open();
    const dialog = await screen.findByRole('dialog');
    await userEvent.click(within(dialog).getByLabelText('Clerk (12 holders)'));
    await userEvent.click(within(dialog).getByLabelText('Approver (1 holder)'));
    expect(within(dialog).getByText('Who sees it')).toBeTruthy();
    expect(within(dialog).getByText(/^No entitlement needed/)).toBeTruthy();
  });

  it('tells what an address answers, and why it was not asked', async () => {
    let refuse = false;
    open(undefined, {
      'POST /api/tiles/try': () =>
        refuse
          ? { status: 422, body: problem('address', 'This address is inside our network.', 422) }
          : {
              body: {
                status: 302,
                millis: 48,
                elsewhere: 'https://else.ternsound.example/',
                type: 'text/html',
              },
            },
    });
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).queryByRole('button', { name: 'Try it' })).toBeNull();
    await userEvent.type(
      within(dialog).getByLabelText(/^Address/),
      'https://r.ternsound.example/x',
    );
    await userEvent.click(within(dialog).getByRole('button', { name: 'Try it' }));
    expect(
      await within(dialog).findByText(
        'It answers 302 after 48 ms, and sends on to https://else.ternsound.example/, which was not followed.',
      ),
    ).toBeTruthy();
    refuse = true;
    await userEvent.click(within(dialog).getByRole('button', { name: 'Try it' }));
    expect(await within(dialog).findByText('This address is inside our network.')).toBeTruthy();
  });

  it('is changed against how it stood, day by day', async () => {
    const { asked, closed } = open(TILE);
    const dialog = await screen.findByRole('dialog', { name: 'Refunds' });
    const until = within(dialog).getByLabelText<HTMLInputElement>(/^Last day/);
    expect(until.value).toBe('1 Mar 2027');
    await userEvent.clear(until);
    await userEvent.click(within(dialog).getByLabelText('Opens in a separate window'));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(closed()).toBe(1));
    const body = sent(asked)[0]?.body as Record<'base' | 'wanted', Schemas['TileForm']>;
    expect(body.base).toMatchObject({ until: '2027-03-01', apart: false });
    expect(body.wanted).toMatchObject({ until: null, apart: true, needs: ['e1'] });
  });

  it('says each thing that is wrong at its own field', async () => {
    const { closed } = open(TILE, {
      'PUT /api/tiles/t1': () => ({
        status: 422,
        body: {
          ...problem('name-missing', 'It needs a name.', 422, 'name'),
          problems: [
            { code: 'name-missing', field: 'name', sentence: 'It needs a name.' },
            { code: 'day-order', field: 'until', sentence: 'It ends before it begins.' },
            { code: 'other', field: '', sentence: 'And the app is retired.' },
          ],
        },
      }),
    });
    const dialog = await screen.findByRole('dialog');
    await userEvent.clear(within(dialog).getByLabelText('Name on the tile'));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    expect(await within(dialog).findByText('It needs a name.')).toBeTruthy();
    expect(within(dialog).getByText('It ends before it begins.')).toBeTruthy();
    // What belongs to no field stands by the button.
    expect(within(dialog).getByText('And the app is retired.')).toBeTruthy();
    expect(closed()).toBe(0);
  });
});
