import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { app, DONE, entitlement, LENA, ODA, openDesk, person, sent } from '../testing/samples';
import { DocketPage } from './DocketPage';

const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString();

const LEAVES: Schemas['LeavingLine'] = {
  kind: 'LEAVING',
  id: 'p-siri',
  who: person('p-siri', 'Siri Dahl'),
  holdings: 3,
  lone: 1,
};
const PARKED: Schemas['ParkedLine'] = {
  kind: 'PARKED',
  id: 'k1',
  task: 'invite',
  who: ODA,
  attempts: 12,
};
const DIFFERS: Schemas['DifferingLine'] = {
  kind: 'LEDGER',
  id: 'l1',
  entries: 4711,
  why: 'Entry 812 does not have the hash it says.',
};
const SUGGESTED: Schemas['SuggestedLine'] = {
  kind: 'SUGGESTION',
  id: 's1',
  name: 'Knot board',
  number: 'S-12',
  who: ODA,
};
const REPORTED: Schemas['ReportedLine'] = {
  kind: 'COMPLAINT',
  id: 'c1',
  name: 'Farebox',
  number: 'P-3',
  who: ODA,
};
const BREACHED: Schemas['BreachedLine'] = {
  kind: 'RULE',
  id: 'x1',
  name: 'Pay or count',
  people: 2,
};
const DRAFTED: Schemas['DraftedLine'] = {
  kind: 'DRAFT',
  id: 'd1',
  name: 'Summer season',
  stage: 'waiting',
  who: LENA,
};

const fold = (due: string, ...cases: Schemas['CaseLine'][]): Schemas['FoldView'] => ({
  due,
  cases,
});

const REPORT: Schemas['ReportView'] = {
  id: 'c1',
  number: 'P-3',
  tile: 'Farebox',
  text: 'It shows a white page.',
  at: '2026-11-30T09:00:00Z',
  answer: '',
  answeredAt: null,
  answeredBy: null,
  takenBack: false,
};

