import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, problem, SIGNED, serve } from '../testing/page';
import { DraftPage } from './DraftPage';
import { folded } from './Edits';

const INES = {
  id: 'p1',
  displayed: 'Ines Roth',
  familyFirst: 'Roth, Ines',
  status: 'active',
} as Schemas['PersonLine'];

const COUNTS: Schemas['Counts'] = {
  gain: 0,
  lose: 0,
  keep: 0,
  ends: 0,
  back: 0,
  last: 0,
  more: 0,
  less: 0,
  moved: 0,
  met: 0,
  conflicts: 0,
  settled: 0,
};

const phrase = (over: Partial<Schemas['Phrase']>): Schemas['Phrase'] => ({
  kind: 'JOINS',
  subject: 'Oda Brekke',
  object: 'Counter leads',
  before: '',
  value: '',
  from: null,
  until: null,
  ...over,
});

const DRAFT: Schemas['DraftView'] = {
  draft: {
    id: 'd1',
    name: 'Tidy-up',
    stage: 'open',
    holder: INES,
    mine: true,
    shared: false,
    openedAt: '2026-11-25T08:00:00Z',
    publishAt: null,
    edits: 1,
  },
  openedBy: INES,
  version: 2,
  editable: true,
  gathers: true,
  edits: [
    {
      seq: 1,
      author: 'Ines Roth',
      madeAt: '2026-11-25T08:00:00Z',
      act: 'GROUP_ADD',
      objects: [],
      phrases: [phrase({})],
      more: 0,
      fate: 'applies',
      reason: null,
      object: null,
    },
  ],
  plan: null,
  heldWhy: null,
  publishedAt: null,
  reverts: null,
  comments: [],
  clashing: [],
};

function consequences(
  digest: string,
  over: Partial<Schemas['ConsequencesView']> = {},
): Schemas['ConsequencesView'] {
  return {
    at: '2026-11-25T08:00:00Z',
    people: 1214,
    digest,
    grown: false,
    cut: false,
    moments: [
      {
        at: '2026-11-25T08:00:00Z',
        publishing: true,
        counts: { ...COUNTS, gain: 2 },
        conflicts: [],
        rows: [
          {
            sign: 'gain',
            kind: 'entitlement',
            id: 'e1',
            title: 'Farebox · Seller',
            people: 2,
            named: [],
            units: ['Ticketing'],
            because: [1],
            rest: null,
            idle: 0,
            grown: over.grown ? 1 : 0,
          },
        ],
        more: 0,
      },
    ],
    problems: [],
    ...over,
  };
}

type Answer = { status?: number; body: unknown };

function open(
  weigh: (seen: string | null) => Schemas['ConsequencesView'],
  publish: (body: unknown) => Answer = () => ({ body: {} }),
) {
  const asked = serve({
    'GET /api/session': () => ({ body: SIGNED }),
    'GET /api/drafts/d1': () => ({ body: DRAFT }),
    'GET /api/drafts/d1/consequences': (_, url) => ({ body: weigh(url.searchParams.get('seen')) }),
    'POST /api/drafts/d1/publish': publish,
    'POST /api/drafts/d1/ask': () => ({ body: { position: 9, result: 'd1', edit: null } }),
  });
  draw(
    <SessionGate>
      <Routes>
        <Route path="/desk/drafts/:id" element={<DraftPage />} />
      </Routes>
    </SessionGate>,
    '/desk/drafts/d1',
  );
  return asked;
}

const WHY = 'Reason (kept in the ledger)';

describe('a draft', () => {
  it('tells what begins, with the list and the edit behind it, and publishes what was seen', async () => {
    const asked = open(
      () => consequences('seen'),
      () => ({ body: { position: 9, result: 'd1', edit: null } }),
    );
    expect(await screen.findByText('gain access')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'edit 1' }).getAttribute('href')).toBe('#edit-1');
    const button = screen.getByRole('button', { name: 'Publish now' });
    expect(button).toHaveProperty('disabled', true);
    await userEvent.type(screen.getByLabelText(WHY), 'Season');
    await userEvent.click(button);
    await waitFor(() =>
      expect(asked.find((one) => one.what.endsWith('/publish'))?.body).toMatchObject({
        digest: 'seen',
        reason: 'Season',
        day: null,
      }),
    );
  });

  it('shows what has grown when publishing is refused for it, and keeps the reason', async () => {
    open(
      (seen) => (seen === 'seen' ? consequences('grown', { grown: true }) : consequences('seen')),
      () => ({ status: 409, body: problem('draft.grown', 'More people would gain.', 409) }),
    );
    await screen.findByText('gain access');
    await userEvent.type(screen.getByLabelText(WHY), 'Season');
    await userEvent.click(screen.getByRole('button', { name: 'Publish now' }));
    expect(await screen.findByText('1 more than you saw')).toBeTruthy();
    expect(screen.getByLabelText(WHY)).toHaveProperty('value', 'Season');
  });

  it('asks a second person where its author gains, and stops at an answer that is missing', async () => {
    const own = { code: 'own-gain', field: '', sentence: 'You would gain it yourself.' };
    const asked = open(() => consequences('seen', { problems: [own] }));
    await screen.findByText('You would gain it yourself.');
    await userEvent.type(screen.getByLabelText(WHY), 'I stand in');
    await userEvent.click(screen.getByRole('button', { name: 'Ask a second person' }));
    await waitFor(() => expect(asked.some((one) => one.what.endsWith('/ask'))).toBe(true));
    cleanup();
    open(() => consequences('seen', { problems: [{ ...own, code: 'conflict' }] }));
    await screen.findByText('Decide the conflict first.');
    await userEvent.type(screen.getByLabelText(WHY), 'All the same');
    expect(screen.getByRole('button', { name: 'Publish now' })).toHaveProperty('disabled', true);
  });

  it('folds wishes that differ only in whom they are about', () => {
    const joins = ['Oda', 'Liv', 'Nora', 'Iker', 'Ida'].map((subject) => phrase({ subject }));
    expect(folded([...joins, phrase({ kind: 'LEAVES', subject: 'Jo' })], 0)).toMatchObject([
      { kind: 'JOINS', subject: 'Oda, Liv, Nora, Iker and 1 more', plural: true },
      { kind: 'LEAVES', subject: 'Jo', plural: false },
    ]);
    expect(folded(joins, 7)[0]?.subject).toBe('Oda, Liv, Nora, Iker and 8 more');
  });
});
