import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { DONE, LENA, openDesk, sent } from '../testing/samples';
import { FrontPageDialog } from './arrange/FrontPageDialog';
import { CollectionDialog } from './CollectionDialog';

const AUDIENCE: Schemas['AudienceView'] = {
  everyone: false,
  firstDays: 0,
  people: 140,
  subjects: [{ kind: 'group', id: 'staff', name: 'Ticketing staff', filter: null, people: 140 }],
};

const OFFICE: Schemas['CollectionView'] = {
  id: 'c1',
  name: 'Ticket office',
  line: 'for the counter',
  audience: AUDIENCE,
  owners: [LENA],
  places: [{ tile: 't1', rank: 'a', offered: false, without: 0 }],
  all: 1,
  some: 0,
  none: 0,
  mayArrange: true,
  mayCurate: true,
};

const PAGE: Schemas['FrontPageView'] = {
  id: 'f1',
  name: 'Counter and quay',
  everyones: false,
  only: false,
  audience: AUDIENCE,
  waves: [],
  notice: null,
  named: [],
  order: [],
  people: 28,
  rank: 'a',
};

const ANSWERS = {
  'GET /api/attributes': () => ({ body: [] }),
  'GET /api/attributes/unit/values': () => ({ body: [{ value: 'Terminals', people: 90 }] }),
  'GET /api/attributes/site/values': () => ({ body: [] }),
  'GET /api/attributes/title/values': () => ({ body: [] }),
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
  'POST /api/collections': () => ({ body: { ...DONE, result: 'c9' } }),
  'PUT /api/collections/c1/face': () => ({ body: DONE }),
  'PUT /api/collections/c1/audience': () => ({ body: DONE }),
  'PUT /api/collections/c1/owners': () => ({ body: DONE }),
  'DELETE /api/collections/c1': () => ({ body: DONE }),
  'POST /api/front-pages': () => ({ body: { ...DONE, result: 'f9' } }),
  'PUT /api/front-pages/f1': () => ({ body: DONE }),
  'DELETE /api/front-pages/f1': () => ({ body: DONE }),
  'GET /api/groups/staff/members': () => ({
    body: { total: 1, lines: [{ person: LENA, direct: true, chain: [], until: null }] },
  }),
};

describe('a collection', () => {
  function open(collection?: Schemas['CollectionView']) {
    const made: string[] = [];
    let closed = 0;
    const asked = openDesk(
      '/desk/portal',
      {
        '/desk/portal': (
          <CollectionDialog
            collection={collection}
            onClose={() => closed++}
            onMade={(id) => made.push(id)}
          />
        ),
      },
      ANSWERS,
    );
    return { asked, made, closed: () => closed };
  }

  it('is made for a unit by its name, which is a filter', async () => {
    const { asked, made } = open();
    const dialog = await screen.findByRole('dialog', { name: 'New collection' });
    await userEvent.type(within(dialog).getByLabelText('Name'), ' Quayside ');
    await userEvent.type(
      within(dialog).getByRole('combobox', { name: 'People and groups who see it' }),
      'Term',
    );
    await userEvent.click(await within(dialog).findByRole('option', { name: /^Terminals Unit/ }));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Create' }));
    await waitFor(() => expect(made).toEqual(['c9']));
    expect(sent(asked)[0]?.body).toEqual({
      face: { name: 'Quayside', line: '' },
      audience: {
        everyone: false,
        firstDays: 0,
        subjects: [{ kind: 'filter', id: null, filter: 'unit eq "Terminals"' }],
      },
    });
  });

  it('sends only what was changed', async () => {
    const { asked, closed } = open(OFFICE);
    const dialog = await screen.findByRole('dialog', { name: 'Ticket office' });
    await userEvent.type(within(dialog).getByLabelText(/^One line/), 's');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(closed()).toBe(1));
    expect(sent(asked)).toEqual([
      {
        what: 'PUT /api/collections/c1/face',
        body: {
          base: { name: 'Ticket office', line: 'for the counter' },
          wanted: { name: 'Ticket office', line: 'for the counters' },
        },
      },
    ]);
  });

  it('changes whom it is for against whom it was for', async () => {
    const { asked, closed } = open(OFFICE);
    const dialog = await screen.findByRole('dialog');
    await userEvent.click(within(dialog).getByRole('button', { name: 'remove Ticketing staff' }));
    await userEvent.click(within(dialog).getByLabelText('people in their first days'));
    const days = within(dialog).getByLabelText<HTMLInputElement>('How many first days');
    expect(days.value).toBe('30');
    await userEvent.clear(days);
    await userEvent.type(days, '14');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(closed()).toBe(1));
    expect(sent(asked)[0]?.body).toEqual({
      base: {
        everyone: false,
        firstDays: 0,
        subjects: [{ kind: 'group', id: 'staff', filter: null }],
      },
      wanted: { everyone: false, firstDays: 14, subjects: [] },
    });
  });

  it('leaves its owner its name alone', async () => {
    open({ ...OFFICE, mayCurate: false });
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByLabelText('Name')).toBeTruthy();
    expect(within(dialog).queryByText('Who sees it')).toBeNull();
    expect(within(dialog).queryByRole('button', { name: 'End it' })).toBeNull();
  });

  it('ends at the second press, which says what stays', async () => {
    const { asked, closed } = open(OFFICE);
    const dialog = await screen.findByRole('dialog');
    await userEvent.click(within(dialog).getByRole('button', { name: 'End it' }));
    expect(sent(asked)).toEqual([]);
    await userEvent.click(
      within(dialog).getByRole('button', { name: 'End “Ticket office”; its 1 tile stays' }),
    );
    await waitFor(() => expect(closed()).toBe(1));
    expect(sent(asked).map((one) => one.what)).toEqual(['DELETE /api/collections/c1']);
  });
});

