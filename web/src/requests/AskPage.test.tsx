import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { addDays, dayIn, tellDay } from '../shell/times';
import { draw, problem, SIGNED, serve } from '../testing/page';
import { AskOnePage } from './AskOnePage';
import { AskPage } from './AskPage';

const APP = { id: 'a1', name: 'Refund Bench', picture: 'key', hue: 'tide', state: 'open' };
const TODAY = dayIn('Europe/Oslo', new Date());

function entitlement(id: string, name: string): Schemas['EntitlementRef'] {
  return {
    id,
    name,
    title: `Refund Bench · ${name}`,
    line: `lets ${name.toLowerCase()}s in`,
    sensitivity: 'low',
    app: APP,
  };
}

const INES = { id: 'p1', name: 'Ines Roth', unit: 'Yard' };

function forOne(over: Partial<Schemas['AskFor']> = {}): Schemas['AskFor'] {
  return {
    person: INES,
    self: true,
    askable: true,
    why: null,
    heldUntil: null,
    steps: [step(0, 'manager', ['Lena Aho']), step(1, 'owner', ['Mina Okafor', 'Petra Lindholm'])],
    ...over,
  };
}

function askable(
  over: Partial<Schemas['AskView']> = {},
  one: Partial<Schemas['AskFor']> = {},
): Schemas['AskView'] {
  return {
    entitlement: entitlement('e1', 'Clerk'),
    whom: [forOne(one)],
    forOthers: false,
    needsEnd: false,
    mostDays: null,
    days: [14, 30, 90],
    form: 'f1',
    questions: [],
    colleagues: [],
    earlier: '',
    earlierAnswers: {},
    pace: null,
    ...over,
  };
}

const OTHER = { id: 'p2', name: 'Mina Okafor', unit: 'Yard' };

function question(
  key: string,
  label: string,
  kind: Schemas['AskQuestion']['kind'],
  choices: string[] = [],
  needs: string | null = null,
): Schemas['AskQuestion'] {
  return {
    key,
    label,
    help: '',
    required: true,
    kind,
    choices,
    looksLike: '',
    least: null,
    most: null,
    earliest: null,
    latest: null,
    shownWhen:
      needs === null
        ? null
        : { kind: 'line', parts: [], attribute: 'need', operator: 'eq', values: [needs] },
  };
}

const FORM = [
  question('need', 'What is it for?', 'ONE_OF', ['Covering', 'My work']),
  question('whom', 'Who are you covering for?', 'COLLEAGUE', [], 'Covering'),
  question('till', 'Which tills?', 'SEVERAL_OF', ['Grey Mole', 'Skarholm']),
];

function step(at: number, as: string, people: string[]): Schemas['AskStep'] {
  return { step: at, maybe: false, as, people, deputies: [] };
}

function open(
  ask: Schemas['AskView'],
  reply: () => { status?: number; body?: unknown } = () => ({ body: { position: 8 } }),
  kept: Record<string, string> = {},
) {
  const asked = serve({
    'GET /api/session': () => ({ body: SIGNED }),
    'GET /api/askable/e1': () => ({ body: ask }),
    'GET /api/my/unsent/ask%20e1': () => ({ body: { fields: kept } }),
    'POST /api/requests': reply,
  });
  draw(
    <SessionGate>
      <Routes>
        <Route path="/ask/:id" element={<AskOnePage />} />
        <Route path="/requests" element={<h1>Your requests</h1>} />
      </Routes>
    </SessionGate>,
    '/ask/e1',
  );
  return () => asked.filter((one) => one.what === 'POST /api/requests');
}

