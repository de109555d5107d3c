import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import { SessionGate } from '../../shell/session';
import { draw, foreseen, moment, problem, SIGNED, serve } from '../../testing/page';
import { DeliveryPage } from './DeliveryPage';

const DELIVERY = {
  id: 'd1',
  source: 's1',
  sourceName: 'Staff register',
  newSource: false,
  fileName: 'staff.csv',
  rows: 40,
  columns: [{ heading: 'staff_no', target: 'key', sample: ['TS-1'] }],
  targets: [{ target: 'key', label: 'Key, stays for ever', of: 'people' }],
  scope: 'all',
  position: null,
};

const PREVIEW = {
  digest: 'abc',
  added: 3,
  changed: 2,
  same: 0,
  bad: 1,
  ended: 12,
  known: 100,
  endsMany: true,
  problems: [],
  total: 1,
  lines: [
    {
      line: 2,
      verdict: 'added',
      key: 'TS-1',
      label: 'Brekke, Oda',
      differences: [{ what: 'Unit', before: null, after: 'Ticketing' }],
      wrong: [],
    },
  ],
};

const page = (
  <SessionGate>
    <Routes>
      <Route path="/desk/deliveries/:id" element={<DeliveryPage />} />
    </Routes>
  </SessionGate>
);

const ROLE = { id: 'e1', title: 'Farebox · Seller' };

describe('a dropped file', () => {
  it('is imported only when bad lines are left out and many endings are typed', async () => {
    let tries = 0;
    const asked = serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/deliveries/d1': () => ({
        body: { ...DELIVERY, position: tries > 1 ? 42 : null },
      }),
      'GET /api/deliveries/d1/preview': () => ({ body: PREVIEW }),
      'POST /api/deliveries/d1/import': (_body, _url, headers) => {
        if (headers.has('Foresee')) {
          const gains = [moment('2020-01-01T00:00:00Z', 'gain', ROLE, 3, [])];
          return {
            body: { position: 7, result: '', edit: null, foreseen: foreseen({ moments: gains }) },
          };
        }
        tries += 1;
        return tries === 1
          ? { status: 409, body: problem('changed-meanwhile', 'Look again.', 409) }
          : { body: { position: 42, result: '17' } };
      },
    });
    draw(page, '/desk/deliveries/d1');
    const button = await screen.findByRole<HTMLButtonElement>('button', {
      name: 'Import: +3 added, 2 changed, −12 removed',
    });
    expect(button.disabled).toBe(true);
    await userEvent.click(screen.getByLabelText('Skip 1 invalid line'));
    expect(button.disabled).toBe(true);
    // Whose access moves stands there before anything is done.
    expect(await screen.findByText('3 people gain Farebox · Seller')).toBeTruthy();
    const number = screen.getByLabelText('12 of 100 will be removed. Type 12 to continue');
    await userEvent.type(number, '11');
    expect(button.disabled).toBe(true);
    await userEvent.clear(number);
    await userEvent.type(number, '12');
    expect(button.disabled).toBe(false);

    await userEvent.type(screen.getByLabelText('Reason (kept in the ledger)'), 'weekly');
    await userEvent.click(button);
    expect(await screen.findByText('Look again.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Reason (kept in the ledger)').value).toBe(
      'weekly',
    );

    await userEvent.click(button);
    expect(await screen.findByText(/It is entry 42 in the ledger/)).toBeTruthy();
    const sent = asked.filter((one) => one.what.endsWith('/import') && !one.headers.has('Foresee'));
    expect(sent[0]?.body).toEqual({
      digest: 'abc',
      endings: 12,
      leaveOutBad: true,
      invite: true,
      reason: 'weekly',
    });
    // A repeat of the same act is known as one.
    expect(sent[0]?.key).toBe(sent[1]?.key);
  });

  it('says all that is wrong with the matching', async () => {
    serve({
      'GET /api/session': () => ({ body: SIGNED }),
      'GET /api/deliveries/d1': () => ({ body: DELIVERY }),
      'GET /api/deliveries/d1/preview': () => ({
        body: {
          ...PREVIEW,
          problems: ['Say which column is the key.', 'Say which hold the name.'],
        },
      }),
    });
    draw(page, '/desk/deliveries/d1');
    const first = await screen.findByText('Say which column is the key.');
    expect(first.closest('[role=alert]')?.textContent).toContain('Say which hold the name.');
    await waitFor(() => expect(screen.queryByRole('button', { name: /^Import/ })).toBeNull());
  });
});
