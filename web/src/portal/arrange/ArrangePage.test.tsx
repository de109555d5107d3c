import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { Gathering } from '../../drafts/gathering';
import { problem, SIGNED } from '../../testing/page';
import { app, DONE, LENA, ODA, openDesk, sent } from '../../testing/samples';
import { ArrangePage } from './ArrangePage';

const NOBODY: Schemas['AudienceView'] = { everyone: false, firstDays: 0, people: 12, subjects: [] };

function tile(
  id: string,
  name: string,
  over: Partial<Schemas['CuratedTile']> = {},
): Schemas['CuratedTile'] {
  return {
    id,
    name,
    line: '',
    picture: 'key',
    hue: 'tide',
    app: app(name),
    leads: `https://${id}.ternsound.example/`,
    address: '',
    contact: '',
    apart: false,
    audience: NOBODY,
    needs: [{ id: `e-${id}`, name: 'User' }],
    collections: 1,
    flags: [],
    from: null,
    until: null,
    holders: 10,
    openings: 30,
    ...over,
  };
}

function faced(one: Schemas['CuratedTile']): Schemas['TileView'] {
  return {
    id: one.id,
    name: one.name,
    line: '',
    picture: one.picture,
    hue: one.hue,
    app: one.app.name,
    apart: false,
    contact: '',
    ends: null,
    nicknames: [],
    offered: null,
    tidings: '',
    whom: [],
  };
}

const TILES = [
  tile('t1', 'Farebox'),
  tile('t2', 'Refund Bench', { openings: 10 }),
  tile('t3', 'Coin House', { collections: 0, flags: ['no-owner'] }),
];

const OFFICE: Schemas['CollectionView'] = {
  id: 'c1',
  name: 'Ticket office',
  line: 'for the counter',
  audience: NOBODY,
  owners: [LENA],
  places: [
    { tile: 't1', rank: 'a', offered: false, without: 2 },
    { tile: 't2', rank: 'b', offered: false, without: 0 },
  ],
  all: 10,
  some: 2,
  none: 0,
  mayArrange: true,
  mayCurate: true,
};
const MONEY: Schemas['CollectionView'] = {
  ...OFFICE,
  id: 'c2',
  name: 'Money',
  owners: [],
  places: [],
  all: 0,
  some: 0,
};

const PAGE: Schemas['FrontPageView'] = {
  id: 'f1',
  name: 'Counter and quay',
  everyones: false,
  only: false,
  audience: NOBODY,
  waves: [
    {
      audience: {
        ...NOBODY,
        subjects: [{ kind: 'group', id: 'leads', name: 'Counter leads', filter: null, people: 4 }],
      },
      from: '2026-11-01',
      begun: true,
    },
  ],
  notice: { text: 'New timetable on Monday.', from: null, until: '2026-12-07' },
  named: [{ id: 'c1', rank: 'a' }],
  order: ['c1', 'c2'],
  people: 28,
  rank: 'a',
};

const DRAFT: Schemas['DraftLine'] = {
  id: 'd1',
  name: 'Portal, 30 Nov 2026',
  edits: 1,
  holder: ODA,
  mine: true,
  openedAt: '2026-11-30T09:00:00Z',
  publishAt: null,
  shared: false,
  stage: 'open',
};

function curated(over: Partial<Schemas['CuratedView']> = {}): Schemas['CuratedView'] {
  return {
    at: '2026-11-30T09:00:00Z',
    position: 7,
    collections: [OFFICE, MONEY],
    pages: [PAGE, { ...PAGE, id: 'f0', name: '', everyones: true, waves: [], notice: null }],
    tiles: TILES,
    units: ['Ticketing', 'Terminals'],
    mayArrange: true,
    ...over,
  };
}