describe('a front page', () => {
  function open(page?: Schemas['FrontPageView']) {
    const made: (string | undefined)[][] = [];
    let closed = 0;
    const asked = openDesk(
      '/desk/portal',
      {
        '/desk/portal': (
          <FrontPageDialog
            page={page}
            onClose={() => closed++}
            onMade={(id, someone) => made.push([id, someone])}
          />
        ),
      },
      ANSWERS,
    );
    return { asked, made, closed: () => closed };
  }

  it('is made for somebody, whose page is looked at then', async () => {
    const { asked, made } = open();
    const dialog = await screen.findByRole('dialog', { name: 'New front page' });
    await userEvent.type(within(dialog).getByLabelText('Name'), 'Leads');
    await userEvent.type(
      within(dialog).getByRole('combobox', { name: 'People and groups who see it' }),
      'Lena',
    );
    await userEvent.click(await within(dialog).findByRole('option', { name: /^Lena Aho/ }));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Create' }));
    await waitFor(() => expect(made).toEqual([['f9', 'p-lena']]));
    expect(sent(asked)[0]?.body).toMatchObject({ name: 'Leads', only: false, notice: null });
  });

  it('tells a notice between two days, and comes in waves', async () => {
    const { asked, closed } = open(PAGE);
    const dialog = await screen.findByRole('dialog', { name: 'Counter and quay' });
    // A day is asked for only where there is something to tell.
    expect(within(dialog).queryByLabelText(/^Last day/)).toBeNull();
    await userEvent.type(
      within(dialog).getByLabelText('Notice at the top of the page (optional)'),
      'New timetable',
    );
    await userEvent.type(within(dialog).getByLabelText(/^Last day/), '2027-01-31');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Add a wave' }));
    const wave = within(dialog).getByRole('group', { name: 'Wave 1' });
    await userEvent.click(within(wave).getByLabelText('everyone'));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(closed()).toBe(1));
    expect(sent(asked)[0]?.body).toMatchObject({
      wanted: {
        notice: { text: 'New timetable', from: null, until: '2027-01-31' },
        waves: [{ audience: { everyone: true, subjects: [] }, from: null }],
      },
    });
  });

  it('of everyone else has no audience and no end', async () => {
    open({ ...PAGE, everyones: true, name: '' });
    const dialog = await screen.findByRole('dialog', { name: 'Everyone else' });
    expect(within(dialog).getByText(/so it is always last/)).toBeTruthy();
    expect(within(dialog).queryByLabelText('Name')).toBeNull();
    expect(within(dialog).queryByRole('button', { name: 'End it' })).toBeNull();
  });

  it('ends at the second press, which says who gets another', async () => {
    const { asked, closed } = open(PAGE);
    const dialog = await screen.findByRole('dialog');
    await userEvent.click(within(dialog).getByRole('button', { name: 'End it' }));
    await userEvent.click(
      within(dialog).getByRole('button', {
        name: 'End “Counter and quay”; 28 people get another page',
      }),
    );
    await waitFor(() => expect(closed()).toBe(1));
    expect(sent(asked).map((one) => one.what)).toEqual(['DELETE /api/front-pages/f1']);
  });
});