function open(
  folds: Schemas['FoldView'][],
  address = '/desk/docket',
  answers = {},
  mayStepIn = false,
) {
  const lists: URLSearchParams[] = [];
  const asked = openDesk(
    address,
    {
      '/desk/docket': <DocketPage />,
      '/desk/docket/:kind/:id': <DocketPage />,
      '/desk/departures/:id': <h1>The slip</h1>,
    },
    {
      'GET /api/docket': (_: unknown, url: URL) => {
        lists.push(url.searchParams);
        return {
          body: { folds, all: 9, forMe: folds.length, mayStepIn, position: 7 },
        };
      },
      'GET /api/complaints/c1': () => ({
        body: {
          complaint: REPORT,
          who: ODA,
          app: app('Farebox'),
          tileId: 't1',
          contact: 'farebox@ternsound.example',
          reach: 140,
          earlier: [],
          mayAnswer: true,
        },
      }),
      'POST /api/complaints/c1/answer': () => ({ body: DONE }),
      'GET /api/parked/k1': () => ({
        body: {
          id: 'k1',
          kind: 'invite',
          person: ODA,
          position: 311,
          since: '2026-11-29T09:00:00Z',
          due: null,
          failed: '2026-11-30T09:00:00Z',
          attempts: 12,
          byTheClock: false,
          error: '550 no such mailbox',
        },
      }),
      'POST /api/parked/k1/retry': () => ({ body: DONE }),
      'POST /api/parked/k1/drop': (body: unknown) =>
        (body as { reason: string }).reason === ''
          ? { status: 422, body: problem('reason-missing', 'Say why.', 422, 'reason') }
          : { body: DONE },
      'GET /api/suggestions/s1': () => ({
        body: {
          host: 'knots.example',
          approved: null,
          mine: false,
          suggestions: [
            {
              who: ODA,
              suggestion: {
                id: 's1',
                number: 'S-12',
                name: 'Knot board',
                address: 'https://knots.example/',
                whom: 'deck crew',
                why: 'we practise',
                at: '2026-11-20T09:00:00Z',
                state: 'waiting',
                answer: '',
                decidedAt: null,
                decidedBy: null,
              },
            },
          ],
        },
      }),
      'POST /api/suggestions/accept': () => ({ body: DONE }),
      'POST /api/suggestions/decline': () => ({ body: DONE }),
      'GET /api/pictures': () => ({ body: { pictures: ['signpost'], hues: ['slate'] } }),
      'GET /api/docket/leaving/p-siri': () => ({
        body: {
          who: LEAVES.who,
          at: '2026-12-05T23:00:00Z',
          holdings: 3,
          lone: [{ id: 'a9', kind: 'application', name: 'Knot board' }],
          position: 7,
        },
      }),
      'GET /api/people/p-siri/holdings': () => ({
        body: {
          person: LEAVES.who,
          held: ['Refund Bench · Approver', 'Refund Bench · Clerk', 'Farebox · Seller'].map(
            (title) => ({
              entitlement: entitlement(title, {
                sensitivity: title.endsWith('Approver') ? 'high' : 'low',
              }),
              holds: true,
              since: null,
              until: null,
              lastOpened: null,
              unused: null,
              signs: [],
            }),
          ),
          mayDepart: true,
          unreached: 0,
          at: '2026-11-30T09:00:00Z',
          position: 7,
        },
      }),
      'GET /api/people/p-siri/departure': () => ({
        body: {
          person: LEAVES.who,
          at: null,
          by: null,
          position: null,
          lost: ['Refund Bench · Approver', 'Refund Bench · Clerk', 'Farebox · Seller'],
          grants: ['g1'],
          memberships: [{ id: 'refund', name: 'Refund desk' }],
          mirrored: [],
          byFilter: [{ id: 'staff', name: 'Ticketing staff' }],
          filterGrants: [],
          mandates: [],
          lone: [],
          requests: 0,
          sessions: 0,
        },
      }),
      'POST /api/people/p-siri/departure': (_: unknown, __: URL, headers: Headers) => ({
        body:
          headers.get('Foresee') === null
            ? DONE
            : {
                ...DONE,
                foreseen: {
                  digest: 'seen',
                  to: 0,
                  already: 0,
                  inDraft: false,
                  cut: false,
                  moments: [],
                  problems: [],
                },
              },
      }),
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
      'PUT /api/apps/a9/owners': () => ({ body: DONE }),
      ...answers,
    },
    { powers: ['access.read', 'apps.edit', 'settings.edit'] },
  );
  return { asked, lists };
}

const list = () => screen.getByRole('region', { name: 'Docket' });

