import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { afterEach, describe, expect, it } from 'vitest';
import { draw, problem, SIGNED, serve } from '../testing/page';
import { sent } from '../testing/samples';
import { SignInPage } from './SignInPage';
import { WelcomePage } from './WelcomePage';

function welcome(answers: Parameters<typeof serve>[0], token = '#abc') {
  window.location.hash = token;
  const asked = serve({
    'GET /api/session': () => ({ body: { ...SIGNED, signed: null } }),
    ...answers,
  });
  draw(
    <Routes>
      <Route path="/welcome" element={<WelcomePage />} />
      <Route path="/" element={<h1>The front page</h1>} />
      <Route path="/sign-in" element={<h1>Signing in</h1>} />
    </Routes>,
    '/welcome',
  );
  return asked;
}

const LINK = {
  displayed: 'Oda Brekke',
  purpose: 'invitation',
  rule: 'At least 12 characters.',
  until: '2026-12-01T09:00:00Z',
  userName: 'oda.brekke',
};

describe('a one-time link', () => {
  afterEach(() => {
    window.location.hash = '';
  });

  it('is looked at before it is used, and used once with a password', async () => {
    const asked = welcome({
      'POST /api/links/look': () => ({ body: LINK }),
      'POST /api/links/use': () => ({ body: { signedIn: true } }),
    });
    expect(await screen.findByText('Choose a password. You sign in as oda.brekke.')).toBeTruthy();
    expect(sent(asked)).toEqual([{ what: 'POST /api/links/look', body: { token: 'abc' } }]);
    await userEvent.type(screen.getByLabelText('New password'), 'gull under the quay');
    await userEvent.click(screen.getByRole('button', { name: 'Set password and sign in' }));
    expect(await screen.findByRole('heading', { name: 'The front page' })).toBeTruthy();
    expect(sent(asked).at(-1)?.body).toMatchObject({
      token: 'abc',
      password: 'gull under the quay',
    });
  });

  it('lets nobody in before their first day', async () => {
    welcome({
      'POST /api/links/look': () => ({ body: LINK }),
      'POST /api/links/use': () => ({ body: { signedIn: false } }),
    });
    await userEvent.type(await screen.findByLabelText('New password'), 'gull under the quay');
    await userEvent.click(screen.getByRole('button', { name: 'Set password and sign in' }));
    expect(
      await screen.findByText('Your password is set. You can sign in from your first day.'),
    ).toBeTruthy();
  });

  it('asks the first steward for their name too', async () => {
    welcome({
      'POST /api/links/look': () => ({ body: { ...LINK, purpose: 'first-steward' } }),
      'POST /api/links/use': () => ({
        status: 422,
        body: problem('name-missing', 'What are you called?', 422, 'family'),
      }),
    });
    expect(await screen.findByText('Create the first steward’s account')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Create account and sign in' }));
    expect(await screen.findByText('What are you called?')).toBeTruthy();
    expect(screen.getByLabelText('Family name').getAttribute('aria-invalid')).toBe('true');
  });

  it('that does not work leads to signing in', async () => {
    welcome(
      {
        'POST /api/links/look': () => ({
          status: 404,
          body: problem('link.gone', 'It was used already, or is too old.', 404),
        }),
      },
      '',
    );
    expect(await screen.findByText('It was used already, or is too old.')).toBeTruthy();
    await userEvent.click(screen.getByRole('link', { name: 'Go to the sign-in page' }));
    expect(await screen.findByRole('heading', { name: 'Signing in' })).toBeTruthy();
  });
});

describe('signing in', () => {
  function open(address: string, answers: Parameters<typeof serve>[0]) {
    const asked = serve({
      'GET /api/session': () => ({ body: { ...SIGNED, signed: null } }),
      ...answers,
    });
    draw(
      <Routes>
        <Route path="/sign-in" element={<SignInPage />} />
        <Route path="/desk/people" element={<h1>People</h1>} />
        <Route path="/" element={<h1>The front page</h1>} />
      </Routes>,
      address,
    );
    return asked;
  }

  const enter = async () => {
    await userEvent.type(
      await screen.findByLabelText('Sign-in name or email address'),
      'nils.sand@ternsound.example',
    );
    await userEvent.type(screen.getByLabelText('Password'), 'tern over the sound');
    await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
  };

  it('goes where somebody wanted to, but never off this site', async () => {
    const ok = { 'POST /api/sign-in': () => ({ body: SIGNED }) };
    open('/sign-in?to=/desk/people', ok);
    await enter();
    expect(await screen.findByRole('heading', { name: 'People' })).toBeTruthy();
    cleanup();
    open('/sign-in?to=//evil.example', ok);
    await enter();
    expect(await screen.findByRole('heading', { name: 'The front page' })).toBeTruthy();
  });

  it('asks which of two accounts, and does not ask for the password again', async () => {
    const asked = open('/sign-in', {
      'POST /api/sign-in': (body) =>
        (body as { account: string | null }).account === null
          ? {
              status: 409,
              body: {
                ...problem('sign-in.which', 'Which?', 409),
                problems: [
                  { code: 'which', field: 'nils.sand', sentence: '' },
                  { code: 'which', field: 'nils.office', sentence: '' },
                ],
              },
            }
          : { body: SIGNED },
    });
    await enter();
    await userEvent.click(await screen.findByRole('button', { name: 'nils.office' }));
    expect(await screen.findByRole('heading', { name: 'The front page' })).toBeTruthy();
    expect(sent(asked).at(-1)?.body).toEqual({
      name: 'nils.sand@ternsound.example',
      password: 'tern over the sound',
      account: 'nils.office',
    });
  });

  it('asks the server nothing without a name, and says why it let nobody in', async () => {
    const asked = open('/sign-in', {
      'POST /api/sign-in': () => ({
        status: 401,
        body: problem('sign-in.wrong', 'This name and password do not go together.', 401),
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Sign in' }));
    expect(await screen.findByText('Enter your sign-in name or email address.')).toBeTruthy();
    expect(sent(asked)).toEqual([]);
    await enter();
    expect(await screen.findByText('This name and password do not go together.')).toBeTruthy();
  });

  it('fills in a demo sign-in where there are such', async () => {
    open('/sign-in', {
      'GET /api/demo': () => ({
        body: {
          mailroom: 'http://127.0.0.1:8126/',
          password: 'tern over the sound',
          signIns: [{ userName: 'ines.roth', line: 'steward' }],
        },
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Fill in ines.roth' }));
    await waitFor(() =>
      expect(screen.getByLabelText<HTMLInputElement>('Sign-in name or email address').value).toBe(
        'ines.roth',
      ),
    );
    expect(screen.getByLabelText<HTMLInputElement>('Password').value).toBe('tern over the sound');
  });
});
