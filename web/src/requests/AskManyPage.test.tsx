import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { entitlement, openDesk } from '../testing/samples';
import { AskManyPage } from './AskManyPage';

function line(number: number, over: Partial<Schemas['SheetLine']> = {}): Schemas['SheetLine'] {
  return {
    line: number,
    wantedPerson: `clerk.${number}`,
    wantedEntitlement: 'Refund Bench · Approver',
    person: { id: `p${number}`, name: `Clerk ${number}`, unit: 'Ticketing' },
    entitlement: entitlement('Refund Bench · Approver', { id: 'e1' }),
    until: null,
    reason: 'Summer',
    answers: {},
    wrong: [],
    ...over,
  };
}

type Many = (body: unknown) => { status?: number; body?: unknown };

const ALL_SENT: Many = (body) => ({
  body: {
    lines: (body as { requests: unknown[] }).requests.map(() => ({ request: 'r', problems: [] })),
  },
});

async function open(lines: Schemas['SheetLine'][], many: Many = ALL_SENT) {
  const asked = openDesk(
    '/ask/many',
    { '/ask/many': <AskManyPage /> },
    {
      'POST /api/requests/sheet': () => ({ body: { lines } }),
      'POST /api/requests/many': many,
    },
  );
  await userEvent.upload(
    await screen.findByLabelText('Choose file', { selector: 'input' }),
    new File(['[]'], 'many.csv', { type: 'text/csv' }),
  );
  return () => asked.filter((one) => one.what === 'POST /api/requests/many');
}

describe('asking for many by file', () => {
  it('shows what is wrong first, and sends what is right', async () => {
    const sent = await open([
      line(2),
      line(3, { person: null, wrong: ['You cannot ask for “clerk.3”.'] }),
      line(4, { until: '2027-03-31' }),
    ]);
    expect(await screen.findByText('2 of 3 lines can be sent.')).toBeTruthy();
    const rows = screen.getAllByRole('row').map((row) => row.textContent);
    expect(rows[1]).toContain('clerk.3');
    expect(rows[1]).not.toContain('no end');
    expect(rows[2]).toContain('no end');
    expect(rows[1]).toContain('You cannot ask for “clerk.3”.');
    await userEvent.click(screen.getByRole('button', { name: 'Send 2 requests' }));
    expect(await screen.findByText('2 requests sent.')).toBeTruthy();
    expect(sent().map((one) => one.body)).toEqual([
      {
        requests: [
          { person: 'p2', entitlement: 'e1', until: null, reason: 'Summer', answers: {} },
          { person: 'p4', entitlement: 'e1', until: '2027-03-31', reason: 'Summer', answers: {} },
        ],
      },
    ]);
  });

  it('sends fifty at once, goes on where the line was lost, and repeats nothing', async () => {
    let lost = true;
    let sentBefore = 0;
    const sent = await open(
      Array.from({ length: 120 }, (_, at) => line(at + 2)),
      (body) => {
        if (sentBefore === 1 && lost) {
          lost = false;
          return { status: 503, body: problem('away', 'Try again.', 503) };
        }
        sentBefore += 1;
        return ALL_SENT(body);
      },
    );
    await userEvent.click(await screen.findByRole('button', { name: 'Send 120 requests' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Send the remaining 70' }));
    expect(await screen.findByText('120 requests sent.')).toBeTruthy();
    const sizes = sent().map((one) => (one.body as { requests: unknown[] }).requests.length);
    expect(sizes).toEqual([50, 50, 50, 20]);
    // The lost one goes out again as the same act.
    expect(sent()[1]?.key).toBe(sent()[2]?.key);
    expect(new Set(sent().map((one) => one.key)).size).toBe(3);
  });

  it('says which were refused after all', async () => {
    await open([line(2)], () => ({
      body: {
        lines: [{ request: null, problems: [{ code: 'x', field: '', sentence: 'Has departed.' }] }],
      },
    }));
    await userEvent.click(await screen.findByRole('button', { name: 'Send 1 request' }));
    expect(await screen.findByText('Has departed.')).toBeTruthy();
    expect(screen.getByText('0 requests sent.')).toBeTruthy();
  });

  it('says why a file is none', async () => {
    openDesk(
      '/ask/many',
      { '/ask/many': <AskManyPage /> },
      {
        'POST /api/requests/sheet': () => ({
          status: 422,
          body: problem('request.sheet', 'The file is empty.', 422, 'file'),
        }),
      },
    );
    await userEvent.upload(
      await screen.findByLabelText('Choose file', { selector: 'input' }),
      new File([''], 'many.csv', { type: 'text/csv' }),
    );
    await waitFor(() => expect(screen.getByText('The file is empty.')).toBeTruthy());
  });
});
