import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, problem, SIGNED, serve } from '../testing/page';
import { GiveDialog } from './GiveDialog';

const ROLE: Schemas['EntitlementRef'] = {
  id: 'e1',
  title: 'Farebox · Seller',
  name: 'Seller',
  line: '',
  weight: 'light',
  app: { id: 'a1', name: 'Farebox', picture: 'key', hue: 'tide', state: 'open' },
};

const ODA = {
  id: 'p9',
  displayed: 'Oda Brekke',
  familyFirst: 'Brekke, Oda',
  status: 'active',
} as Schemas['PersonLine'];

const GONE = { ...ODA, id: 'p8', displayed: 'Odd Gone', status: 'departed' };

function effects(over: Partial<Schemas['EffectsView']>): Schemas['EffectsView'] {
  return { gain: [], loss: [], keep: 0, covered: 1, digest: 'seen', problems: [], ...over };
}

function open(
  preview: () => Schemas['EffectsView'],
  give: () => { status?: number; body: unknown },
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
    'POST /api/entitlements/e1/grants/preview': () => ({ body: preview() }),
    'POST /api/entitlements/e1/grants': give,
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
  await userEvent.type(await screen.findByRole('textbox', { name: 'People and groups' }), 'od');
  await userEvent.click(await screen.findByRole('button', { name: 'Oda Brekke' }));
}

describe('giving', () => {
  afterEach(cleanup);

  it('shows who gains by name, and sends what was agreed to', async () => {
    const { asked, closed } = open(
      () =>
        effects({
          gain: [
            { entitlement: ROLE, at: '2020-01-01T00:00:00Z', people: 14, named: [ODA] },
            { entitlement: ROLE, at: '2030-06-01T00:00:00Z', people: 1, named: [ODA] },
          ],
        }),
      () => ({ body: { position: 8, result: '1' } }),
    );
    await chooseOda();
    expect(screen.queryByText('Odd Gone')).toBeNull();
    expect(await screen.findByText('14 people gain Farebox · Seller')).toBeTruthy();
    expect(screen.getByText(/and 13 more/)).toBeTruthy();
    expect(screen.getByText(/2030 on/)).toBeTruthy();
    await userEvent.type(screen.getByLabelText(/^Why/), 'for the season');
    await userEvent.click(screen.getByRole('button', { name: 'Give it to 1 person' }));
    await waitFor(() => expect(closed()).toBe(true));
    expect(asked.find((one) => one.what.endsWith('/grants'))?.body).toEqual({
      subjects: [{ kind: 'person', id: 'p9', filter: null }],
      from: null,
      until: null,
      reason: 'for the season',
      digest: 'seen',
    });
  });

  it('says where nobody gains', async () => {
    open(
      () => effects({ keep: 1 }),
      () => ({ body: {} }),
    );
    await chooseOda();
    expect(await screen.findByText('Nobody gains or loses anything.')).toBeTruthy();
    expect(screen.getByText('1 person holds it before and after.')).toBeTruthy();
  });

  it('cannot be done while something stands in the way, and keeps what was typed', async () => {
    let wrong = true;
    open(
      () =>
        effects(
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
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Give it to/ }).disabled).toBe(
      true,
    );
    wrong = false;
    await userEvent.type(screen.getByLabelText(/^Why/), 'mine');
    await userEvent.click(screen.getByRole('radio', { name: 'all whom a filter fits' }));
    await userEvent.type(screen.getByLabelText('Filter'), 'unit pr');
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Give it to/ }).disabled).toBe(
        false,
      ),
    );
    await userEvent.click(screen.getByRole('button', { name: /^Give it to/ }));
    expect(await screen.findByText(/look again/)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(/^Why/).value).toBe('mine');
  });
});
