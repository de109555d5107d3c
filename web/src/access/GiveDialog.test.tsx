import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, foreseen, moment, problem, SIGNED, serve } from '../testing/page';
import { GiveDialog } from './GiveDialog';

const ROLE: Schemas['EntitlementRef'] = {
  id: 'e1',
  title: 'Farebox · Seller',
  name: 'Seller',
  line: '',
  sensitivity: 'low',
  app: { id: 'a1', name: 'Farebox', picture: 'key', hue: 'tide', state: 'open' },
};

const ODA = {
  id: 'p9',
  displayed: 'Oda Brekke',
  familyFirst: 'Brekke, Oda',
  status: 'active',
} as Schemas['PersonLine'];

const GONE = { ...ODA, id: 'p8', displayed: 'Odd Gone', status: 'departed' };

function open(
  look: () => Schemas['ForeseenView'],
  give?: () => { status?: number; body: unknown },
) {
  let closed = false;
  const asked = serve({
    'GET /api/session': () => ({ body: SIGNED }),
    'GET /api/find': () => ({
      body: {
        people: [GONE, ODA],
        peopleTotal: 2,
        groups: [],
        groupsTotal: 0,
        apps: [],
        entitlements: [],
      },
    }),
    'POST /api/entitlements/e1/grants': (body) =>
      (body as { reason: string }).reason === 'Looking ahead' || give === undefined
        ? { body: { position: 8, result: '1', edit: null, foreseen: look() } }
        : give(),
  });
  draw(
    <SessionGate>
      <GiveDialog
        id="e1"
        title="Farebox · Seller"
        onClose={() => {
          closed = true;
        }}
      />
    </SessionGate>,
    '/desk/entitlements/e1',
  );
  return { asked, closed: () => closed };
}

async function chooseOda() {
  await userEvent.type(await screen.findByRole('combobox', { name: 'People and groups' }), 'od');
  await userEvent.click(await screen.findByRole('option', { name: /Oda Brekke/ }));
}

describe('giving', () => {
  it('shows who gains by name, and sends what was agreed to', async () => {
    const { asked, closed } = open(() =>
      foreseen({
        digest: 'seen',
        to: 14,
        moments: [
          moment('2020-01-01T00:00:00Z', 'gain', ROLE, 14, [ODA]),
          moment('2130-06-01T00:00:00Z', 'ends', ROLE, 1, [ODA]),
        ],
      }),
    );
    await chooseOda();
    expect(screen.queryByText('Odd Gone')).toBeNull();
    expect(await screen.findByText('14 people gain Farebox · Seller')).toBeTruthy();
    expect(screen.getByText(/and 13 more/)).toBeTruthy();
    expect(screen.getByText(/2130 on/)).toBeTruthy();
    expect(screen.getByText('1 person loses Farebox · Seller again')).toBeTruthy();
    await userEvent.type(screen.getByLabelText(/^Reason/), 'for the season');
    await userEvent.click(
      screen.getByRole('button', { name: 'Grant access to 14 people, no end' }),
    );
    await waitFor(() => expect(closed()).toBe(true));
    const sent = asked.filter((one) => one.what.endsWith('/grants'));
    expect(sent[0]?.headers.get('Foresee')).toBe('true');
    const done = sent.find((one) => !one.headers.has('Foresee'));
    expect(done?.headers.get('Foreseen')).toBe('seen');
    expect(done?.body).toEqual({
      subjects: [{ kind: 'person', id: 'p9', filter: null }],
      from: null,
      until: null,
      reason: 'for the season',
    });
  });

  it('says where nobody gains', async () => {
    open(() => foreseen({ already: 1 }));
    await chooseOda();
    expect(await screen.findByText('Nobody gains, loses or sees anything different.')).toBeTruthy();
    expect(screen.getByText('1 person holds it already.')).toBeTruthy();
  });

  it('cannot be done while something stands in the way, and keeps what was typed', async () => {
    let wrong = true;
    open(
      () =>
        foreseen(
          wrong
            ? {
                problems: [
                  {
                    code: 'effect',
                    field: '',
                    sentence: 'By this 1 person gains, which needs it.',
                  },
                ],
              }
            : {},
        ),
      () => ({
        status: 409,
        body: problem('changed-meanwhile', 'What this would do has changed; look again.', 409),
      }),
    );
    await chooseOda();
    expect(await screen.findByText(/By this 1 person gains/)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Grant access/ }).disabled).toBe(
      true,
    );
    wrong = false;
    await userEvent.type(screen.getByLabelText(/^Reason/), 'mine');
    await userEvent.click(screen.getByRole('radio', { name: 'everyone who matches a filter' }));
    await userEvent.click(screen.getByRole('button', { name: 'Edit as text' }));
    await userEvent.type(screen.getByLabelText('Filter'), 'unit pr');
    await waitFor(() =>
      expect(
        screen.getByRole<HTMLButtonElement>('button', { name: /^Grant access/ }).disabled,
      ).toBe(false),
    );
    await userEvent.click(screen.getByRole('button', { name: /^Grant access/ }));
    expect(await screen.findByText(/look again/)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(/^Reason/).value).toBe('mine');
  });
});
