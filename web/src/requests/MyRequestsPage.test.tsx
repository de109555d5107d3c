import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { DONE, entitlement, openDesk, sent } from '../testing/samples';
import { MyRequestsPage } from './MyRequestsPage';

const INES = { id: 'p1', name: 'Ines Roth', unit: 'Yard' };
const COLLEAGUE = { id: 'p9', name: 'Oda Brekke', unit: 'Ticketing' };

function request(over: Partial<Schemas['RequestView']> = {}): Schemas['RequestView'] {
  return {
    id: 'r1',
    number: 'R-2041',
    asker: INES,
    person: INES,
    entitlement: entitlement('Refund Bench · Approver', { id: 'e1' }),
    until: '2027-01-09',
    lastDay: '2027-01-09',
    reason: 'Covering for Mikkel',
    answers: [],
    asked: '2026-11-24T08:14:00Z',
    stage: 'waiting',
    from: '2026-11-24T08:14:00Z',
    lapses: '2026-12-08T08:14:00Z',
    steps: [
      {
        step: 0,
        as: 'manager',
        people: ['Lena Aho'],
        deputies: [],
        coming: [],
        behalf: null,
        state: 'waiting',
        by: null,
        yes: false,
        steppedIn: false,
        at: null,
        note: '',
      },
    ],
    ends: null,
    messages: 0,
    endedEarly: false,
    ...over,
  };
}

function message(seq: number, over: Partial<Schemas['MessageLine']> = {}): Schemas['MessageLine'] {
  return {
    seq,
    by: 'Lena Aho',
    mine: false,
    part: 'manager',
    kind: 'SAID',
    text: 'Fine by me.',
    at: '2026-11-25T09:12:00Z',
    to: null,
    readBy: [],
    ...over,
  };
}

const QUESTION = message(0, { kind: 'ASKED', text: 'Which till?' });

const ASKED: Schemas['ThreadView'] = {
  people: ['Lena Aho'],
  messages: [QUESTION],
  mayWrite: true,
  mayAsk: false,
  waits: {
    by: 'Lena Aho',
    who: 'Oda Brekke',
    mine: true,
    since: '2026-11-25T09:12:00Z',
    goesOn: '2026-12-02T09:12:00Z',
    leftMinutes: 380,
  },
  mayWithdraw: false,
  passOn: [],
};

function open(
  requests: Schemas['RequestView'][],
  thread: Schemas['ThreadView'] = ASKED,
  answers = {},
) {
  return openDesk(
    '/requests',
    { '/requests': <MyRequestsPage />, '/ask/:id': <h1>Asking</h1> },
    {
      'GET /api/my/requests': () => ({ body: { requests } }),
      'GET /api/my/suggestions': () => ({ body: { suggestions: [] } }),
      'GET /api/my/complaints': () => ({ body: { complaints: [] } }),
      'GET /api/requests/r1/thread': () => ({ body: thread }),
      'PUT /api/requests/r1/thread/read': () => ({ body: {} }),
      'POST /api/requests/r1/thread': () => ({ body: DONE }),
      'POST /api/requests/r1/withdraw': () => ({ body: DONE }),
      ...answers,
    },
    { powers: [] },
  );
}

