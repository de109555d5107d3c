import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { foreseen, layOut, moment, problem } from '../../testing/page';
import { DONE, LENA, ODA, openDesk, person, sent } from '../../testing/samples';
import { GroupPage } from './GroupPage';

function group(over: Partial<Schemas['GroupPage']> = {}): Schemas['GroupPage'] {
  return {
    id: 'refund',
    name: 'Refund desk',
    form: 'listed',
    source: null,
    filter: null,
    filterWords: null,
    people: 12,
    direct: 2,
    departed: 0,
    unreached: 0,
    groups: [],
    parents: [],
    owners: [LENA],
    mandates: [],
    mayEdit: true,
    mayFill: true,
    at: '2026-11-30T09:00:00Z',
    position: 7,
    ...over,
  };
}

const MEMBERS: Schemas['MemberLine'][] = [
  { person: ODA, direct: true, chain: [], until: '2027-03-01T23:00:00Z' },
  {
    person: person('p-siri', 'Siri Dahl'),
    direct: false,
    chain: [
      { id: 'leads', name: 'Counter leads' },
      { id: 'refund', name: 'Refund desk' },
    ],
    until: null,
  },
];

const GAIN = foreseen({
  digest: 'seen-1',
  to: 1,
  moments: [
    moment('2026-11-30T09:00:00Z', 'gain', { id: 'e1', title: 'Refund Bench · Clerk' }, 1, [LENA]),
  ],
});

function open(of: Schemas['GroupPage'], answers = {}, powers = ['people.read', 'groups.edit']) {
  const members: URLSearchParams[] = [];
  const act = (_: unknown, __: URL, headers: Headers) => ({
    body: headers.get('Foresee') === null ? DONE : { ...DONE, position: 0, foreseen: GAIN },
  });
  const asked = openDesk(
    '/desk/groups/refund',
    {
      '/desk/groups/:id': <GroupPage />,
      '/desk/groups': <h1>All groups</h1>,
      '/desk/people/:id': <h1>One person</h1>,
    },
    {
      'GET /api/groups/refund': () => ({ body: of }),
      'GET /api/groups/refund/members': (_: unknown, url: URL) => {
        members.push(url.searchParams);
        return { body: { total: MEMBERS.length, lines: MEMBERS } };
      },
      'GET /api/find': () => ({
        body: {
          people: [LENA, person('p-gone', 'Lena Gone', { status: 'departed' })],
          peopleTotal: 2,
          groups: [{ id: 'wardens', name: 'Lena’s wardens' }],
          groupsTotal: 1,
          apps: [],
          entitlements: [],
        },
      }),
      'POST /api/groups/refund/members': act,
      'DELETE /api/groups/refund/members/person/p-oda': act,
      'DELETE /api/groups/refund': act,
      'PUT /api/groups/refund/owners': act,
      ...answers,
    },
    { powers },
  );
  return { asked, members };
}

