import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { LENA, openDesk } from '../testing/samples';
import { ReportsPage } from './ReportsPage';

const REPORT: Schemas['MadeView'] = {
  number: 12,
  name: 'High sensitivity',
  format: 'csv',
  by: LENA,
  at: '2026-11-20T09:00:00Z',
  asOf: '2026-11-19T23:00:00Z',
  position: 4711,
  lines: 88,
  digest: 'ab',
};

function open(made: Schemas['MadeView'][], check: Partial<Schemas['CheckView']> = {}) {
  return openDesk(
    '/desk/reports',
    { '/desk/reports': <ReportsPage /> },
    {
      'GET /api/reports-made': () => ({ body: made }),
      'POST /api/reports-made/12/check': () => ({
        body: { report: REPORT, ledger: true, facts: 'yes', file: null, linesNow: 88, ...check },
      }),
    },
    { powers: ['access.read'] },
  );
}

describe('downloaded reports', () => {
  it('are told with what they are based on, and which of them broke off', async () => {
    open([REPORT, { ...REPORT, number: 13, name: 'Leavers', lines: null, by: null }]);
    const row = async (name: string) => (await screen.findByText(name)).closest('tr')?.textContent;
    expect(await row('High sensitivity')).toMatch(/^12High sensitivity csvLena Aho.*4711.*88/);
    expect(await row('Leavers')).toContain('interrupted');
  });

  it('are genuine where their lines follow from the facts of their moment', async () => {
    open([REPORT]);
    await userEvent.click(await screen.findByRole('button', { name: 'Check report 12' }));
    expect(await screen.findByText('Genuine.')).toBeTruthy();
    expect(screen.getByText('Its 88 holdings follow from the facts of that moment.')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Open entry' }).getAttribute('href')).toBe(
      '/desk/ledger/4711',
    );
  });

  it.each([
    [{ facts: 'no', linesNow: 90 }, /give 90 lines; the report had 88, or different ones/],
    [{ ledger: false }, /^Entry 4,711 is not in the ledger as it was/],
    [{ file: false }, 'The file is a different one.'],
  ] as [Partial<Schemas['CheckView']>, string | RegExp][])(
    'are not genuine where one part is not: %o',
    async (check, why) => {
      open([REPORT], check);
      await userEvent.click(await screen.findByRole('button', { name: 'Check report 12' }));
      expect(await screen.findByText('Not genuine.')).toBeTruthy();
      expect(screen.getByText(why)).toBeTruthy();
    },
  );

  it('are neither where nothing could be compared but the ledger', async () => {
    open([REPORT], { facts: 'unknown' });
    await userEvent.click(await screen.findByRole('button', { name: 'Check report 12' }));
    expect(await screen.findByText('Check its file to be sure.')).toBeTruthy();
    expect(screen.queryByText('Genuine.')).toBeNull();
  });

  it('say that a report is unknown, and why one cannot be checked', async () => {
    open([REPORT], { report: null });
    await userEvent.click(await screen.findByRole('button', { name: 'Check report 12' }));
    expect(await screen.findByText(/^No report with exactly these bytes/)).toBeTruthy();
    cleanup();
    openDesk(
      '/desk/reports',
      { '/desk/reports': <ReportsPage /> },
      {
        'GET /api/reports-made': () => ({ body: [REPORT] }),
        'POST /api/reports-made/12/check': () => ({
          status: 429,
          body: problem('too-many', 'Try again in a minute.', 429),
        }),
      },
    );
    await userEvent.click(await screen.findByRole('button', { name: 'Check report 12' }));
    expect(await screen.findByText('Try again in a minute.')).toBeTruthy();
  });

  it('say that there is none yet', async () => {
    open([]);
    await waitFor(() => expect(screen.getByText('No report yet')).toBeTruthy());
  });
});
