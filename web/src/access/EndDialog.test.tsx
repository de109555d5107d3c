import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, foreseen, SIGNED, serve } from '../testing/page';
import { EndDialog, gentlest, left } from './EndDialog';

function ground(over: Partial<Schemas['GroundView']>): Schemas['GroundView'] {
  return {
    grant: 'g1',
    by: 'person',
    source: 'hand',
    subject: { kind: 'person', id: 'p9', name: 'Oda Brekke', filter: null, people: 1 },
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
  subject: {
    kind: 'filter',
    id: null,
    name: 'everyone whose unit is Ticketing',
    filter: 'unit eq "Ticketing"',
    people: 28,
  },
});

function way(over: Partial<Schemas['WayOut']>): Schemas['WayOut'] {
  return {
    grant: 'g1',
    cut: 'grant',
    places: [],
    enough: false,
    others: 0,
    besides: 0,
    may: true,
    mirrored: false,
    ...over,
  };
}

const LEAVE_DESK = way({
  grant: 'g2',
  cut: 'nearest_the_person',
  places: [{ group: DESK, kind: 'person', member: 'p9', name: 'Oda Brekke' }],
  besides: 2,
});
const WAYS = [
  way({}),
  way({ grant: 'g2', others: 19 }),
  LEAVE_DESK,
  way({ grant: 'g3', others: 27, may: false }),
  way({ grant: 'g3', cut: 'attributes', may: false }),
];

describe('what is left of a holding', () => {
  it('counts the grounds that nothing chosen ends', () => {
    expect(left([OWN, GROUP, FILTER], WAYS, [])).toBe(3);
    expect(left([OWN, GROUP], WAYS, ['grant g1', 'place d1 person p9'])).toBe(0);
    expect(left([OWN, GROUP, FILTER], WAYS, ['grant g1', 'grant g2'])).toBe(1);
  });

  it('counts on a way only when all its places are cut', () => {
    const two = way({
      grant: 'g2',
      cut: 'nearest_the_person',
      places: [
        { group: DESK, kind: 'person', member: 'p9', name: 'Oda Brekke' },
        {
          group: { id: 'd2', name: 'Night desk' },
          kind: 'person',
          member: 'p9',
          name: 'Oda Brekke',
        },
      ],
    });
    expect(left([GROUP], [two], ['place d1 person p9'])).toBe(1);
    expect(left([GROUP], [two], ['place d1 person p9', 'place d2 person p9'])).toBe(0);
  });

  it('takes for every ground the way that does least beside, of those that are open', () => {
    expect(gentlest([OWN, GROUP, FILTER], WAYS)).toEqual(['grant g1', 'place d1 person p9']);
  });
});

describe('ending a holding', () => {
  it('names every ground, claims no end while one is left, and sends what was agreed to', async () => {
    const asked = serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/people/p9/holdings/e1/ways-out': () => ({ body: { ways: WAYS, cutOff: false } }),
      'POST /api/grants/end': () => ({
        body: { position: 8, result: '1', edit: null, foreseen: foreseen({ digest: 'seen' }) },
      }),
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
            grounds: [OWN, GROUP, FILTER],
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
    expect(await screen.findByText(/rests on 3 grounds/)).toBeTruthy();
    expect(
      await screen.findByText(/It ends when the attribute changes at its source/),
    ).toBeTruthy();
    expect(screen.getByText('Oda Brekke still holds it: 2 grounds are left.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'End the holding' })).toBeNull();
    expect(await screen.findByText('– 2 other holdings end')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /^End all that can be ended/ }));
    expect(screen.getByText('Oda Brekke still holds it: 1 ground is left.')).toBeTruthy();
    await userEvent.type(screen.getByLabelText(/^Reason/), 'not needed');
    const act = await screen.findByRole<HTMLButtonElement>('button', {
      name: 'End 2 grounds, the holding stays',
    });
    await waitFor(() => expect(act.disabled).toBe(false));
    await userEvent.click(act);
    await waitFor(() => expect(closed).toBe(true));
    const sent = asked.filter((one) => one.what === 'POST /api/grants/end');
    expect(sent[0]?.headers.get('Foresee')).toBe('true');
    const done = sent.find((one) => !one.headers.has('Foresee'));
    expect(done?.headers.get('Foreseen')).toBe('seen');
    expect(done?.body).toEqual({
      grants: ['g1'],
      memberships: [{ group: 'd1', kind: 'person', member: 'p9' }],
      reason: 'not needed',
    });
    expect(done?.headers.get('Idempotency-Key')).not.toBeNull();
  });
});