function preview(over: Partial<Schemas['PortalPreview']> = {}): Schemas['PortalPreview'] {
  return {
    brand: SIGNED.brand,
    organisation: 'Tern Sound Ferries',
    front: 'f1',
    given: 'Oda',
    name: 'Counter and quay',
    like: 9,
    of: 28,
    place: 1,
    pages: 2,
    person: ODA,
    why: { kind: 'group', name: 'Ticketing staff' },
    page: {
      ends: [],
      notice: '',
      own: null,
      recent: [],
      sections: [
        { id: 'c1', name: 'Ticket office', line: '', tiles: TILES.slice(0, 2).map(faced) },
      ],
      waiting: 0,
      whom: '',
    },
    ...over,
  };
}

function open(
  address: string,
  {
    all = curated(),
    open: of,
    answers = {},
    powers = ['portal.curate', 'portal.preview'],
  }: {
    all?: Schemas['CuratedView'];
    open?: Schemas['DraftLine'];
    answers?: object;
    powers?: string[];
  } = {},
) {
  const previews: Schemas['PortalPreviewForm'][] = [];
  let opened = of;
  const asked = openDesk(
    address,
    {
      '/desk/portal': (
        <Gathering>
          <ArrangePage />
        </Gathering>
      ),
    },
    {
      'GET /api/drafts': () => ({
        body: {
          mine: [],
          shared: [],
          open:
            opened === undefined
              ? null
              : { draft: opened, clashes: 0, later: null, laterAt: null, now: {} },
        },
      }),
      'POST /api/drafts': () => {
        opened = DRAFT;
        return { body: { ...DONE, result: 'd1' } };
      },
      'GET /api/drafts/d1': () => ({
        body: {
          draft: DRAFT,
          edits: [
            {
              act: 'COLLECTION_ARRANGE',
              author: 'Ines Roth',
              fate: 'fits',
              madeAt: '2026-11-30T09:00:00Z',
              more: 0,
              object: null,
              objects: ['c1'],
              phrases: [],
              reason: null,
              seq: 1,
            },
          ],
        },
      }),
      'GET /api/portal': () => ({ body: all }),
      'POST /api/previews': (body: unknown) => {
        previews.push(body as Schemas['PortalPreviewForm']);
        return { body: preview() };
      },
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
      'GET /api/front-pages/f1/seen': () => ({
        body: { seen: 21, of: 28, since: '2026-11-20T09:00:00Z' },
      }),
      'GET /api/collections/c1/people': () => ({
        body: { lines: [ODA], seen: 3, total: 5 },
      }),
      'PUT /api/collections/c1/tiles': () => ({ body: { ...DONE, edit: 1 } }),
      'PUT /api/collections/c2/tiles': () => ({ body: { ...DONE, edit: 2 } }),
      'PUT /api/front-pages/f1/collections': () => ({ body: { ...DONE, edit: 1 } }),
      'DELETE /api/tiles/t3': () => ({ body: { ...DONE, edit: 3 } }),
      'DELETE /api/drafts/d1/edits/1': () => ({ body: DONE }),
      ...answers,
    },
    { powers, drafts: true },
  );
  return { acts: () => sent(asked).filter((one) => one.what !== 'POST /api/previews'), previews };
}

const margin = () => screen.getByRole('complementary', { name: 'What is selected' });

