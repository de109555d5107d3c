import { useQuery, useQueryClient } from '@tanstack/react-query';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Route, Routes, useLocation } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import { answer, api } from '../api/client';
import { draw, problem, SIGNED, serve, TestStream } from '../testing/page';
import { PasswordAgain, useFresh } from './PasswordAgain';
import { SessionGate } from './session';

function Where() {
  const location = useLocation();
  return <p>at {location.pathname + location.search}</p>;
}

function Work() {
  const [text, setText] = useState('');
  const people = useQuery({
    queryKey: ['people', text],
    queryFn: () => answer(api.GET('/api/people')),
  });
  return (
    <>
      <input aria-label="typed" value={text} onChange={(event) => setText(event.target.value)} />
      <p>{people.data === undefined ? 'nothing yet' : `${people.data.total} people`}</p>
    </>
  );
}

/** As coming back to the window does. */
function Again() {
  const queries = useQueryClient();
  return (
    <button type="button" onClick={() => void queries.invalidateQueries({ queryKey: ['session'] })}>
      ask again
    </button>
  );
}

async function typeCredentials() {
  await userEvent.type(await screen.findByLabelText('Sign-in name or email address'), 'ines');
  await userEvent.type(screen.getByLabelText('Password'), 'secret');
}

async function pressSignIn() {
  await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
  await waitFor(() => expect(screen.queryByText(/You are signed out/)).toBeNull());
}

/** The desk at work; with the button that asks for the session again. */
function drawDesk() {
  draw(
    <SessionGate>
      <Work />
      <Again />
    </SessionGate>,
    '/desk/people',
  );
}

describe('the session', () => {
  it('keeps the wanted address for after signing in', async () => {
    serve({ 'GET /api/session': () => ({ body: { ...SIGNED, signed: null } }) });
    draw(
      <Routes>
        <Route path="/sign-in" element={<Where />} />
        <Route path="*" element={<SessionGate>inside</SessionGate>} />
      </Routes>,
      '/desk/ledger?find=a',
    );
    expect(await screen.findByText('at /sign-in?to=%2Fdesk%2Fledger%3Ffind%3Da')).toBeTruthy();
  });

  it('is renewed over the page, and what was typed stays', async () => {
    let open = true;
    serve({
      'GET /api/session': () => ({ body: open ? SIGNED : { ...SIGNED, signed: null } }),
      'GET /api/people': () =>
        open
          ? { body: { total: 1214 } }
          : { status: 401, body: problem('signed-out', 'Sign in to go on.', 401) },
      'POST /api/sign-in': () => {
        open = true;
        return { body: SIGNED };
      },
    });
    drawDesk();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    open = false;
    await userEvent.type(screen.getByLabelText('typed'), 'x');
    await typeCredentials();
    await pressSignIn();
    expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('x');
    expect(await screen.findByText('1214 people')).toBeTruthy();
  });

  it('is over when the session itself says so, and what was typed stays', async () => {
    let open = true;
    serve({
      'GET /api/session': () => ({ body: open ? SIGNED : { ...SIGNED, signed: null } }),
      'GET /api/people': () => ({ body: { total: 1214 } }),
      'POST /api/sign-in': () => {
        open = true;
        return { body: SIGNED };
      },
    });
    drawDesk();
    await userEvent.type(await screen.findByLabelText('typed'), 'x');
    open = false;
    await userEvent.click(screen.getByRole('button', { name: 'ask again' }));
    await typeCredentials();
    await pressSignIn();
    expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('x');
  });

  it('stays renewed when an older query is answered after the sign-in', async () => {
    let open = true;
    let late: (() => void) | undefined;
    serve({
      'GET /api/session': () => ({ body: open ? SIGNED : { ...SIGNED, signed: null } }),
      'GET /api/people': () =>
        open
          ? { body: { total: 1214 } }
          : { status: 401, body: problem('signed-out', 'Sign in to go on.', 401) },
      'POST /api/sign-in': () => {
        open = true;
        return { body: SIGNED };
      },
    });
    drawDesk();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    open = false;
    await userEvent.type(screen.getByLabelText('typed'), 'x');
    await typeCredentials();
    // One more query is under way, whose answer says what was true before.
    const fetched = globalThis.fetch;
    vi.stubGlobal('fetch', async (input: Request) => {
      const answered = await fetched(input);
      if (input.url.endsWith('/api/session') && late === undefined) {
        await new Promise<void>((resolve) => {
          late = resolve;
        });
      }
      return answered;
    });
    fireEvent.click(screen.getByText('ask again'));
    await waitFor(() => expect(late).toBeDefined());
    await pressSignIn();
    late?.();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    expect(screen.queryByText(/You are signed out/)).toBeNull();
  });

  it('asks for a sign-in over the page when the desk wants a new one', async () => {
    let over = false;
    serve({
      'GET /api/session': () => ({
        body: { ...SIGNED, signed: { ...SIGNED.signed, deskOver: over } },
      }),
      'GET /api/people': () =>
        over
          ? { status: 401, body: problem('signed-out', 'Sign in to go on.', 401) }
          : { body: { total: 1214 } },
      'POST /api/sign-in': () => {
        over = false;
        return { body: SIGNED };
      },
    });
    drawDesk();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    over = true;
    await userEvent.type(screen.getByLabelText('typed'), 'x');
    await typeCredentials();
    await pressSignIn();
    expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('x');
    expect(await screen.findByText('1214 people')).toBeTruthy();
  });

  it('hears at once that it was ended elsewhere, and listens again after a new sign-in', async () => {
    let open = true;
    serve({
      'GET /api/session': () => ({ body: open ? SIGNED : { ...SIGNED, signed: null } }),
      'GET /api/people': () => ({ body: { total: 1214 } }),
      'POST /api/sign-in': () => {
        open = true;
        return { body: SIGNED };
      },
    });
    drawDesk();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    const stream = TestStream.open.at(-1);
    open = false;
    stream?.tell('closed', { position: 9, topics: [] });
    await typeCredentials();
    await pressSignIn();
    await waitFor(() => expect(TestStream.open.at(-1)).toBeDefined());
    expect(TestStream.open.at(-1)).not.toBe(stream);
  });

  it('listens again where another tab has signed in anew, and not where others took its place', async () => {
    serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/people': () => ({ body: { total: 1214 } }),
    });
    drawDesk();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    const first = TestStream.open.at(-1);
    first?.tell('closed', { position: 9, topics: [] });
    await waitFor(() => expect(TestStream.open.at(-1)).toBeDefined());
    const next = TestStream.open.at(-1);
    expect(next).not.toBe(first);
    next?.tell('full', { position: 9, topics: [] });
    await waitFor(() => expect(TestStream.open).toEqual([]));
    expect(screen.queryByText(/You are signed out/)).toBeNull();
  });

  it('is not thought lost by an answer from before the sign-in', async () => {
    let late = true;
    const asked = serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/people': () => {
        const first = late;
        late = false;
        return first
          ? { status: 401, body: problem('signed-out', 'Sign in to go on.', 401) }
          : { body: { total: 1214 } };
      },
    });
    drawDesk();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    expect(screen.queryByText(/You are signed out/)).toBeNull();
    expect(asked.filter((one) => one.what === 'GET /api/people')).toHaveLength(2);
  });

  it('asks anew for what a stream says has moved', async () => {
    let total = 1214;
    serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/people': () => ({ body: { total } }),
    });
    drawDesk();
    expect(await screen.findByText('1214 people')).toBeTruthy();
    const stream = await waitFor(() => {
      const open = TestStream.open.at(-1);
      expect(open).toBeDefined();
      return open;
    });
    total = 1215;
    stream?.tell('moved', { position: 8, topics: ['docket'] });
    stream?.tell('moved', { position: 9, topics: ['desk'] });
    expect(await screen.findByText('1215 people')).toBeTruthy();
  });
});