describe('asking for one thing', () => {
  it('says before sending who decides, and sends why and until when', async () => {
    const sent = open(askable());
    await screen.findByRole('heading', { name: 'Ask for Refund Bench · Clerk' });
    expect(screen.getByText('Lena Aho').parentElement?.textContent).toContain('(your manager)');
    expect(screen.getByText('Mina Okafor or Petra Lindholm')).toBeTruthy();
    await userEvent.type(screen.getByLabelText(/What you need it for/), 'Covering for Mina');
    await userEvent.click(screen.getByRole('button', { name: '14 days' }));
    await userEvent.click(
      screen.getByRole('button', { name: `Send request, until ${tellDay(addDays(TODAY, 14))}` }),
    );
    expect(await screen.findByRole('heading', { name: 'Your requests' })).toBeTruthy();
    expect(sent().map((one) => one.body)).toEqual([
      {
        person: null,
        entitlement: 'e1',
        until: addDays(TODAY, 14),
        reason: 'Covering for Mina',
        form: 'f1',
        answers: {},
      },
    ]);
  });

  it('says how long that takes, and who decides for whom', async () => {
    const manager = step(0, 'manager', ['Lena Aho']);
    const deputies = [{ name: 'Mina Sand', of: 'Lena Aho' }];
    open(
      askable(
        { pace: { decided: 40, halfMinutes: 290, mostMinutes: 4000 } },
        { steps: [{ ...manager, deputies }] },
      ),
    );
    expect(
      await screen.findByText(
        'Of the last 40 requests for this app, half were decided within 5 hours, nine in ten within 3 days.',
      ),
    ).toBeTruthy();
    expect(screen.getByText('Mina Sand').parentElement?.textContent).toContain(
      'Lena Aho (your manager) or Mina Sand (as deputy)',
    );
  });

  it('keeps what ends with the old reason, a month longer and no longer than may be', async () => {
    const held = addDays(TODAY, 10);
    const asked = (over: Partial<Schemas['AskView']>) =>
      askable(
        { earlier: 'The till on Friday', ...over },
        { heldUntil: `${addDays(held, 1)}T00:00:00Z` },
      );
    const sent = open(asked({}));
    await screen.findByRole('heading', { name: 'Ask to keep Refund Bench · Clerk' });
    const day = addDays(held, 31);
    await userEvent.click(
      screen.getByRole('button', { name: `Send request, until ${tellDay(day)}` }),
    );
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]?.body).toEqual({
      person: null,
      entitlement: 'e1',
      until: day,
      reason: 'The till on Friday',
      form: 'f1',
      answers: {},
    });
    cleanup();
    open(asked({ needsEnd: true, mostDays: 20 }));
    expect(
      await screen.findByRole('button', {
        name: `Send request, until ${tellDay(addDays(TODAY, 20))}`,
      }),
    ).toBeTruthy();
  });

  it('needs no end where none is needed, and can be taken back to none', async () => {
    const sent = open(askable());
    await userEvent.type(await screen.findByLabelText(/What you need it for/), 'x');
    expect(screen.queryByRole('button', { name: 'no end' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: '90 days' }));
    await userEvent.click(screen.getByRole('button', { name: 'no end' }));
    await userEvent.click(screen.getByRole('button', { name: /^Send request, no end/ }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]?.body).toEqual({
      person: null,
      entitlement: 'e1',
      until: null,
      reason: 'x',
      form: 'f1',
      answers: {},
    });
  });

  it('starts with a last day where one is needed, and says the longest', async () => {
    open(askable({ needsEnd: true, mostDays: 90 }));
    expect(await screen.findByText(/at most 90 days away/)).toBeTruthy();
    expect(
      screen.getByRole('button', { name: `Send request, until ${tellDay(addDays(TODAY, 30))}` }),
    ).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'no end' })).toBeNull();
  });

  it('keeps what was typed when it is refused, says it at the field, and repeats with one key', async () => {
    let times = 0;
    const sent = open(askable(), () => {
      times += 1;
      return times === 1
        ? { status: 422, body: problem('reason', 'Say what you need it for.', 422, 'reason') }
        : { body: { position: 8 } };
    });
    const field = await screen.findByLabelText<HTMLTextAreaElement>(/What you need it for/);
    await userEvent.type(field, 'because');
    await userEvent.click(screen.getByRole('button', { name: /^Send request/ }));
    await waitFor(() => expect(field.getAttribute('aria-invalid')).toBe('true'));
    expect(screen.getByText('Say what you need it for.')).toBeTruthy();
    expect(field.value).toBe('because');
    await userEvent.click(screen.getByRole('button', { name: /^Send request/ }));
    expect(await screen.findByRole('heading', { name: 'Your requests' })).toBeTruthy();
    const keys = sent().map((one) => one.key);
    expect(keys).toHaveLength(2);
    expect(keys[0]).toBe(keys[1]);
  });

  it('has what was typed before', async () => {
    open(askable(), undefined, { reason: 'Typed before the line was lost', until: '' });
    const field = await screen.findByLabelText<HTMLTextAreaElement>(/What you need it for/);
    await waitFor(() => expect(field.value).toBe('Typed before the line was lost'));
  });

  it('asks what the form asks, shows what follows, and sends what is shown', async () => {
    const sent = open(askable({ questions: FORM, colleagues: [OTHER] }), undefined, {
      'answer need': '["Covering"]',
      'answer till': '["Grey Mole"]',
    });
    await screen.findByRole('group', { name: /^What is it for?/ });
    const whom = await screen.findByRole('combobox', { name: 'Who are you covering for?' });
    await userEvent.selectOptions(whom, OTHER.id);
    await userEvent.click(screen.getByRole('radio', { name: 'My work' }));
    expect(screen.queryByRole('combobox', { name: /covering/ })).toBeNull();
    // What was typed is there again where it is shown again.
    await userEvent.click(screen.getByRole('radio', { name: 'Covering' }));
    expect(screen.getByRole<HTMLSelectElement>('combobox', { name: /covering/ }).value).toBe(
      OTHER.id,
    );
    await userEvent.click(screen.getByRole('radio', { name: 'My work' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Skarholm' }));
    await userEvent.type(screen.getByLabelText(/What you need it for/), 'x');
    await userEvent.click(screen.getByRole('button', { name: /^Send request/ }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]?.body).toMatchObject({
      form: 'f1',
      answers: { need: ['My work'], till: ['Grey Mole', 'Skarholm'] },
    });
  });

  it('says at the question what is wrong with its answer', async () => {
    open(askable({ questions: FORM, colleagues: [OTHER] }), () => ({
      status: 422,
      body: problem('answer.missing', 'Answer this.', 422, 'answers.need'),
    }));
    await userEvent.type(await screen.findByLabelText(/What you need it for/), 'x');
    await userEvent.click(screen.getByRole('button', { name: /^Send request/ }));
    const group = await screen.findByRole('group', { name: /^What is it for?/ });
    await waitFor(() => expect(within(group).getByRole('alert').textContent).toBe('Answer this.'));
    // It is said until there is another answer.
    await userEvent.click(within(group).getByRole('radio', { name: 'My work' }));
    expect(within(group).queryByRole('alert')).toBeNull();
  });

  it('says why it cannot be asked for, and shows no form', async () => {
    open(askable({}, { askable: false, why: 'R-2041 is waiting already.' }));
    expect(await screen.findByText(/R-2041 is waiting already/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Send request/ })).toBeNull();
  });
});