describe('one’s own requests', () => {
  it('say first of all that somebody waits for an answer, and take it in place', async () => {
    const asked = open([request({ stage: 'asked_back', messages: 1 })]);
    expect(await screen.findByText('Lena Aho has asked you something.')).toBeTruthy();
    expect(screen.getByText(/^Answer below by 2 Dec 2026/)).toBeTruthy();
    const question = screen.getByText('Which till?').closest('li');
    expect(question?.textContent).toMatch(/^Lena Aho managerquestion/);
    const send = screen.getByRole<HTMLButtonElement>('button', { name: 'Send answer' });
    expect(send.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText('Your answer to Lena Aho'), 'The second one.');
    await userEvent.click(send);
    await waitFor(() =>
      expect(sent(asked).filter((one) => one.what.startsWith('POST'))).toEqual([
        {
          what: 'POST /api/requests/r1/thread',
          body: { text: 'The second one.', asks: false },
        },
      ]),
    );
    // It was in front of the reader, and whoever asked is told so.
    expect(sent(asked)[0]).toEqual({
      what: 'PUT /api/requests/r1/thread/read',
      body: { messages: 1 },
    });
    // Whoever asks cannot stop the clock.
    expect(screen.queryByRole('button', { name: 'Ask, and stop the clock' })).toBeNull();
  });

  it('keep what was typed where it could not be sent', async () => {
    open([request({ stage: 'asked_back', messages: 1 })], ASKED, {
      'POST /api/requests/r1/thread': () => ({
        status: 422,
        body: problem('too-long', 'At most 2000 characters.', 422, 'text'),
      }),
    });
    const field = await screen.findByLabelText<HTMLTextAreaElement>('Your answer to Lena Aho');
    await userEvent.type(field, 'The second one.');
    await userEvent.click(screen.getByRole('button', { name: 'Send answer' }));
    expect(await screen.findByText('At most 2000 characters.')).toBeTruthy();
    expect(field.value).toBe('The second one.');
  });

  it('open their thread on demand, and say who has read what', async () => {
    const asked = open([request({ messages: 0 })], {
      ...ASKED,
      waits: null,
      messages: [
        message(0, { by: 'Oda Brekke', mine: true, part: 'asker', text: 'It is urgent.' }),
        message(1, {
          by: 'Oda Brekke',
          mine: true,
          part: 'asker',
          text: '',
          readBy: ['Lena Aho', 'Nils Sand'],
        }),
      ],
    });
    await screen.findByText('Refund Bench · Approver');
    expect(asked.some((one) => one.what.endsWith('/thread'))).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'Write to whoever decides' }));
    const first = (await screen.findByText('It is urgent.')).closest('li');
    expect(first?.textContent).toMatch(/^You requester/);
    // What was erased is told as such.
    expect(screen.getByText('erased')).toBeTruthy();
    expect(screen.getByText('Lena Aho and Nils Sand have read it.')).toBeTruthy();
  });

  it('are withdrawn while they wait, and asked again once they are over', async () => {
    const asked = open([request()]);
    await userEvent.click(await screen.findByRole('button', { name: 'Withdraw' }));
    await waitFor(() =>
      expect(sent(asked).map((one) => one.what)).toEqual(['POST /api/requests/r1/withdraw']),
    );
    cleanup();
    open([request({ stage: 'lapsed', lapses: null, messages: 2 })]);
    const over = await screen.findByRole('article', { name: 'Refund Bench · Approver' });
    expect(within(over).getByText('lapsed')).toBeTruthy();
    expect(within(over).getByRole('button', { name: '2 messages' })).toBeTruthy();
    expect(within(over).queryByRole('button', { name: 'Withdraw' })).toBeNull();
    await userEvent.click(within(over).getByRole('link', { name: 'Ask again' }));
    expect(await screen.findByRole('heading', { name: 'Asking' })).toBeTruthy();
  });

  it('offer to ask again also where nothing was said', async () => {
    open([request({ stage: 'refused', lapses: null })]);
    const over = await screen.findByRole('article', { name: 'Refund Bench · Approver' });
    expect(within(over).getByRole('link', { name: 'Ask again' })).toBeTruthy();
    expect(within(over).queryByRole('button')).toBeNull();
    cleanup();
    // What was granted is not over.
    open([request({ stage: 'given', lapses: null })]);
    await screen.findByRole('article', { name: 'Refund Bench · Approver' });
    expect(screen.queryByRole('link', { name: 'Ask again' })).toBeNull();
  });

  it('show a question that comes while the page is open', async () => {
    let now = request();
    open([], ASKED, {
      'GET /api/my/requests': () => ({ body: { requests: [now] } }),
      'POST /api/requests/r1/withdraw': () => ({
        status: 409,
        body: problem('changed-meanwhile', 'It has moved.', 409, ''),
      }),
    });
    await screen.findByRole('button', { name: 'Write to whoever decides' });
    now = request({ stage: 'asked_back', messages: 1 });
    // What was refused is asked for anew.
    await userEvent.click(screen.getByRole('button', { name: 'Withdraw' }));
    expect(await screen.findByText('Lena Aho has asked you something.')).toBeTruthy();
  });

  it('lead whoever has asked for nothing to asking', async () => {
    open([]);
    expect(await screen.findByText('You have not asked for anything yet')).toBeTruthy();
  });

  it('says who has asked for whom, and whose manager decides', async () => {
    open([
      request({ id: 'r1', person: COLLEAGUE, stage: 'refused' }),
      request({ id: 'r2', asker: COLLEAGUE }),
    ]);
    const [theirs, own] = await screen.findAllByRole('article');
    expect(theirs?.textContent).toContain('You asked for Oda Brekke.');
    expect(theirs?.textContent).not.toContain('your manager');
    expect(
      within(theirs as HTMLElement)
        .getByRole('link', { name: 'Ask again' })
        .getAttribute('href'),
    ).toBe('/ask/e1?for=p9');
    expect(own?.textContent).toContain('Oda Brekke asked for you.');
    expect(own?.textContent).toContain('your manager');
  });
});
