import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { layOut, problem } from '../../testing/page';
import { DONE, entitlement, ODA, openDesk, sent } from '../../testing/samples';
import { PersonPage } from './PersonPage';

function attribute(
  name: string,
  label: string,
  text: string,
  over: Partial<Schemas['PersonAttribute']> = {},
): Schemas['PersonAttribute'] {
  return { name, label, source: 'Staff register', values: [{ text, person: null }], ...over };
}

function view(over: Partial<Schemas['PersonView']> = {}): Schemas['PersonView'] {
  return {
    id: 'p-oda',
    displayed: 'Oda Brekke',
    familyFirst: 'Brekke, Oda',
    status: 'active',
    since: '2025-01-01T00:00:00Z',
    until: null,
    next: null,
    stated: null,
    erased: false,
    leads: 0,
    attributes: [
      attribute('title', 'Title', 'Clerk'),
      attribute('unit', 'Unit', 'Ticketing'),
      attribute('site', 'Site', 'Harrow Quay'),
      attribute('manager', 'Manager', 'Lena Aho', {
        values: [{ text: 'Lena Aho', person: 'p-lena' }],
      }),
    ],
    groups: [
      {
        id: 'office',
        name: 'Ticket office',
        form: 'listed',
        chain: [
          { id: 'staff', name: 'Ticketing staff' },
          { id: 'office', name: 'Ticket office' },
        ],
      },
    ],
    sources: [{ id: 's1', key: 'TS-1044', name: 'Staff register', since: '2025-01-01T00:00:00Z' }],
    ...over,
  };
}

const HOLDING: Schemas['HoldingLine'] = {
  entitlement: entitlement('Refund Bench · Approver', { sensitivity: 'high' }),
  holds: true,
  since: '2026-03-02T09:00:00Z',
  until: null,
  lastOpened: null,
  unused: true,
  signs: [{ by: 'person', name: null, source: 'hand' }],
};

function open(
  of: Schemas['PersonView'],
  signed: Partial<Schemas['Signed']>,
  over: { account?: boolean; mayDepart?: boolean; answers?: object; address?: string } = {},
) {
  return openDesk(
    over.address ?? '/desk/people/p-oda',
    { '/desk/people/:id': <PersonPage /> },
    {
      'GET /api/people/p-oda': () => ({
        body: {
          person: of,
          account: over.account ?? true,
          at: '2026-11-30T09:00:00Z',
          position: 7,
        },
      }),
      'GET /api/people/p-oda/holdings': () => ({
        body: {
          person: ODA,
          held: [HOLDING],
          mayDepart: over.mayDepart ?? false,
          unreached: 2,
          at: '2026-11-30T09:00:00Z',
          position: 7,
        },
      }),
      'GET /api/people/p-oda/history': () => ({
        body: [
          {
            act: 'GROUP_ADD',
            actorName: 'Ines Roth',
            changes: [],
            instant: '2026-03-02T09:00:00Z',
            position: 311,
            reason: 'joins the office',
          },
        ],
      }),
      'POST /api/people/p-oda/password-reset': () => ({ body: DONE }),
      'POST /api/people/p-oda/end-sessions': () => ({ body: DONE }),
      'POST /api/people/p-oda/invitation': () => ({ body: DONE }),
      'POST /api/people/p-oda/erasure': () => ({ body: DONE }),
      ...over.answers,
    },
    signed,
  );
}