describe('asking for others', () => {
  const ODA = { id: 'p9', name: 'Oda Brekke', unit: 'Ticketing' };
  const NILS = { id: 'p8', name: 'Nils Sand', unit: 'Deck crew' };
  const MINA = { id: 'p7', name: 'Mina Sato', unit: 'Ticketing' };
  const HEAD = [step(0, 'managers_manager', ['Una Head'])];

  /** What the server says of whoever stands in the address. */
  function openForOthers(many: () => { status?: number; body?: unknown }) {
    const asked = serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/askable/e1': (_, url) => {
        const ids = url.searchParams.getAll('person');
        const known = [ODA, NILS, INES];
        const whom = known
          .filter((one) => ids.includes(one.id))
          .map((one) =>
            forOne({ person: one, self: one.id === 'p1', steps: one === NILS ? [] : HEAD }),
          );
        return { body: askable({ forOthers: true, whom: whom.length === 0 ? [forOne()] : whom }) };
      },
      'GET /api/askable/e1/people': () => ({
        body: {
          total: 3,
          lines: [
            { person: ODA, team: true, why: null },
            { person: NILS, team: false, why: null },
            { person: MINA, team: true, why: 'Mina Sato holds Refund Bench · Clerk already.' },
          ],
        },
      }),
      'POST /api/requests': () => ({ body: { position: 8 } }),
      'POST /api/requests/many': many,
    });
    draw(
      <SessionGate>
        <Routes>
          <Route path="/ask/:id" element={<AskOnePage />} />
          <Route path="/requests" element={<h1>Your requests</h1>} />
        </Routes>
      </SessionGate>,
      '/ask/e1',
    );
    return () => asked.filter((one) => one.what.startsWith('POST'));
  }

  async function choose(...names: RegExp[]) {
    await userEvent.click(await screen.findByRole('button', { name: 'Ask for someone else' }));
    for (const name of names) {
      await userEvent.click(await screen.findByRole('checkbox', { name }));
      await waitFor(() =>
        expect(screen.getByRole<HTMLInputElement>('checkbox', { name }).checked).toBe(true),
      );
    }
    expect(screen.getByRole<HTMLInputElement>('checkbox', { name: 'Yourself' }).checked).toBe(
      false,
    );
    await userEvent.click(screen.getByRole('button', { name: 'Done' }));
  }

  it('sends one for somebody else, and says that their manager’s manager decides', async () => {
    const sent = openForOthers(() => ({ body: { lines: [] } }));
    await choose(/Oda Brekke/);
    expect(screen.getByText('For Oda Brekke.')).toBeTruthy();
    expect(screen.getByText('Una Head').parentElement?.textContent).toContain('manager’s manager');
    await userEvent.type(screen.getByLabelText(/What it is needed for/), 'Counter');
    await userEvent.click(screen.getByRole('button', { name: /^Send request,/ }));
    expect(await screen.findByRole('heading', { name: 'Your requests' })).toBeTruthy();
    expect(sent().map((one) => one.body)).toEqual([
      { person: 'p9', entitlement: 'e1', until: null, reason: 'Counter', form: 'f1', answers: {} },
    ]);
  });

  it('is for oneself as well where that is ticked, and again where nobody else is', async () => {
    openForOthers(() => ({ body: { lines: [] } }));
    await choose(/Oda Brekke/);
    await userEvent.click(screen.getByRole('button', { name: 'Change' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'Yourself' }));
    await screen.findByRole('button', { name: /^Send 2 requests,/ });
    await userEvent.click(screen.getByRole('checkbox', { name: /Oda Brekke/ }));
    await screen.findByLabelText(/What you need it for/);
    await userEvent.click(screen.getByRole('button', { name: 'Done' }));
    expect(screen.getByText('For yourself.')).toBeTruthy();
  });

  it('offers nobody for whom it cannot be asked, and says why', async () => {
    openForOthers(() => ({ body: { lines: [] } }));
    await userEvent.click(await screen.findByRole('button', { name: 'Ask for someone else' }));
    const mina = await screen.findByRole<HTMLInputElement>('checkbox', { name: /Mina Sato/ });
    expect(mina.disabled).toBe(true);
    expect(mina.closest('div')?.textContent).toContain('holds Refund Bench · Clerk already');
  });

  it('tells at the field what is wrong for all of them', async () => {
    const wrong = [
      { code: 'request.no-reason', field: 'reason', sentence: 'Say what it is needed for.' },
    ];
    openForOthers(() => ({
      body: { lines: [wrong, wrong].map((problems) => ({ request: null, problems })) },
    }));
    await choose(/Oda Brekke/, /Nils Sand/);
    await userEvent.click(screen.getByRole('button', { name: /^Send 2 requests,/ }));
    expect(await screen.findAllByText('Say what it is needed for.')).toHaveLength(1);
    const field = screen.getByLabelText(/What it is needed for/);
    expect(field.getAttribute('aria-invalid') ?? field.className).toMatch(/true|invalid/);
    expect(screen.queryByText(/requests sent/)).toBeNull();
  });

  it('tells which of several were not sent, and keeps those', async () => {
    const sent = openForOthers(() => ({
      body: {
        lines: [
          { request: 'r1', problems: [] },
          { request: null, problems: [{ code: 'x', field: '', sentence: 'He has departed.' }] },
        ],
      },
    }));
    await choose(/Oda Brekke/, /Nils Sand/);
    expect(screen.getByText(/For Oda Brekke, decided by/).textContent).toContain('Una Head');
    await userEvent.type(screen.getByLabelText(/What it is needed for/), 'Counter');
    await userEvent.click(screen.getByRole('button', { name: /^Send 2 requests,/ }));
    const alert = await screen.findByText(/^1 of 2 requests sent\./);
    expect(alert.textContent).toContain('Nils Sand: He has departed.');
    expect(await screen.findByText('For Nils Sand.')).toBeTruthy();
    expect(sent()[0]?.key).not.toBeNull();
    // What is sent next is another act.
    await userEvent.click(await screen.findByRole('button', { name: /^Send request,/ }));
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(sent()[1]?.key).not.toBe(sent()[0]?.key);
  });
});

