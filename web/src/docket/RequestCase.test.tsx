import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, SIGNED, serve } from '../testing/page';
import type { Decided, Fold } from './due';
import { RequestCase } from './RequestCase';

const APP = { id: 'a1', name: 'Refund Bench', picture: 'key', hue: 'tide', state: 'open' };

function person(id: string, name: string): Schemas['PersonLine'] {
  return {
    id,
    displayed: name,
    familyFirst: name.split(' ').reverse().join(', '),
    userName: null,
    unit: 'Ticketing',
    site: 'Harrow Quay',
    title: 'Clerk',
    status: 'active',
    since: '2025-01-01T00:00:00Z',
  };
}

const THREAD: Schemas['ThreadView'] = {
  people: ['Oda Brekke'],
  messages: [],
  mayWrite: true,
  mayAsk: true,
  waits: null,
  mayWithdraw: false,
  passOn: [
    { id: 'p7', name: 'Ines Roth', unit: 'Yard & office' },
    { id: 'p8', name: 'Petra Lindholm', unit: 'Ticketing' },
  ],
};

function caseOf(over: Partial<Schemas['RequestCase']> = {}): Schemas['RequestCase'] {
  return {
    request: {
      id: 'r1',
      number: 'R-2041',
      asker: { id: 'p9', name: 'Oda Brekke', unit: 'Ticketing' },
      person: { id: 'p9', name: 'Oda Brekke', unit: 'Ticketing' },
      entitlement: {
        id: 'e1',
        title: 'Refund Bench · Approver',
        name: 'Approver',
        line: '',
        sensitivity: 'high',
        app: APP,
      },
      until: '2027-01-09',
      lastDay: '2027-01-09',
      reason: 'Covering for Mina',
      answers: [],
      asked: '2026-11-25T09:00:00Z',
      stage: 'waiting',
      from: '2026-11-25T09:00:00Z',
      lapses: '2026-12-09T09:00:00Z',
      steps: [],
      ends: null,
      messages: 0,
      endedEarly: false,
    },
    person: person('p9', 'Oda Brekke'),
    manager: 'Lena Aho',
    step: 1,
    as: 'owner',
    mine: true,
    behalf: null,
    grants: true,
    stepIn: false,
    takeBackUntil: null,
    thread: false,
    evidence: true,
    others: [
      {
        unit: 'Ticketing',
        site: 'Harrow Quay',
        elsewhere: false,
        holders: 1,
        people: 2,
        squares: [
          { name: 'Lena Aho', holds: true, person: false },
          { name: 'Oda Brekke', holds: false, person: true },
        ],
      },
      { unit: null, site: null, elsewhere: false, holders: 0, people: 40, squares: [] },
    ],
    holdsNow: false,
    heldUntil: null,
    tiles: ['Refund Bench'],
    app: 'open',
    holdings: 3,
    unused: 1,
    holds: [],
    apart: [],
    askedBefore: [],
    position: 7,
    ...over,
  };
}

function open(
  data: Schemas['RequestCase'],
  fold?: Fold,
  refuse: string[] = [],
  more: Record<string, (body: unknown) => { status?: number; body?: unknown }> = {},
) {
  const decided: (Decided | undefined)[] = [];
  const sent: Record<string, (body: unknown) => { status?: number; body?: unknown }> = {};
  for (const one of fold?.cases ?? [{ id: 'r1' }]) {
    sent[`GET /api/requests/${one.id}`] = () => ({
      body: { ...data, takeBackUntil: '2030-01-01T00:00:10Z' },
    });
    sent[`POST /api/requests/${one.id}/answer`] = () => ({ body: { position: 8, result: one.id } });
    sent[`GET /api/requests/${one.id}/thread`] = () => ({ body: THREAD });
    sent[`PUT /api/requests/${one.id}/thread/read`] = () => ({ body: {} });
  }
  sent['POST /api/requests/answers'] = (body) => ({
    body: {
      lines: (body as { requests: string[] }).requests.map((request) =>
        refuse.includes(request)
          ? {
              request,
              position: null,
              problems: [
                { code: 'changed-meanwhile', field: '', sentence: 'Lena Aho approved this.' },
              ],
            }
          : { request, position: 8, problems: [] },
      ),
    },
  });
  const asked = serve({ 'GET /api/session': () => ({ body: SIGNED }), ...sent, ...more });
  draw(
    <SessionGate>
      <RequestCase
        fold={fold}
        id={fold === undefined ? 'r1' : undefined}
        onDecided={(what) => decided.push(what)}
      />
    </SessionGate>,
    '/desk/docket',
  );
  return {
    decided,
    answers: () => asked.filter((one) => one.what.startsWith('POST')),
    asked,
  };
}