describe('the page of a person', () => {
  beforeAll(layOut);

  it('tells in one line who they are, and where that is on record', async () => {
    open(view({ leads: 3 }), { powers: ['people.read'] });
    expect(await screen.findByRole('heading', { name: 'Oda Brekke' })).toBeTruthy();
    expect(screen.getByText(/Clerk in Ticketing, Harrow Quay/)).toBeTruthy();
    expect(screen.getAllByText('TS-1044').length).toBeGreaterThan(0);
    expect(screen.getByText(/All of this comes from Staff register/)).toBeTruthy();
    expect(screen.getByText('Leads 3 people')).toBeTruthy();
    // Who leads them is one press away.
    expect(
      screen.getAllByRole('link', { name: 'Lena Aho' }).map((one) => one.getAttribute('href')),
    ).toContain('/desk/people/p-lena');
  });

  it('shows the chain by which they are in a group', async () => {
    open(view(), { powers: ['people.read'] });
    const group = await screen.findByRole('link', { name: 'Ticket office' });
    expect(group.closest('li')?.textContent).toMatch(/^Ticketing staff→Ticket office/);
  });

  it('tells what they hold, and that there is more outside the reader’s reach', async () => {
    open(view(), { powers: ['people.read', 'access.read'] });
    expect(await screen.findByText(/Refund Bench/)).toBeTruthy();
    expect(screen.getByText('2 more outside your reach.')).toBeTruthy();
  });

  it('keeps quiet about holdings that the reader may not see at all', async () => {
    open(
      view(),
      { powers: ['people.read'] },
      {
        answers: {
          'GET /api/people/p-oda/holdings': () => ({
            status: 404,
            body: problem('absent', 'Not here.', 404),
          }),
        },
      },
    );
    await screen.findByRole('heading', { name: 'Oda Brekke' });
    await screen.findByText('added members', { exact: false });
    expect(screen.queryByRole('heading', { name: 'Holdings' })).toBeNull();
    expect(screen.queryByText('Not here.')).toBeNull();
  });

  it('sends a link for a new password, and says to whom', async () => {
    const asked = open(view(), { powers: ['people.read', 'signin.help'] });
    await userEvent.click(
      await screen.findByRole('button', { name: 'Send a link to set a new password' }),
    );
    expect(await screen.findByText(/The link is on its way to Oda Brekke/)).toBeTruthy();
    const first = asked.filter((one) => one.what.startsWith('POST'));
    expect(first).toHaveLength(1);
    await userEvent.click(
      screen.getByRole('button', { name: 'Send a link to set a new password' }),
    );
    await waitFor(() => expect(asked.filter((one) => one.what.startsWith('POST'))).toHaveLength(2));
    // Once it is done, the next press is another act.
    expect(new Set(asked.filter((one) => one.key !== null).map((one) => one.key)).size).toBe(2);
  });

  it('repeats the same act while no answer came', async () => {
    let tries = 0;
    const asked = open(
      view(),
      { powers: ['people.read', 'signin.help'] },
      {
        answers: {
          'POST /api/people/p-oda/end-sessions': () =>
            tries++ === 0
              ? { status: 503, body: problem('unavailable', 'Not just now.', 503) }
              : { body: DONE },
        },
      },
    );
    const button = await screen.findByRole('button', { name: 'End all sessions' });
    await userEvent.click(button);
    expect(await screen.findByText('Not just now.')).toBeTruthy();
    await userEvent.click(button);
    expect(await screen.findByText('Oda Brekke is signed out everywhere.')).toBeTruthy();
    const keys = asked.filter((one) => one.what.startsWith('POST')).map((one) => one.key);
    expect(keys).toHaveLength(2);
    expect(keys[0]).toBe(keys[1]);
  });

  it('invites whoever has no password yet, instead', async () => {
    const asked = open(view(), { powers: ['people.read', 'people.edit'] }, { account: false });
    await userEvent.click(await screen.findByRole('button', { name: 'Send an invitation' }));
    await screen.findByText('An invitation is on its way to Oda Brekke.');
    expect(sent(asked).map((one) => one.what)).toEqual(['POST /api/people/p-oda/invitation']);
    expect(screen.queryByRole('button', { name: 'End all sessions' })).toBeNull();
  });

  it('erases only whoever has departed, and wants the reason first', async () => {
    open(view(), { powers: ['people.read', 'people.edit'] });
    await screen.findByRole('button', { name: 'End all sessions' });
    expect(screen.queryByRole('button', { name: 'Erase personal data' })).toBeNull();
    cleanup();
    const asked = open(
      view({ status: 'departed' }),
      { powers: ['people.read', 'people.edit'] },
      {
        answers: {
          'POST /api/people/p-oda/erasure': (body: { reason: string }) =>
            body.reason === ''
              ? { status: 422, body: problem('reason-missing', 'Say why.', 422, 'reason') }
              : { body: DONE },
        },
      },
    );
    await userEvent.click(await screen.findByRole('button', { name: 'Erase personal data' }));
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByText(/This cannot be undone/)).toBeTruthy();
    await userEvent.click(within(dialog).getByRole('button', { name: 'Erase personal data' }));
    expect(await within(dialog).findByText('Say why.')).toBeTruthy();
    await userEvent.type(within(dialog).getByLabelText(/^Why/), 'request 12 of 2026');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Erase personal data' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked).at(-1)).toEqual({
      what: 'POST /api/people/p-oda/erasure',
      body: { reason: 'request 12 of 2026' },
    });
  });

  it('offers no act on a past day, nor on who was erased', async () => {
    open(
      view(),
      { powers: ['people.read', 'people.edit'] },
      { address: '/desk/people/p-oda?asOf=2026-06-01', mayDepart: true },
    );
    await screen.findByRole('heading', { name: 'Oda Brekke' });
    expect(screen.queryByRole('button', { name: 'End all sessions' })).toBeNull();
    cleanup();
    open(view({ erased: true, status: 'departed', sources: [] }), {
      powers: ['people.read', 'people.edit'],
    });
    expect(await screen.findByText('Their personal data has been erased.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Erase personal data' })).toBeNull();
  });

  it('leads into the ledger only for whoever reads it', async () => {
    open(view(), { powers: ['people.read', 'ledger.read'] });
    const entry = await screen.findByRole('link', { name: 'entry 311' });
    expect(entry.getAttribute('href')).toBe('/desk/ledger/311');
    cleanup();
    open(view(), { powers: ['people.read'] });
    expect(await screen.findByText('“joins the office”')).toBeTruthy();
    expect(screen.queryByRole('link', { name: 'entry 311' })).toBeNull();
  });
});
