import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { layOut, problem } from '../../testing/page';
import { DONE, openDesk, sent } from '../../testing/samples';
import { GroupsPage } from './GroupsPage';

function line(name: string, over: Partial<Schemas['GroupLine']> = {}): Schemas['GroupLine'] {
  return {
    id: `g-${name}`,
    name,
    form: 'listed',
    source: null,
    people: 12,
    groups: 0,
    owners: ['Lena Aho'],
    ...over,
  };
}

function open(
  lines: Schemas['GroupLine'][],
  address = '/desk/groups',
  powers = ['people.read', 'groups.edit'],
  answers = {},
) {
  const lists: URLSearchParams[] = [];
  const asked = openDesk(
    address,
    { '/desk/groups': <GroupsPage />, '/desk/groups/:id': <h1>One group</h1> },
    {
      'GET /api/groups': (_: unknown, url: URL) => {
        lists.push(url.searchParams);
        return {
          body: {
            lines,
            total: lines.length,
            of: 31,
            at: '2026-11-30T09:00:00Z',
            position: 7,
          },
        };
      },
      'GET /api/attributes': () => ({
        body: [
          {
            name: 'unit',
            label: 'Unit',
            type: 'text',
            many: false,
            personal: false,
            people: 1200,
            source: null,
            sourceName: null,
          },
        ],
      }),
      'GET /api/attributes/unit/values': () => ({ body: [{ value: 'Ticketing', people: 140 }] }),
      'POST /api/filters/try': () => ({
        body: {
          count: 140,
          error: null,
          from: 0,
          until: 0,
          more: null,
          fewer: null,
          sample: [],
          words: 'whose unit is Ticketing',
          shape: {
            kind: 'compare',
            attribute: 'unit',
            operator: 'eq',
            values: ['Ticketing'],
            parts: [],
          },
        },
      }),
      'POST /api/groups': () => ({ body: { ...DONE, result: 'new' } }),
      ...answers,
    },
    { powers },
  );
  return { asked, lists };
}

describe('the list of groups', () => {
  beforeAll(layOut);

  it('tells how each gets its members, and from which source', async () => {
    open([
      line('Refund desk'),
      line('Ticketing staff', { form: 'mirrored', source: 'Staff register', groups: 3 }),
    ]);
    const row = (name: string) =>
      screen.getByRole('link', { name }).closest<HTMLElement>('[role=row]')?.textContent;
    await screen.findByRole('link', { name: 'Refund desk' });
    expect(row('Refund desk')).toContain('listed');
    expect(row('Ticketing staff')).toContain('mirrored, from Staff register');
    expect(screen.getByText('2 of 31 groups')).toBeTruthy();
  });

  it('is narrowed and sorted in its address, so that a link shows the same', async () => {
    const { lists } = open(
      [line('Refund desk')],
      '/desk/groups?find=desk&form=filter&sort=people&descending=true',
    );
    await screen.findByRole('link', { name: 'Refund desk' });
    const last = lists.at(-1);
    expect(last?.get('find')).toBe('desk');
    expect(last?.getAll('form')).toEqual(['filter']);
    expect(`${last?.get('sort')} ${last?.get('descending')}`).toBe('people true');
    expect(screen.getByRole('columnheader', { name: /People/ }).getAttribute('aria-sort')).toBe(
      'descending',
    );
    await userEvent.click(screen.getByRole('button', { name: /by People/ }));
    await waitFor(() => expect(lists.at(-1)?.get('descending')).toBe('false'));
  });

  it('is opened by keyboard', async () => {
    open([line('Refund desk'), line('Night watch')]);
    await screen.findByRole('link', { name: 'Refund desk' });
    screen.getByRole('table').focus();
    await userEvent.keyboard('{ArrowDown}{Enter}');
    expect(await screen.findByRole('heading', { name: 'One group' })).toBeTruthy();
  });

  it('tells an empty list from a search without a hit', async () => {
    open([]);
    expect(await screen.findByText('There is no group yet')).toBeTruthy();
    cleanup();
    open([], '/desk/groups?find=zz');
    expect(await screen.findByText('No group matches')).toBeTruthy();
  });

  it('creates a listed group, and leads to it', async () => {
    const { asked } = open([line('Refund desk')]);
    await userEvent.click(await screen.findByRole('button', { name: 'New group' }));
    const dialog = await screen.findByRole('dialog');
    await userEvent.type(within(dialog).getByLabelText('Name'), 'Fire wardens');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Create group' }));
    expect(await screen.findByRole('heading', { name: 'One group' })).toBeTruthy();
    expect(sent(asked)).toEqual([
      { what: 'POST /api/groups', body: { name: 'Fire wardens', filter: null, reason: '' } },
    ]);
  });

  it('creates a group by filter in lines that read as a sentence', async () => {
    const { asked } = open([line('Refund desk')]);
    await userEvent.click(await screen.findByRole('button', { name: 'New group' }));
    const dialog = await screen.findByRole('dialog');
    await userEvent.type(within(dialog).getByLabelText('Name'), 'Ticketing staff');
    await userEvent.click(within(dialog).getByLabelText(/^by filter/));
    await userEvent.type(await within(dialog).findByLabelText('Value of condition 1'), 'Ticketing');
    expect(await within(dialog).findByText('140 people match')).toBeTruthy();
    await userEvent.click(within(dialog).getByRole('button', { name: 'Create group' }));
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        {
          what: 'POST /api/groups',
          body: { name: 'Ticketing staff', filter: 'unit eq "Ticketing"', reason: '' },
        },
      ]),
    );
  });

  it('keeps the form where the name is taken, and says so at the field', async () => {
    open([line('Refund desk')], '/desk/groups', ['groups.edit'], {
      'POST /api/groups': () => ({
        status: 422,
        body: problem('name-taken', 'A group has this name.', 422, 'name'),
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'New group' }));
    const dialog = await screen.findByRole('dialog');
    const name = within(dialog).getByLabelText<HTMLInputElement>('Name');
    await userEvent.type(name, 'Refund desk');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Create group' }));
    expect(await within(dialog).findByText('A group has this name.')).toBeTruthy();
    expect(name.getAttribute('aria-invalid')).toBe('true');
    expect(name.value).toBe('Refund desk');
    // It is wrong until it is changed.
    await userEvent.type(name, ' 2');
    expect(within(dialog).queryByText('A group has this name.')).toBeNull();
  });

  it('makes nothing on a past day, nor without the power', async () => {
    open([line('Refund desk')], '/desk/groups?asOf=2026-06-01');
    await screen.findByRole('link', { name: 'Refund desk' });
    expect(screen.queryByRole('button', { name: 'New group' })).toBeNull();
    expect(screen.getByRole('link', { name: 'Refund desk' }).getAttribute('href')).toBe(
      '/desk/groups/g-Refund desk?asOf=2026-06-01',
    );
    cleanup();
    open([line('Refund desk')], '/desk/groups', ['people.read']);
    await screen.findByRole('link', { name: 'Refund desk' });
    expect(screen.queryByRole('button', { name: 'New group' })).toBeNull();
  });
});