describe('the docket', () => {
  beforeAll(() => {
    window.scrollTo = () => undefined;
  });

  it('puts what is due first, and says of each kind what it is', async () => {
    open([
      fold(inDays(-1), PARKED),
      fold(inDays(3), LEAVES),
      fold(inDays(3), DRAFTED),
      fold(inDays(20), BREACHED),
      fold(inDays(30), DIFFERS),
      fold(inDays(31), SUGGESTED, { ...SUGGESTED, id: 's2' }),
      fold(inDays(32), REPORTED),
    ]);
    await screen.findByText('Email: invitation', { selector: 'b' });
    expect(
      within(list())
        .getAllByRole('heading', { level: 2 })
        .map((one) => one.textContent),
    ).toEqual(['Decide today1', 'This week2', 'Later5']);
    const lines = within(list())
      .getAllByRole('listitem')
      .map((one) => one.textContent ?? '');
    expect(lines[0]).toMatch(/^Email: invitationfailed .*for Oda Brekke · 12 attempts$/);
    expect(lines[1]).toMatch(/^Siri Dahl leavesends .*3 holdings end by themselves; 1 thing will/);
    expect(lines[2]).toMatch(/^Summer seasonby .*Lena Aho asks you to approve a draft$/);
    expect(lines[3]).toMatch(/^Pay or countby .*2 people hold both sides$/);
    expect(lines[4]).toMatch(/^The check of the ledger found a difference.*entry 4,711$/);
    expect(lines[5]).toMatch(/^Knot board2 alike2 suggest the same app$/);
    expect(lines[6]).toMatch(/^Fareboxby .*Oda Brekke reports a problem$/);
  });

  it('is walked through by keys, but not while something is typed', async () => {
    open([fold(inDays(-1), PARKED), fold(inDays(3), REPORTED), fold(inDays(9), DIFFERS)]);
    await screen.findByText('550 no such mailbox');
    fireEvent.keyDown(document.body, { key: 'j' });
    const answer = await screen.findByLabelText('What was done (Oda Brekke reads it)');
    await userEvent.type(answer, 'jjk');
    expect(screen.getByText('“It shows a white page.”')).toBeTruthy();
    fireEvent.keyDown(document.body, { key: 'j' });
    expect(await screen.findByText(/^Entries up to 4,711 were checked/)).toBeTruthy();
    // After the last there is none.
    fireEvent.keyDown(document.body, { key: 'j' });
    fireEvent.keyDown(document.body, { key: 'k' });
    expect(await screen.findByText('“It shows a white page.”')).toBeTruthy();
  });

  it('shows everybody’s cases to whoever may step in', async () => {
    const { lists } = open([fold(inDays(3), REPORTED)], '/desk/docket', {}, true);
    const button = await screen.findByRole('button', { name: 'all open 9' });
    expect(lists.at(-1)?.get('all')).toBe('false');
    await userEvent.click(button);
    await waitFor(() => expect(lists.at(-1)?.get('all')).toBe('true'));
    cleanup();
    open([fold(inDays(3), REPORTED)]);
    await screen.findByText('for you 1');
    expect(screen.queryByRole('button', { name: /^all open/ })).toBeNull();
  });

  it('says that nothing waits', async () => {
    open([]);
    expect(await screen.findByText('Nothing waits for you')).toBeTruthy();
  });

  it('shows a case that is over by its address', async () => {
    open([fold(inDays(3), PARKED)], '/desk/docket/complaint/c1', {
      'GET /api/complaints/c1': () => ({
        body: {
          complaint: {
            ...REPORT,
            answer: 'restarted',
            answeredAt: '2026-11-30T10:00:00Z',
            answeredBy: 'Ines Roth',
          },
          who: ODA,
          app: app('Farebox'),
          tileId: 't1',
          contact: '',
          reach: 1,
          earlier: [{ ...REPORT, id: 'c0', number: 'P-1' }],
          mayAnswer: true,
        },
      }),
    });
    expect(await screen.findByText('“restarted”')).toBeTruthy();
    expect(screen.getByText('1 person can open this tile.')).toBeTruthy();
    expect(screen.getByText('P-1').closest('li')?.textContent).toContain('waiting');
    expect(screen.queryByRole('button', { name: 'Answer and close' })).toBeNull();
  });

  it('answers a problem and goes on to the next case', async () => {
    const { asked } = open([fold(inDays(2), REPORTED), fold(inDays(9), DIFFERS)]);
    await userEvent.type(
      await screen.findByLabelText('What was done (Oda Brekke reads it)'),
      'Restarted it.',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Answer and close' }));
    expect(await screen.findByText(/^Entries up to 4,711 were checked/)).toBeTruthy();
    expect(sent(asked)).toEqual([
      { what: 'POST /api/complaints/c1/answer', body: { text: 'Restarted it.' } },
    ]);
  });

  it('tries a failed task again, or drops it with the reason', async () => {
    const { asked } = open([fold(inDays(-1), PARKED)]);
    await userEvent.click(await screen.findByRole('button', { name: 'Drop it' }));
    const dialog = await screen.findByRole('dialog', { name: 'Drop this task' });
    await userEvent.click(within(dialog).getByRole('button', { name: 'Drop it' }));
    expect(await within(dialog).findByText('Say why.')).toBeTruthy();
    await userEvent.type(within(dialog).getByLabelText(/^Reason/), 'the mailbox is closed');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Drop it' }));
    await waitFor(() =>
      expect(sent(asked).at(-1)).toEqual({
        what: 'POST /api/parked/k1/drop',
        body: { reason: 'the mailbox is closed' },
      }),
    );
    cleanup();
    const again = open([fold(inDays(-1), PARKED)]);
    await userEvent.click(await screen.findByRole('button', { name: 'Try again' }));
    await waitFor(() =>
      expect(sent(again.asked).map((one) => one.what)).toEqual(['POST /api/parked/k1/retry']),
    );
  });

  it('accepts a suggested app as it is described here, with an owner', async () => {
    const { asked } = open([fold(inDays(9), SUGGESTED)]);
    expect(await screen.findByText('“we practise”')).toBeTruthy();
    const line = screen.getByLabelText('One line on what it is for');
    await userEvent.type(line, 'knots to practise');
    await userEvent.click(screen.getByRole('button', { name: 'Accept, for 1 person' }));
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    expect(sent(asked)[0]?.body).toMatchObject({
      suggestions: ['s1'],
      name: 'Knot board',
      line: 'knots to practise',
      address: 'https://knots.example/',
      owner: 'p1',
      also: null,
      sensitivity: 'LOW',
    });
  });

  it('says why a suggestion is declined, and refuses to decide on one’s own', async () => {
    const { asked } = open([fold(inDays(9), SUGGESTED)]);
    await userEvent.type(
      await screen.findByLabelText('Note to whoever suggested it'),
      'we have one',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Decline' }));
    await waitFor(() =>
      expect(sent(asked)[0]).toEqual({
        what: 'POST /api/suggestions/decline',
        body: { suggestions: ['s1'], answer: 'we have one' },
      }),
    );
  });

  it('tells of someone who leaves what ends by app, and what stays', async () => {
    open([fold(inDays(4), LEAVES)]);
    expect(await screen.findByText('Siri Dahl leaves on 5 Dec 2026')).toBeTruthy();
    expect(await screen.findByRole('img', { name: '1 of high sensitivity, 1 other' })).toBeTruthy();
    expect(screen.getByRole('img', { name: '1 other' })).toBeTruthy();
    expect(await screen.findByText('Membership of Refund desk')).toBeTruthy();
    expect(
      screen.getByText('A place in Ticketing staff, whose filters they still match'),
    ).toBeTruthy();
  });

  it('gives what somebody owns alone to another before they leave', async () => {
    const { asked } = open([fold(inDays(4), LEAVES)]);
    await userEvent.click(
      await screen.findByRole('button', { name: 'Name a new owner of Knot board' }),
    );
    await userEvent.type(screen.getByRole('combobox', { name: 'New owner' }), 'lena');
    await userEvent.click(await screen.findByRole('option', { name: /^Lena Aho/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Make Lena Aho the owner' }));
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        { what: 'PUT /api/apps/a9/owners', body: { base: ['p-siri'], owners: ['p-lena'] } },
      ]),
    );
  });

  it('ends everything early only after it was seen', async () => {
    const { asked } = open([fold(inDays(4), LEAVES)]);
    await userEvent.click(await screen.findByRole('button', { name: 'End everything now' }));
    const dialog = await screen.findByRole('dialog', { name: 'Siri Dahl departs now' });
    const run = await within(dialog).findByRole<HTMLButtonElement>('button', {
      name: 'End everything: 3 holdings',
    });
    expect(await within(dialog).findByText('To be removed from 1 listed group')).toBeTruthy();
    expect(within(dialog).getByText('Ticketing staff: its filter still matches')).toBeTruthy();
    await userEvent.type(within(dialog).getByLabelText(/^Reason/), 'left today');
    await waitFor(() => expect(run.disabled).toBe(false));
    await userEvent.click(run);
    expect(await screen.findByRole('heading', { name: 'The slip' })).toBeTruthy();
    expect(sent(asked)).toEqual([
      { what: 'POST /api/people/p-siri/departure', body: { reason: 'left today' } },
    ]);
  });
});
