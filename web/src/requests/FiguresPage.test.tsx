import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { entitlement, LENA, ODA, openDesk } from '../testing/samples';
import { FiguresPage } from './FiguresPage';

const FIGURES: Schemas['FiguresView'] = {
  days: 90,
  open: [4, 0, 2, 1, 3],
  given: 1200,
  refused: 80,
  withdrawn: 5,
  lapsed: 7,
  overtaken: 1,
  pace: { decided: 1280, halfMinutes: 95, mostMinutes: 4400 },
  steps: [
    { as: 'manager', decided: 900, took: { decided: 900, halfMinutes: 60, mostMinutes: 121 } },
    { as: 'passed_on', decided: 2, took: null },
  ],
  deciders: [
    {
      who: LENA,
      decided: 40,
      took: { decided: 40, halfMinutes: 300, mostMinutes: 20_000 },
      waiting: 3,
      oldestMinutes: 11_000,
      slow: true,
    },
    { who: ODA, decided: 0, took: null, waiting: 0, oldestMinutes: 0, slow: false },
  ],
  unused: [],
};

function open(view: Partial<Schemas['FiguresView']> = {}, address = '/desk/requests') {
  return openDesk(
    address,
    { '/desk/requests': <FiguresPage /> },
    {
      'GET /api/requests/figures': () => ({ body: { ...FIGURES, ...view } }),
    },
  );
}

const cells = (row: HTMLElement) =>
  [...row.querySelectorAll('th, td')].map((cell) => cell.textContent?.trim());

describe('how requests are decided', () => {
  it('tells what is open by age, and how long steps and people take', async () => {
    open();
    const ages = await screen.findByRole('table', { name: 'Open by age' });
    expect(within(ages).getAllByRole('row').map(cells)).toEqual([
      ['under a day', '1 to 3 days', '3 to 7 days', '7 to 14 days', 'over 14 days'],
      ['4', '0', '2', '1', '3'],
    ]);
    const steps = screen.getByRole('table', { name: 'By step' });
    expect(within(steps).getAllByRole('row').slice(1).map(cells)).toEqual([
      ['manager', '900', '60 minutes', '3 hours'],
      ['a person it was passed on to', '2', '–', '–'],
    ]);
    const people = screen.getByRole('table', { name: 'By person' });
    expect(within(people).getAllByRole('row').slice(1).map(cells)).toEqual([
      ['Lena Aho Ticketing slow', '40', '5 hours', '14 days', '3', '8 days'],
      ['Oda Brekke Ticketing', '0', '–', '–', '0', '–'],
    ]);
    expect(screen.getByText('half are decided by then').closest('li')?.textContent).toContain(
      '95 minutes',
    );
  });

  it('is asked for another span, and falls back to 90 days', async () => {
    const asked = open({}, '/desk/requests?days=7');
    const span = await screen.findByLabelText<HTMLSelectElement>('Made in the last');
    expect(span.value).toBe('90');
    await userEvent.setup().selectOptions(span, 'year');
    await screen.findByDisplayValue('year');
    expect(asked.filter((one) => one.what.startsWith('GET /api/requests/figures'))).toHaveLength(2);
  });

  it('says so where there is nothing', async () => {
    open({ open: [0, 0, 0, 0, 0], deciders: [], steps: [], pace: null });
    expect(await screen.findByText('No requests in that time, and none are open.')).toBeTruthy();
  });

  it('says where nothing can be 60 days old yet', async () => {
    open({ days: 30 });
    expect(await screen.findByText(/Nothing from this span is 60 days old yet/)).toBeTruthy();
  });

  it('tells what was granted and is left alone, and saves that apart', async () => {
    let saved: Blob | undefined;
    vi.spyOn(URL, 'createObjectURL').mockImplementation((blob) => {
      saved = blob as Blob;
      return 'blob:x';
    });
    open({
      unused: [
        { entitlement: entitlement('Farebox · Pricer', { id: 'e3' }), granted: 14, unused: 9 },
      ],
    });
    const table = await screen.findByRole('table', { name: 'Granted, then unused' });
    expect(within(table).getAllByRole('row').slice(1).map(cells)).toEqual([
      ['Farebox · Pricer', '14', '9'],
    ]);
    expect(within(table).getByRole('link').getAttribute('href')).toBe('/desk/entitlements/e3');
    await userEvent.click(screen.getByRole('button', { name: 'Save this list as CSV' }));
    expect((await saved?.text())?.split('\r\n')[1]).toBe('Farebox · Pricer,14,9');
  });

  it('is saved in minutes', async () => {
    let saved: Blob | undefined;
    vi.spyOn(URL, 'createObjectURL').mockImplementation((blob) => {
      saved = blob as Blob;
      return 'blob:x';
    });
    open();
    await userEvent.setup().click(await screen.findByRole('button', { name: 'Save as CSV' }));
    expect((await saved?.text())?.split('\r\n').slice(1, 3)).toEqual([
      'Lena Aho,40,300,20000,3,11000',
      'Oda Brekke,0,,,0,',
    ]);
  });
});