describe('the page of a group', () => {
  beforeAll(layOut);

  it('tells how each member came in, and until when', async () => {
    open(group());
    const oda = (await screen.findByRole('link', { name: 'Brekke, Oda' })).closest('[role=row]');
    expect(oda?.textContent).toContain('directly');
    expect(oda?.textContent).toMatch(/until .*2027/);
    const siri = screen.getByRole('link', { name: 'Dahl, Siri' }).closest('[role=row]');
    expect(siri?.textContent).toContain('Counter leads → Refund desk');
    // Only who is in it directly can be taken out here.
    expect(screen.getByRole('button', { name: 'Remove Oda Brekke' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Remove Siri Dahl' })).toBeNull();
  });

  it('takes somebody out only after it was seen what that ends, with the reason', async () => {
    const { asked } = open(group());
    await userEvent.click(await screen.findByRole('button', { name: 'Remove Oda Brekke' }));
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByText('Remove Oda Brekke from Refund desk')).toBeTruthy();
    await within(dialog).findByText(/Refund Bench · Clerk/);
    await userEvent.type(within(dialog).getByLabelText(/^Reason/), 'has moved on');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Remove' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked)).toHaveLength(1);
    const act = asked.find(
      (one) => one.what.startsWith('DELETE') && one.headers.get('Foresee') === null,
    );
    // What was seen is what is agreed to.
    expect(act?.headers.get('Foreseen')).toBe('seen-1');
  });

  it('adds people and groups found by name, with a last day, once they were looked ahead at', async () => {
    const { asked } = open(group());
    await userEvent.click(await screen.findByRole('button', { name: 'Add people or groups' }));
    const button = () => screen.getByRole<HTMLButtonElement>('button', { name: /to the group/ });
    expect(button().disabled).toBe(true);
    await userEvent.type(
      screen.getByRole('combobox', { name: 'Find a person or group to add' }),
      'Lena',
    );
    // Who has departed cannot be added.
    expect((await screen.findAllByRole('option')).map((one) => one.textContent)).toEqual([
      'Lena Aho Ticketing · Harrow Quay · lena.aho',
      'Lena’s wardens Group',
    ]);
    await userEvent.keyboard('{Enter}');
    await userEvent.type(
      screen.getByRole('combobox', { name: 'Find a person or group to add' }),
      'Lena',
    );
    await userEvent.click(await screen.findByRole('option', { name: /wardens/ }));
    await userEvent.type(screen.getByLabelText(/^Last day/), '2027-06-30');
    await waitFor(() => expect(button().disabled).toBe(false));
    expect(button().textContent).toMatch(/^Add 2 to the group, until .*2027/);
    await userEvent.click(button());
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        {
          what: 'POST /api/groups/refund/members',
          body: { people: ['p-lena'], groups: ['wardens'], until: '2027-06-30', reason: '' },
        },
      ]),
    );
    expect(asked.find((one) => one.what.startsWith('POST /api/groups'))?.key).toBeTruthy();
  });

  it('keeps the form open, with what was typed, where the act is refused', async () => {
    open(group(), {
      'POST /api/groups/refund/members': (_: unknown, __: URL, headers: Headers) =>
        headers.get('Foresee') === null
          ? { status: 422, body: problem('day-past', 'This day has passed.', 422, 'until') }
          : { body: { ...DONE, foreseen: GAIN } },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Add people or groups' }));
    await userEvent.type(
      screen.getByRole('combobox', { name: 'Find a person or group to add' }),
      'Lena',
    );
    await userEvent.click(await screen.findByRole('option', { name: /Aho/ }));
    await userEvent.type(screen.getByLabelText(/^Reason/), 'covers the summer');
    const button = screen.getByRole<HTMLButtonElement>('button', { name: /to the group/ });
    await waitFor(() => expect(button.disabled).toBe(false));
    await userEvent.click(button);
    expect(await screen.findByText('This day has passed.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(/^Reason/).value).toBe('covers the summer');
    expect(screen.getByText('Lena Aho', { selector: '.tag' })).toBeTruthy();
  });

  it('ends as a whole only where no source owns it, and then leads to all groups', async () => {
    const { asked } = open(group({ groups: [] }));
    await userEvent.click(await screen.findByRole('button', { name: 'End this group' }));
    const dialog = await screen.findByRole('dialog');
    const end = within(dialog).getByRole<HTMLButtonElement>('button', {
      name: 'End “Refund desk” and its 2 memberships',
    });
    await waitFor(() => expect(end.disabled).toBe(false));
    await userEvent.click(end);
    expect(await screen.findByRole('heading', { name: 'All groups' })).toBeTruthy();
    expect(sent(asked).map((one) => one.what)).toEqual(['DELETE /api/groups/refund']);
    cleanup();
    open(group({ source: 'Staff register', form: 'mirrored', mayFill: false }));
    expect(await screen.findByText('Mirrored from Staff register; change it there.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'End this group' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Add people or groups' })).toBeNull();
  });

  it('shows a name that somebody else has given it beside the one that is typed', async () => {
    let name = 'Refund desk';
    const { asked } = open(group(), {
      'GET /api/groups/refund': () => ({ body: group({ name }) }),
      'PUT /api/groups/refund/name': (body: { base: string }) =>
        body.base === name
          ? { body: DONE }
          : { status: 409, body: problem('changed-meanwhile', 'Somebody renamed it.', 409) },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Rename' }));
    const field = screen.getByLabelText<HTMLInputElement>('Name');
    await userEvent.clear(field);
    await userEvent.type(field, 'Refunds');
    name = 'Refund counter';
    await userEvent.click(screen.getByRole('button', { name: 'Rename' }));
    const note = await screen.findByRole('alert', { name: /changed/i });
    expect(within(note).getByText('Refund counter')).toBeTruthy();
    expect(within(note).getByText('Refunds')).toBeTruthy();
    await userEvent.click(within(note).getAllByRole('button').at(-1) as HTMLElement);
    await userEvent.click(screen.getByRole('button', { name: 'Rename' }));
    await waitFor(() =>
      expect(sent(asked).at(-1)).toEqual({
        what: 'PUT /api/groups/refund/name',
        body: { base: 'Refund counter', name: 'Refunds' },
      }),
    );
  });

  it('finds members by name, and those who departed only on demand', async () => {
    const { members } = open(group({ departed: 3 }));
    await screen.findByRole('link', { name: 'Brekke, Oda' });
    expect(members.at(-1)?.get('departed')).toBe('false');
    await userEvent.click(screen.getByLabelText('show the 3 departed'));
    await waitFor(() => expect(members.at(-1)?.get('departed')).toBe('true'));
    await userEvent.type(
      screen.getByLabelText('Name, sign-in name, email address or staff number'),
      'oda',
    );
    await waitFor(() => expect(members.at(-1)?.get('find')).toBe('oda'));
  });

  it('is read-only for whoever only reads it, and tells what lies outside their reach', async () => {
    open(group({ mayEdit: false, mayFill: false, unreached: 4, mandates: ['Help desk'] }), {}, []);
    expect(await screen.findByText('more outside your reach')).toBeTruthy();
    expect(screen.getByText('Help desk')).toBeTruthy();
    for (const name of ['Rename', 'End this group', 'Set owners', 'Remove Oda Brekke']) {
      expect(screen.queryByRole('button', { name })).toBeNull();
    }
    // Without the power to read people, names lead nowhere.
    expect(await screen.findByText('Brekke, Oda')).toBeTruthy();
    expect(screen.queryByRole('link', { name: 'Brekke, Oda' })).toBeNull();
  });

  it('sets owners against those it was opened with', async () => {
    const { asked } = open(group());
    await userEvent.click(await screen.findByRole('button', { name: 'Set owners' }));
    await userEvent.click(screen.getByRole('button', { name: 'remove Lena Aho' }));
    await userEvent.click(screen.getByRole('button', { name: 'Set owners' }));
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        { what: 'PUT /api/groups/refund/owners', body: { base: ['p-lena'], owners: [] } },
      ]),
    );
  });

  it('says that there is no such group, and offers another try', async () => {
    openDesk('/desk/groups/none', { '/desk/groups/:id': <GroupPage /> }, {});
    expect(await screen.findByText('Not here.')).toBeTruthy();
  });
});