describe('arranging the portal', () => {
  it('shows the front page of somebody, and says which they get and why', async () => {
    const { previews } = open('/desk/portal');
    expect(
      await screen.findByText('because they are in “Ticketing staff” (9 of 28 hold the same)'),
    ).toBeTruthy();
    expect(screen.getByText('front page 1 of 2')).toBeTruthy();
    // Without a choice it is one's own.
    expect(previews[0]).toMatchObject({ as: 'person', person: 'p1' });
    await userEvent.click(screen.getByRole('button', { name: /^Brekke, Oda/ }));
    await userEvent.selectOptions(
      screen.getByRole('combobox', { name: 'Someone typical of …' }),
      'Terminals',
    );
    await waitFor(() =>
      expect(previews.at(-1)).toMatchObject({ as: 'typical', unit: 'Terminals', person: null }),
    );
    await userEvent.click(screen.getByRole('button', { name: /^Brekke, Oda/ }));
    await userEvent.type(screen.getByLabelText('Find someone'), 'lena');
    await userEvent.click(await screen.findByRole('button', { name: /^Aho, Lena/ }));
    await waitFor(() => expect(previews.at(-1)).toMatchObject({ as: 'person', person: 'p-lena' }));
  });

  it('shows whoever may not look at others their own page alone', async () => {
    const { previews } = open('/desk/portal?person=p-lena', { powers: ['portal.curate'] });
    await waitFor(() => expect(previews).not.toHaveLength(0));
    expect(previews.every((one) => one.person === 'p1')).toBe(true);
    const whose = await screen.findByRole<HTMLButtonElement>('button', { name: /^Brekke, Oda/ });
    expect(whose.disabled).toBe(true);
  });

  it('opens a draft with the first edit, and takes a tile out of its collection there', async () => {
    const { acts } = open('/desk/portal?collection=c1');
    await userEvent.click(await screen.findByRole('button', { name: 'Remove: Farebox' }));
    await waitFor(() => expect(acts()).toHaveLength(2));
    expect(acts()[0]).toMatchObject({ what: 'POST /api/drafts' });
    expect(acts()[1]).toEqual({
      what: 'PUT /api/collections/c1/tiles',
      body: { moves: [{ tile: 't1', base: { rank: 'a', offered: false }, wanted: null }] },
    });
    // What was done can be undone by the keys that undo everywhere.
    const undo = screen.getByRole<HTMLButtonElement>('button', { name: 'Undo Ctrl Z' });
    await waitFor(() => expect(undo.disabled).toBe(false));
    fireEvent.keyDown(document.body, { key: 'z', ctrlKey: true });
    await waitFor(() => expect(acts().at(-1)?.what).toBe('DELETE /api/drafts/d1/edits/1'));
    const redo = screen.getByRole<HTMLButtonElement>('button', { name: 'Redo' });
    await waitFor(() => expect(redo.disabled).toBe(false));
    await userEvent.click(redo);
    await waitFor(() => expect(acts().at(-1)?.what).toBe('PUT /api/collections/c1/tiles'));
  });

  it('offers a tile on request where it stands, and adds one at the end', async () => {
    const { acts } = open('/desk/portal?collection=c1', { open: DRAFT });
    await userEvent.click(
      await screen.findByRole('button', { name: 'Offer on request: Refund Bench' }),
    );
    await waitFor(() =>
      expect(acts().at(-1)?.body).toEqual({
        moves: [
          {
            tile: 't2',
            base: { rank: 'b', offered: false },
            wanted: { after: 't1', offered: true },
          },
        ],
      }),
    );
    const add = screen.getByRole<HTMLSelectElement>('combobox', {
      name: 'Add a tile to Ticket office',
    });
    // Only what does not lie in it yet.
    expect([...add.options].map((one) => one.textContent)).toEqual(['Add a tile', 'Coin House']);
    await waitFor(() => expect(add.matches(':disabled')).toBe(false));
    await userEvent.selectOptions(add, 't3');
    await waitFor(() =>
      expect(acts().at(-1)?.body).toEqual({
        moves: [{ tile: 't3', base: null, wanted: { after: 't2', offered: false } }],
      }),
    );
  });

  it('takes several out together', async () => {
    const { acts } = open('/desk/portal?collection=c1', { open: DRAFT });
    await userEvent.click(await screen.findByRole('checkbox', { name: 'Select Farebox' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Select Refund Bench' }));
    expect(screen.getByText(/^2 selected; they move together\./)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Remove 2' }));
    await waitFor(() =>
      expect(acts().at(-1)?.body).toMatchObject({ moves: [{ tile: 't1' }, { tile: 't2' }] }),
    );
  });

  it('opens every count of a collection to its names', async () => {
    open('/desk/portal?collection=c1');
    await userEvent.click(await screen.findByRole('button', { name: '2 of 12 do not hold it' }));
    const names = await screen.findByRole('region', { name: 'Do not hold Farebox' });
    expect(await within(names).findByRole('link', { name: 'Brekke, Oda' })).toBeTruthy();
    expect(within(names).getByText('4 are not named, 2 of them outside your reach.')).toBeTruthy();
    expect(
      within(margin()).getByText(/^40 uses in 30 days: Farebox 75 %, Refund Bench 25 %/),
    ).toBeTruthy();
  });

  it('tells of a tile where it lies and what is wrong, and ends it at the second press', async () => {
    const { acts } = open('/desk/portal?tile=t3', { open: DRAFT });
    expect(
      await screen.findByText('Coin House has no owner who is still here: nobody answers for it.'),
    ).toBeTruthy();
    expect(screen.getByText('no collection; it appears under “Also yours”')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'End the tile' }));
    expect(acts()).toHaveLength(0);
    await userEvent.click(
      screen.getByRole('button', { name: 'End “Coin House”, which is in 0 collections' }),
    );
    await waitFor(() => expect(acts().at(-1)?.what).toBe('DELETE /api/tiles/t3'));
  });

  it('puts a tile into another collection from its own margin', async () => {
    const { acts } = open('/desk/portal?tile=t1', { open: DRAFT });
    const into = await screen.findByRole<HTMLSelectElement>('combobox', {
      name: 'Add Farebox to a collection',
    });
    expect([...into.options].map((one) => one.textContent)).toEqual([
      'Add to a collection',
      'Money',
    ]);
    await userEvent.selectOptions(into, 'c2');
    await waitFor(() => expect(acts().at(-1)?.what).toBe('PUT /api/collections/c2/tiles'));
  });

  it('finds tiles by name, and those that lie nowhere', async () => {
    open('/desk/portal?tiles=all');
    await screen.findByRole('heading', { name: 'Tiles' });
    const listed = () =>
      within(margin())
        .getAllByRole('listitem')
        .map((one) => within(one).getByRole('button').textContent);
    expect(listed()).toEqual(['Farebox', 'Refund Bench', 'Coin House']);
    await userEvent.click(
      screen.getByLabelText('only those people hold that are in no collection'),
    );
    expect(listed()).toEqual(['Coin House']);
    await userEvent.click(
      screen.getByLabelText('only those people hold that are in no collection'),
    );
    await userEvent.type(screen.getByLabelText('Find a tile'), 'REF');
    expect(listed()).toEqual(['Refund Bench']);
  });

  it('tells of a front page whom it reaches, how many have seen it, and in which waves', async () => {
    const { acts } = open('/desk/portal?page=f1', { open: DRAFT });
    expect(
      await screen.findByText(/^Seen by 21 of 28 since it was changed on 20 Nov 2026/),
    ).toBeTruthy();
    expect(within(margin()).getByText('New timetable on Monday.')).toBeTruthy();
    expect(within(margin()).getByText(/^Counter leads, from 1 Nov 2026/)).toBeTruthy();
    expect(within(margin()).getByText('has begun')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'remove: Ticket office' }));
    await waitFor(() =>
      expect(acts().at(-1)).toEqual({
        what: 'PUT /api/front-pages/f1/collections',
        body: { moves: [{ collection: 'c1', base: 'a', off: true, after: null }] },
      }),
    );
  });

  it('lets nothing be arranged while what was before the draft is shown, nor on a past day', async () => {
    open('/desk/portal?collection=c1&before=draft', { open: DRAFT });
    await screen.findByRole('button', { name: 'Farebox' });
    expect(screen.queryByRole('button', { name: 'Remove: Farebox' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Change Ticket office' })).toBeNull();
    cleanup();
    const { previews } = open('/desk/portal?asOf=2026-06-01');
    expect(await screen.findByText(/it has no past/)).toBeTruthy();
    expect(previews).toEqual([]);
  });

  it('tells why an edit was refused, and leaves what is shown as it is', async () => {
    open('/desk/portal?collection=c1', {
      open: DRAFT,
      answers: {
        'PUT /api/collections/c1/tiles': () => ({
          status: 409,
          body: problem('changed-meanwhile', 'Lena Aho has moved it.', 409),
        }),
      },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Remove: Farebox' }));
    expect(await within(margin()).findByText('Lena Aho has moved it.')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Remove: Farebox' })).toBeTruthy();
  });
});
