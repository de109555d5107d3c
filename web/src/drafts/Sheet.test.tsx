import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { layOut, moment } from '../testing/page';
import { LENA, ODA, openDesk } from '../testing/samples';
import { Gathering } from './gathering';
import { Sheet } from './Sheet';
import { Tray } from './Tray';

const FAREBOX = { id: 'e1', title: 'Farebox · Seller' };
const NOW = '2026-11-30T09:00:00Z';
const LATER = '2099-06-01T10:00:00Z';

function view(
  moments: Schemas['MomentView'][],
  over: Partial<Schemas['ConsequencesView']> = {},
): Schemas['ConsequencesView'] {
  return {
    at: NOW,
    people: 1214,
    digest: 'd',
    grown: false,
    cut: false,
    moments,
    problems: [],
    ...over,
  };
}

const CONFLICT: Schemas['ConflictView'] = {
  rule: 'x1',
  ruleName: 'Pay or count',
  person: ODA,
  one: 'e1',
  oneTitle: 'Refund Bench · Approver',
  other: 'e2',
  otherTitle: 'Coin House · Reconciler',
  because: [2],
  begins: true,
  stops: true,
};

function Shown({ of }: { of: Schemas['ConsequencesView'] }) {
  const [at, setAt] = useState(0);
  return <Sheet draft="d1" view={of} at={at} onMoment={setAt} />;
}

function open(of: Schemas['ConsequencesView'], powers: string[] = ['access.except']) {
  const lists: URLSearchParams[] = [];
  openDesk(
    '/desk/drafts/d1',
    { '/desk/drafts/d1': <Shown of={of} />, '/desk/people/:id/holdings': <h1>Holdings</h1> },
    {
      'GET /api/drafts/d1/consequences/people': (_: unknown, url: URL) => {
        lists.push(url.searchParams);
        return {
          body: {
            total: 1,
            lines: [{ person: ODA, because: [1, 3], sources: ['hand'], until: null }],
          },
        };
      },
    },
    { powers },
  );
  return lists;
}

describe('the consequences of a draft', () => {
  beforeAll(layOut);

  it('says where nothing moves', async () => {
    open(view([]));
    expect(await screen.findByRole('heading', { name: /Consequences/ })).toBeTruthy();
    expect(screen.queryByRole('table')).toBeNull();
  });

  it('opens every count to whom it counts, with the edits and what remains', async () => {
    const lists = open(view([moment(NOW, 'gain', FAREBOX, 12, [])]));
    const card = await screen.findByRole('button', { name: '+12 gain access' });
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /lose access$/ }).disabled).toBe(
      true,
    );
    await userEvent.click(card);
    const dialog = await screen.findByRole('dialog');
    expect(await within(dialog).findByText('Brekke, Oda')).toBeTruthy();
    expect(
      within(dialog).getByText(/^edit 1, edit 3; another grant by an administrator remains/),
    ).toBeTruthy();
    // Publishing moves on, so that no moment is asked for.
    expect(lists.at(-1)?.has('at')).toBe(false);
    expect(lists.at(-1)?.get('sign')).toBe('gain');
    await userEvent.type(within(dialog).getByLabelText('Part of a name'), 'oda');
    await waitFor(() => expect(lists.at(-1)?.get('find')).toBe('oda'));
  });

  it('names few, counts many, and says through which edit', async () => {
    open(
      view([
        {
          ...moment(NOW, 'gain', FAREBOX, 2, [LENA, ODA]),
          rows: [
            { ...moment(NOW, 'gain', FAREBOX, 2, [LENA, ODA]).rows[0], because: [1, 2] },
            {
              ...moment(NOW, 'lose', { id: 'e2', title: 'Coin House · Reader' }, 40, []).rows[0],
              units: ['Ticketing', 'Terminals'],
              idle: 3,
              grown: 4,
              because: [],
            },
          ] as Schemas['RowView'][],
          more: 7,
        },
      ]),
    );
    const rows = (await screen.findAllByRole('row')).slice(1).map((row) => row.textContent ?? '');
    expect(rows[0]).toMatch(/Farebox · Seller.*Aho, Lena; Brekke, Oda.*edit 1, edit 2/);
    expect(rows[1]).toMatch(/40 people in Ticketing, Terminals4 more than you saw/);
    expect(rows[1]).toMatch(/a day on record; for 3 of them what gives it stays, without effect/);
    expect(screen.getByText(/^7 more rows are not shown/)).toBeTruthy();
  });

  it('leads from publishing to what comes later, and back', async () => {
    open(view([moment(NOW, 'gain', FAREBOX, 12, []), moment(LATER, 'ends', FAREBOX, 12, [])]));
    expect(await screen.findByText('−12 lose what it gave', { exact: false })).toBeTruthy();
    await userEvent.click(screen.getAllByRole('button', { name: '1 Jun 2099' })[0] as HTMLElement);
    expect(await screen.findByRole('button', { name: '−12 lose what it gave' })).toBeTruthy();
    expect(screen.queryByText('Later, because of this draft:')).toBeNull();
  });

  it('offers each answer to a conflict, and accepting only to who may', async () => {
    const of = view([{ ...moment(NOW, 'gain', FAREBOX, 1, [ODA]), conflicts: [CONFLICT] }]);
    open(of);
    expect(await screen.findByText('1 conflict needs a decision.')).toBeTruthy();
    expect(
      screen.getByRole('link', { name: 'End Refund Bench · Approver' }).getAttribute('href'),
    ).toBe('/desk/people/p-oda/holdings?holding=e1');
    await userEvent.click(screen.getByRole('button', { name: 'Accept it until a day' }));
    const dialog = await screen.findByRole('dialog', { name: 'Accept it for Oda Brekke' });
    expect(within(dialog).getByText(/The rule “Pay or count” keeps these apart\./)).toBeTruthy();
    cleanup();
    open(of, []);
    await screen.findByText('1 conflict needs a decision.');
    expect(screen.queryByRole('button', { name: 'Accept it until a day' })).toBeNull();
  });

  it('says where it is cut to the reader’s reach', async () => {
    open(view([moment(NOW, 'gain', FAREBOX, 1, [])], { cut: true }));
    expect(
      await screen.findByText('Only people and things within your reach are shown and counted.'),
    ).toBeTruthy();
  });
});

