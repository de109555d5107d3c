import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { isOwn } from '../shell/ownDevice';
import { problem } from '../testing/page';
import { openDesk, sent } from '../testing/samples';
import { MePage } from './MePage';

const ME: Schemas['MeView'] = {
  rule: 'At least 12 characters.',
  person: {
    id: 'p1',
    displayed: 'Ines Roth',
    familyFirst: 'Roth, Ines',
    status: 'active',
    since: '2025-01-01T00:00:00Z',
    until: null,
    next: null,
    stated: null,
    erased: false,
    leads: 0,
    attributes: [
      { name: 'unit', label: 'Unit', source: null, values: [{ text: 'Finance', person: null }] },
    ],
    groups: [],
    sources: [],
  },
  sessions: [
    {
      address: '10.0.0.4',
      browser: 'Chromium on Linux',
      current: true,
      last: '2026-11-30T09:00:00Z',
      since: '2026-11-30T08:00:00Z',
    },
    {
      address: '10.0.0.9',
      browser: 'Firefox on Android',
      current: false,
      last: '2026-11-29T09:00:00Z',
      since: '2026-11-29T08:00:00Z',
    },
  ],
};

function open(over: Partial<Schemas['MeView']> = {}, answers = {}) {
  let feed: Schemas['MyFeed'] = { made: null, used: null };
  return openDesk(
    '/me',
    { '/me': <MePage /> },
    {
      'GET /api/me': () => ({ body: { ...ME, ...over } }),
      'GET /api/my/feed': () => ({ body: feed }),
      'POST /api/my/feed': () => {
        feed = { made: '2026-11-30T09:00:00Z', used: null };
        return { body: { token: 'tern-4711' } };
      },
      'DELETE /api/my/feed': () => {
        feed = { made: null, used: null };
        return { body: {} };
      },
      'POST /api/me/sign-out-everywhere': () => ({ body: { ended: 1 } }),
      'POST /api/me/password': () => ({ body: { ended: 2 } }),
      ...answers,
    },
    { powers: [] },
  );
}

describe('one’s own profile', () => {
  it('tells where one is signed in, and ends the others', async () => {
    const asked = open();
    const here = (await screen.findByText('Chromium on Linux')).closest('li');
    expect(here?.textContent).toContain('this browser');
    expect(screen.getByText('Firefox on Android').closest('li')?.textContent).not.toContain(
      'this browser',
    );
    await userEvent.click(screen.getByRole('button', { name: 'End 1 other session' }));
    expect(await screen.findByText('1 session ended.')).toBeTruthy();
    expect(sent(asked).map((one) => one.what)).toEqual(['POST /api/me/sign-out-everywhere']);
    cleanup();
    open({ sessions: ME.sessions.slice(0, 1) });
    expect(await screen.findByText('You are not signed in anywhere else.')).toBeTruthy();
  });

  it('shows the token for one’s tiles once, and ends it', async () => {
    open();
    await userEvent.click(await screen.findByRole('button', { name: 'Create a token' }));
    expect(await screen.findByText('tern-4711')).toBeTruthy();
    expect(screen.getByText('This is the token. It is shown only once.')).toBeTruthy();
    await userEvent.click(await screen.findByRole('button', { name: 'End the token' }));
    await waitFor(() => expect(screen.queryByText('tern-4711')).toBeNull());
    expect(await screen.findByRole('button', { name: 'Create a token' })).toBeTruthy();
  });

  it('changes the password, says how many sessions that ended, and forgets both fields', async () => {
    const asked = open();
    const current = await screen.findByLabelText<HTMLInputElement>('Current password');
    await userEvent.type(current, 'tern over the sound');
    await userEvent.type(screen.getByLabelText('New password'), 'gull under the quay');
    await userEvent.click(screen.getByRole('button', { name: 'Change password' }));
    expect(await screen.findByText('Password changed. 2 other sessions were ended.')).toBeTruthy();
    expect(current.value).toBe('');
    expect(sent(asked).at(-1)?.body).toEqual({
      current: 'tern over the sound',
      wanted: 'gull under the quay',
    });
  });

  it('says at the field what is wrong with a password', async () => {
    open(
      {},
      {
        'POST /api/me/password': () => ({
          status: 422,
          body: problem('password-common', 'Too many people use this one.', 422, 'password'),
        }),
      },
    );
    await userEvent.type(await screen.findByLabelText('New password'), 'password1234');
    await userEvent.click(screen.getByRole('button', { name: 'Change password' }));
    const section = screen.getByRole('region', { name: 'Your password' });
    expect(await within(section).findByText('Too many people use this one.')).toBeTruthy();
    expect(within(section).getByLabelText('New password').getAttribute('aria-invalid')).toBe(
      'true',
    );
  });

  it('remembers on this device alone that it is one’s own', async () => {
    const asked = open();
    const own = await screen.findByLabelText<HTMLInputElement>('Only I use this device');
    expect(own.checked).toBe(false);
    await userEvent.click(own);
    expect(isOwn('p1')).toBe(true);
    expect(isOwn('p2')).toBe(false);
    await userEvent.click(own);
    expect(isOwn('p1')).toBe(false);
    expect(sent(asked)).toEqual([]);
  });
});