function Heavy() {
  const fresh = useFresh();
  const [said, setSaid] = useState('');
  const act = () =>
    fresh(() => answer(api.POST('/api/ledger/check')))
      .then(() => setSaid('done'))
      .catch(() => setSaid('left'));
  return (
    <>
      <button type="button" onClick={() => void act()}>
        act
      </button>
      <p>{said}</p>
    </>
  );
}

describe('what weighs much', () => {
  it('asks for the password again, says when it is wrong, and goes on by itself', async () => {
    let fresh = false;
    serve({
      'POST /api/ledger/check': () =>
        fresh ? { body: {} } : { status: 403, body: problem('fresh-sign-in', 'Too old.', 403) },
      'POST /api/me/confirm': (body) => {
        fresh = (body as { password: string }).password === 'right';
        return fresh
          ? { body: {} }
          : { status: 422, body: problem('password.wrong', 'That is not your password.', 422) };
      },
    });
    draw(
      <PasswordAgain>
        <Heavy />
      </PasswordAgain>,
    );
    await userEvent.click(screen.getByRole('button', { name: 'act' }));
    const field = await screen.findByLabelText('Password');
    await userEvent.type(field, 'wrong{Enter}');
    expect(await screen.findByText('That is not your password.')).toBeTruthy();
    await userEvent.clear(field);
    await userEvent.type(field, 'right{Enter}');
    expect(await screen.findByText('done')).toBeTruthy();
  });

  it('can be left', async () => {
    serve({
      'POST /api/ledger/check': () => ({
        status: 403,
        body: problem('fresh-sign-in', 'Too old.', 403),
      }),
    });
    draw(
      <PasswordAgain>
        <Heavy />
      </PasswordAgain>,
    );
    await userEvent.click(screen.getByRole('button', { name: 'act' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Cancel' }));
    expect(await screen.findByText('left')).toBeTruthy();
  });
});