describe('the tray', () => {
  const LINE: Schemas['DraftLine'] = {
    id: 'd1',
    name: 'Summer season',
    edits: 3,
    holder: LENA,
    mine: true,
    openedAt: NOW,
    publishAt: null,
    shared: false,
    stage: 'open',
  };

  function tray(open: Partial<Schemas['OpenDraft']> | null, mine: Schemas['DraftLine'][] = []) {
    const counts = moment(NOW, 'gain', FAREBOX, 12, []).counts;
    return openDesk(
      '/desk/people',
      {
        '/desk/people': (
          <Gathering>
            <Tray />
          </Gathering>
        ),
      },
      {
        'GET /api/drafts': () => ({
          body: {
            mine,
            shared: [],
            open:
              open === null
                ? null
                : { draft: LINE, clashes: 0, now: counts, later: null, laterAt: null, ...open },
          },
        }),
        'POST /api/drafts': () => ({
          body: { position: 8, result: 'd2', edit: null, foreseen: null },
        }),
        'PUT /api/drafts/d1/gathers': () => ({
          body: { position: 8, result: 'd1', edit: null, foreseen: null },
        }),
      },
      { drafts: true },
    );
  }

  it('says that what is done takes effect at once, and opens a draft', async () => {
    const asked = tray(null, [LINE]);
    expect(await screen.findByText('What you change here takes effect immediately.')).toBeTruthy();
    expect(screen.getByRole('link', { name: '1 draft' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Open a draft' }));
    const dialog = await screen.findByRole('dialog');
    const act = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Open draft' });
    expect(act.disabled).toBe(true);
    await userEvent.type(within(dialog).getByLabelText('Name'), 'Autumn');
    await userEvent.click(act);
    await waitFor(() => expect(asked.some((one) => one.what === 'POST /api/drafts')).toBe(true));
  });

  it('tells what gathers and what it would do, and stops gathering', async () => {
    const asked = tray({ clashes: 2, later: null });
    expect(await screen.findByRole('link', { name: 'Summer season' })).toBeTruthy();
    expect(screen.getByText('+12 gain access')).toBeTruthy();
    expect(screen.getByText('2 edits no longer apply')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Publish…' }).getAttribute('href')).toBe(
      '/desk/drafts/d1#publish',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Stop gathering' }));
    await waitFor(() =>
      expect(asked.find((one) => one.what.startsWith('PUT'))?.body).toEqual({ gathers: false }),
    );
  });
});
