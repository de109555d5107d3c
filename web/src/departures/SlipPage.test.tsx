import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { ODA, openDesk } from '../testing/samples';
import { SlipPage } from './SlipPage';

const SLIP: Schemas['SlipView'] = {
  person: ODA,
  at: '2026-11-28T16:00:00Z',
  by: 'Petra Lindholm',
  position: 4700,
  lost: ['Farebox · Seller', 'Farebox · Seller'],
  grants: ['Refund Bench · Approver'],
  memberships: [{ id: 'refund', name: 'Refund desk' }],
  mandates: ['Help desk'],
  mirrored: [{ id: 'staff', name: 'Ticketing staff' }],
  byFilter: [],
  filterGrants: ['Quaynotes · Reader'],
  lone: [{ id: 'a9', kind: 'application', name: 'Knot board' }],
  requests: 2,
  sessions: 1,
};

function open(slip: Schemas['SlipView'], powers: string[]) {
  openDesk(
    '/desk/departures/p-oda',
    { '/desk/departures/:id': <SlipPage /> },
    { 'GET /api/departures/p-oda': () => ({ body: slip }) },
    { powers },
  );
}

describe('the slip of a departure', () => {
  it('tells everything that ended, and what stays without effect', async () => {
    open(SLIP, ['people.read', 'ledger.read']);
    expect(await screen.findByRole('heading', { name: 'Departure of Oda Brekke' })).toBeTruthy();
    expect(screen.getAllByRole('heading', { level: 2 }).map((one) => one.textContent)).toEqual([
      '2 holdings ended',
      '1 grant to the person alone ended',
      'Removed from 1 listed group',
      '1 mandate ended',
      'Stays on record, without effect',
      'No other owner',
    ]);
    expect(screen.getByText('2 open requests ended undecided. 1 session ends.')).toBeTruthy();
    expect(screen.getByText('Ticketing staff: the source still lists the person')).toBeTruthy();
    expect(
      screen.getByText('Granted through filters that still match: Quaynotes · Reader.'),
    ).toBeTruthy();
    expect(screen.getByRole('link', { name: 'entry 4,700' }).getAttribute('href')).toBe(
      '/desk/ledger/4700',
    );
    // Here nobody is made an owner: who owned it is gone.
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('leaves out what there was none of, and ways the reader may not go', async () => {
    open(
      {
        ...SLIP,
        lost: [],
        mandates: [],
        mirrored: [],
        filterGrants: [],
        lone: [],
        requests: 0,
        sessions: 0,
        by: null,
      },
      ['departures.run'],
    );
    await screen.findByRole('heading', { name: 'Departure of Oda Brekke' });
    expect(screen.getAllByRole('heading', { level: 2 })).toHaveLength(2);
    expect(screen.queryByRole('link', { name: /entry/ })).toBeNull();
    expect(screen.queryByRole('link', { name: 'Brekke, Oda' })).toBeNull();
  });

  it('is not there for who may not see it', async () => {
    openDesk(
      '/desk/departures/p-oda',
      { '/desk/departures/:id': <SlipPage /> },
      {
        'GET /api/departures/p-oda': () => ({
          status: 404,
          body: problem('absent', 'There is no such departure.', 404),
        }),
      },
    );
    expect(await screen.findByText('There is no such departure.')).toBeTruthy();
  });
});