const line = (id: string): Schemas['AskedLine'] => ({
  kind: 'REQUEST',
  asker: null,
  id,
  who: person(`p-${id}`, `Cadet ${id}`),
  what: caseOf().request.entitlement,
  number: `R-${id}`,
  until: null,
  mine: true,
  behalf: null,
  askedBack: false,
});

/** A button once it may be pressed: not within a second of the last act. */
async function able(name: RegExp): Promise<HTMLButtonElement> {
  const button = await screen.findByRole<HTMLButtonElement>('button', { name });
  await waitFor(() => expect(button.disabled).toBe(false), { timeout: 3000 });
  return button;
}

describe('a case on the docket', () => {
  it('says for whom a deputy decides it, and who the others are', async () => {
    const step = {
      step: 0,
      as: 'manager',
      people: ['Lena Aho'],
      deputies: [{ name: 'Ines Roth', of: 'Lena Aho' }],
      coming: [{ name: 'Nils Sand', of: 'Lena Aho', from: '2026-12-03T23:00:00Z' }],
      state: 'waiting',
      by: null,
      behalf: null,
      yes: false,
      steppedIn: false,
      at: null,
      note: '',
    };
    const request = { ...caseOf().request, steps: [step] };
    open(caseOf({ behalf: 'Lena Aho', request }));
    expect(await screen.findByText('you decide for Lena Aho')).toBeTruthy();
    const waits = screen.getByText('as deputy').closest('li');
    expect(waits?.textContent).toContain('Lena Aho manager or Ines Roth as deputy');
    expect(waits?.textContent).toMatch(/decides now since .*Nils Sand can decide too, as deputy\./);
    cleanup();
    const done = { ...step, state: 'done', by: 'Ines Roth', behalf: 'Lena Aho', yes: true };
    open(
      caseOf({
        request: { ...request, steps: [{ ...done, people: [], deputies: [], coming: [] }] },
      }),
    );
    expect(await screen.findByText('for Lena Aho, manager')).toBeTruthy();
  });

  it('has the evidence beside it and is decided by a key', async () => {
    const { answers, decided } = open(caseOf());
    expect(await screen.findByText('Oda Brekke asks for Refund Bench · Approver')).toBeTruthy();
    expect(screen.getByText('1 of 2')).toBeTruthy();
    expect(document.querySelectorAll('.share .squares i.held')).toHaveLength(1);
    // Forty others are a bar and not forty squares.
    expect(document.querySelectorAll('.share-bar')).toHaveLength(1);
    expect(screen.getByText(/3 entitlements, 1 unused/)).toBeTruthy();
    expect(screen.getByText('new on the front page: Refund Bench')).toBeTruthy();
    await able(/^Approve/);
    fireEvent.keyDown(document.body, { key: 'y' });
    await waitFor(() => expect(decided).toHaveLength(1));
    expect(answers()[0]?.body).toEqual({
      step: 1,
      yes: true,
      until: null,
      note: '',
      accepted: [],
    });
    expect(answers()[0]?.key).not.toBeNull();
    expect(decided[0]?.ids).toEqual(['r1']);
    expect(decided[0]?.sentence).toBe('Approved: Oda Brekke, Refund Bench · Approver.');
  });

  it('asks for an answer where a rule keeps apart, and decides with it', async () => {
    const apart = {
      rule: 'x1',
      ruleName: 'Who refunds does not reconcile',
      why: 'One checks the other.',
      one: 'e1',
      other: 'e2',
      held: { ...caseOf().request.entitlement, id: 'e2', title: 'Coin House · Reconciler' },
      acceptedUntil: null,
      mayAccept: true,
    };
    open(caseOf({ apart: [apart], grants: false }));
    expect(await screen.findByRole('button', { name: /^Approve/ })).toBeTruthy();
    expect(screen.queryByLabelText(/^Accept both/)).toBeNull();
    cleanup();
    const { answers, decided } = open(caseOf({ apart: [apart] }));
    const yes = await screen.findByRole<HTMLButtonElement>('button', {
      name: /^Approve with this answer/,
    });
    expect(screen.getByText('Coin House · Reconciler')).toBeTruthy();
    expect(yes.disabled).toBe(true);
    await able(/^Refuse/);
    fireEvent.keyDown(document.body, { key: 'y' });
    await userEvent.click(
      screen.getByLabelText('Accept both, held by one person, until the end of'),
    );
    await able(/^Approve with this answer/);
    await userEvent.click(yes);
    expect(await screen.findByText(/^Say why one person may hold both/)).toBeTruthy();
    await userEvent.type(screen.getByLabelText(/^Note/), 'counts nothing in June');
    await userEvent.click(yes);
    await waitFor(() => expect(decided).toHaveLength(1));
    expect(answers()[0]?.body).toEqual({
      step: 1,
      yes: true,
      until: null,
      note: 'counts nothing in June',
      accepted: [{ rule: 'x1', one: 'e1', other: 'e2', until: '2027-01-09' }],
    });
  });

  it('takes no letter typed into a field for a decision', async () => {
    const { answers } = open(caseOf());
    const note = await screen.findByLabelText(/^Note to the requester/);
    await userEvent.type(note, 'yes, any day');
    expect(answers()).toHaveLength(0);
    expect((note as HTMLInputElement).value).toBe('yes, any day');
  });

  it('asks why before it refuses', async () => {
    const { answers } = open(caseOf());
    await screen.findByText('Oda Brekke asks for Refund Bench · Approver');
    await able(/^Refuse/);
    await able(/^Refuse/);
    fireEvent.keyDown(document.body, { key: 'n' });
    expect(await screen.findByText('Say why not; the requester reads it.')).toBeTruthy();
    expect(document.activeElement).toBe(screen.getByLabelText(/^Note to the requester/));
    expect(answers()).toHaveLength(0);
    await userEvent.keyboard('not now');
    await userEvent.click(await able(/^Refuse/));
    await waitFor(() => expect(answers()).toHaveLength(1));
    expect(answers()[0]?.body).toMatchObject({ yes: false, note: 'not now' });
  });

  it('asks why in another’s place even for a yes', async () => {
    const { answers } = open(caseOf({ mine: false, stepIn: true }));
    await screen.findByText(/If you decide on their behalf/);
    await userEvent.click(await able(/^Approve/));
    expect(screen.getByText('Say why you decide on someone else’s behalf.')).toBeTruthy();
    expect(answers()).toHaveLength(0);
  });

  it('offers no yes to an app that is retired, and none at all once it is over', async () => {
    open(caseOf({ app: 'retired' }));
    const yes = await screen.findByRole<HTMLButtonElement>('button', { name: /^Approve/ });
    expect(yes.disabled).toBe(true);
    await able(/^Refuse/);
    fireEvent.keyDown(document.body, { key: 'y' });
    expect(screen.getByText(/It can only be refused/)).toBeTruthy();
    cleanup();
    const over = caseOf({ step: null, mine: false });
    open({ ...over, request: { ...over.request, stage: 'withdrawn' } });
    expect(
      await screen.findByText('This request is withdrawn; there is nothing to decide.'),
    ).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Approve/ })).toBeNull();
  });

  it('decides alike ones in one request, and tells which were not', async () => {
    const fold: Fold = {
      due: '2026-12-09T09:00:00Z',
      cases: [line('r1'), line('r2'), line('r3')],
    };
    const { answers, decided } = open(caseOf(), fold, ['r2']);
    await userEvent.click(await able(/^Approve all 3,/));
    expect(await screen.findByText(/2 of 3 decided/)).toBeTruthy();
    expect(screen.getByText('Lena Aho approved this.')).toBeTruthy();
    expect(answers().map((one) => one.what)).toEqual(['POST /api/requests/answers']);
    expect(answers()[0]?.key).toBeTruthy();
    expect(answers()[0]?.body).toMatchObject({
      requests: ['r1', 'r2', 'r3'],
      answer: { step: 1, yes: true },
    });
    expect(decided).toHaveLength(0);
  });

  it('asks by a key, where the thread is, and not of many at once', async () => {
    open(caseOf({ thread: true }));
    const field = await screen.findByLabelText('Message to Oda Brekke');
    await able(/^Refuse/);
    await able(/^Refuse/);
    fireEvent.keyDown(document.body, { key: 'q' });
    expect(document.activeElement).toBe(field);
    cleanup();
    open(caseOf({ thread: true }), {
      due: '2026-12-09T09:00:00Z',
      cases: [line('r1'), line('r2')],
    });
    await screen.findByText('The 2 who ask');
    expect(screen.queryByRole('button', { name: /^Ask/ })).toBeNull();
  });

  it('is passed on to one of those named, with a word', async () => {
    const asked = open(caseOf({ thread: true }), undefined, [], {
      'POST /api/requests/r1/pass-on': () => ({
        status: 422,
        body: {
          type: 'urn:eleutheria:problem:request.pass-on',
          title: 'Not done',
          status: 422,
          detail: 'It cannot be passed on to this person.',
          problems: [
            {
              code: 'request.pass-on',
              field: 'to',
              sentence: 'It cannot be passed on to this person.',
            },
          ],
          retryAfterSeconds: null,
        },
      }),
    }).asked;
    await userEvent.click(await screen.findByRole('button', { name: 'Pass on' }));
    const dialog = screen.getByRole('dialog', { name: 'Pass this step on' });
    const send = within(dialog).getByRole('button', { name: 'Pass on' }) as HTMLButtonElement;
    expect(send.disabled).toBe(true);
    await userEvent.selectOptions(
      within(dialog).getByLabelText('To'),
      'Petra Lindholm · Ticketing',
    );
    expect(send.disabled).toBe(true);
    // A letter in the dialog decides nothing behind it.
    await userEvent.type(within(dialog).getByLabelText('What they should know'), 'yny: the till');
    await userEvent.click(send);
    expect(await within(dialog).findByText('It cannot be passed on to this person.')).toBeTruthy();
    expect(asked.filter((one) => one.what === 'POST /api/requests/r1/pass-on')).toMatchObject([
      { body: { to: 'p8', text: 'yny: the till' } },
    ]);
    expect(asked.some((one) => one.what === 'POST /api/requests/r1/answer')).toBe(false);
    // What was typed is there when it is opened anew.
    await userEvent.click(within(dialog).getByRole('button', { name: 'Cancel' }));
    await userEvent.click(screen.getByRole('button', { name: 'Pass on' }));
    expect((screen.getByLabelText('What they should know') as HTMLTextAreaElement).value).toBe(
      'yny: the till',
    );
  });

  it('says the end that approval gives, also where the field is cleared', async () => {
    open(caseOf());
    const button = await screen.findByRole('button', { name: /^Approve/ });
    const asked = button.textContent;
    expect(asked).toContain('2027');
    fireEvent.change(screen.getByLabelText('until'), { target: { value: '' } });
    expect(button.textContent).toBe(asked);
  });

  it('leaves out whoever is not ticked', async () => {
    const fold: Fold = {
      due: '2026-12-09T09:00:00Z',
      cases: [line('r1'), line('r2'), line('r3')],
    };
    const { answers, decided } = open(caseOf(), fold);
    await userEvent.click(await screen.findByRole('checkbox', { name: /r2/ }));
    await userEvent.click(await able(/^Approve 2 of 3/));
    await waitFor(() => expect(decided).toHaveLength(1));
    expect(answers()[0]?.body).toMatchObject({ requests: ['r1', 'r3'] });
  });
});