describe('finding what to ask for', () => {
  function list(lines: Schemas['AskableLine'][], total = lines.length) {
    const found: string[] = [];
    serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/askable': (_, url) => {
        found.push(`${url.searchParams.get('find')} ${url.searchParams.get('limit')}`);
        return { body: { lines, total } };
      },
    });
    draw(
      <SessionGate>
        <AskPage />
      </SessionGate>,
      '/ask',
    );
    return found;
  }

  const line = (id: string, name: string, over: Partial<Schemas['AskableLine']> = {}) => ({
    entitlement: entitlement(id, name),
    heldUntil: null,
    waiting: null,
    high: false,
    ...over,
  });

  it('tells of each what waits and what one has already', async () => {
    list([
      line('e1', 'Clerk', { waiting: 'R-2041' }),
      line('e2', 'Reader', { heldUntil: '2027-01-01T00:00:00+01:00' }),
      line('e3', 'Approver'),
    ]);
    const clerk = await screen.findByRole('link', { name: /Clerk/ });
    expect(clerk.getAttribute('href')).toBe('/ask/e1');
    expect(within(clerk).getByText('R-2041 is waiting')).toBeTruthy();
    // The end of a holding is a moment; what is told is the last day on which it is held.
    expect(screen.getByRole('link', { name: /Reader/ }).textContent).toContain(
      `yours until ${tellDay('2026-12-31')}`,
    );
    expect(screen.getByRole('link', { name: /Approver/ }).textContent).not.toContain('until');
  });

  it('asks for more only when more is wanted', async () => {
    const asked = list([line('e1', 'Clerk')], 130);
    await userEvent.click(await screen.findByRole('button', { name: 'Show 129 more' }));
    await waitFor(() => expect(asked.at(-1)).toBe(' 120'));
    expect(asked[0]).toBe(' 60');
  });

  it('offers a suggestion where nothing is found', async () => {
    const asked = list([], 0);
    await userEvent.type(await screen.findByRole('textbox'), 'tide clock');
    const suggest = await screen.findByRole('link', { name: 'Add or suggest an app' });
    await waitFor(() =>
      expect(screen.getByText('Nothing you can ask for is called “tide clock”')).toBeTruthy(),
    );
    expect(suggest.getAttribute('href')).toBe('/suggest?name=tide%20clock');
    expect(asked.at(-1)).toBe('tide clock 60');
  });
});
