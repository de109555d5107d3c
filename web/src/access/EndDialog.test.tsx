import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, SIGNED, serve } from '../testing/page';
import { EndDialog, left } from './EndDialog';

function ground(over: Partial<Schemas['GroundView']>): Schemas['GroundView'] {
  return {
    grant: 'g1',
    by: 'person',
    source: 'hand',
    subject: { kind: 'person', id: 'p9', name: 'Oda Brekke', people: 1 },
    chain: [],
    form: null,
    more: 0,
    matched: {},
    from: '2026-01-01T00:00:00Z',
    until: null,
    covers: 1,
    givenBy: 'Ines Roth',
    givenAt: null,
    reason: 'for a while',
    request: null,
    mayEndGrant: true,
    mayTakeOut: false,
    ...over,
  };
}

const DESK = { id: 'd1', name: 'Refund desk' };
const OWN = ground({});
const GROUP = ground({
  grant: 'g2',
  by: 'group',
  chain: [DESK],
  form: 'listed',
  covers: 20,
  mayTakeOut: true,
});
const FILTER = ground({
  grant: 'g3',
  by: 'filter',
  covers: 28,
  mayEndGrant: false,
  matched: { Unit: 'Ticketing' },
  subject: { kind: 'filter', id: null, name: 'unit eq "Ticketing"', people: 28 },
});

describe('what is left of a holding', () => {
  it('counts the grounds that nothing taken ends', () => {
    expect(left([OWN, GROUP, FILTER], [])).toBe(3);
    expect(left([OWN, GROUP], ['grant g1', 'group d1'])).toBe(0);
    expect(left([OWN, GROUP, FILTER], ['grant g1', 'grant g2'])).toBe(1);
  });

  it('does not count on leaving a group to which another way leads', () => {
    expect(left([ground({ grant: 'g2', chain: [DESK], more: 1 })], ['group d1'])).toBe(1);
  });
});

describe('ending a holding', () => {
  afterEach(cleanup);

  it('names every ground, claims no end while one is left, and sends what was agreed to', async () => {
    const asked = serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'POST /api/grants/end/preview': () => ({
        body: { gain: [], loss: [], keep: 1, covered: 1, digest: 'seen', problems: [] },
      }),
      'POST /api/grants/end': () => ({ body: { position: 8, result: '1' } }),
    });
    const person = { id: 'p9', displayed: 'Oda Brekke' } as Schemas['PersonLine'];
    const entitlement = { id: 'e1', title: 'Refund Bench · Asker' } as Schemas['EntitlementRef'];
    let closed = false;
    draw(
      <SessionGate>
        <EndDialog
          holding={{
            person,
            entitlement,
            holds: true,
            since: null,
            until: null,
            lastOpened: null,
            grounds: [OWN, FILTER],
            at: '',
            position: 7,
          }}
          onClose={() => {
            closed = true;
          }}
        />
      </SessionGate>,
      '/desk/people/p9',
    );
    expect(await screen.findByText(/rests on 2 grounds/)).toBeTruthy();
    expect(screen.getByText(/It ends when the attribute changes at its source/)).toBeTruthy();
    expect(screen.getByText('Oda Brekke still holds it: 1 ground is left.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'End the holding' })).toBeNull();
    await userEvent.type(screen.getByLabelText(/^Why/), 'not needed');
    await userEvent.click(
      await screen.findByRole('button', { name: 'End 1 ground, the holding stays' }),
    );
    await waitFor(() => expect(closed).toBe(true));
    const sent = asked.find((one) => one.what === 'POST /api/grants/end');
    expect(sent?.body).toEqual({
      grants: ['g1'],
      memberships: [],
      reason: 'not needed',
      digest: 'seen',
    });
    expect(sent?.key).not.toBeNull();
  });
});
