import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { layOut } from '../../testing/page';
import { LENA, ODA, openDesk, person } from '../../testing/samples';
import { PeoplePage } from './PeoplePage';

function open(
  lines: Schemas['PersonLine'][],
  address = '/desk/people',
  signed: Partial<Schemas['Signed']> = {},
) {
  const lists: URLSearchParams[] = [];
  openDesk(
    address,
    {
      '/desk/people': <PeoplePage />,
      '/desk/people/:id': <h1>One person</h1>,
      '/desk/deliveries': <h1>Import</h1>,
    },
    {
      'GET /api/people': (_: unknown, url: URL) => {
        lists.push(url.searchParams);
        return {
          body: {
            lines,
            total: lines.length,
            of: 1214,
            limited: false,
            facets: {
              unit: [
                { value: 'Ticketing', count: 140 },
                { value: '', count: 3 },
              ],
              site: [{ value: 'Harrow Quay', count: 700 }],
            },
            at: '2026-11-30T09:00:00Z',
            position: 7,
          },
        };
      },
    },
    { powers: ['people.read'], ...signed },
  );
  return lists;
}

describe('the list of people', () => {
  beforeAll(layOut);

  it('begins with whoever has not departed, in order of name', async () => {
    const lists = open([LENA, ODA]);
    await screen.findByRole('link', { name: 'Aho, Lena' });
    expect(lists.at(-1)?.getAll('status')).toEqual(['expected', 'active', 'paused']);
    expect(lists.at(-1)?.get('sort')).toBe('name');
    expect(screen.getByText('2 of 1,214 people')).toBeTruthy();
  });

  it('shows who has departed only where that is asked', async () => {
    const lists = open([person('p1', 'Mina Sato', { status: 'departed' })]);
    const status = await screen.findByRole('combobox', { name: 'Status' });
    await userEvent.selectOptions(status, 'every');
    await waitFor(() => expect(lists.at(-1)?.getAll('status')).toEqual([]));
    await userEvent.selectOptions(status, 'departed');
    await waitFor(() => expect(lists.at(-1)?.getAll('status')).toEqual(['departed']));
    expect(await screen.findByText('departed', { selector: '.tag' })).toBeTruthy();
  });

  it('counts each unit in its choice, and offers none without a name', async () => {
    const lists = open([LENA]);
    await screen.findByRole('link', { name: 'Aho, Lena' });
    const unit = screen.getByRole<HTMLSelectElement>('combobox', { name: 'Unit' });
    expect([...unit.options].map((one) => one.textContent)).toEqual([
      'all units',
      'Ticketing (140)',
    ]);
    await userEvent.selectOptions(unit, 'Ticketing');
    await waitFor(() => expect(lists.at(-1)?.getAll('unit')).toEqual(['Ticketing']));
  });

  it('says that nobody matches, and shows everyone again in one press', async () => {
    const lists = open([], '/desk/people?find=zz&unit=Ticketing&status=every');
    await userEvent.click(await screen.findByRole('button', { name: 'Show everyone' }));
    await waitFor(() => {
      expect(lists.at(-1)?.get('find')).toBe('');
      expect(lists.at(-1)?.getAll('unit')).toEqual([]);
      expect(lists.at(-1)?.getAll('status')).toHaveLength(3);
    });
  });

  it('leads from an empty product to the import, for whoever may import', async () => {
    open([], '/desk/people', { powers: ['people.read', 'people.import'] });
    await userEvent.click(await screen.findByRole('button', { name: 'Import a file' }));
    expect(await screen.findByRole('heading', { name: 'Import' })).toBeTruthy();
    cleanup();
    open([]);
    expect(await screen.findByText('Nobody is on record yet')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Import a file' })).toBeNull();
  });

  it('is asked as of the end of a past day, and keeps the day in what it leads to', async () => {
    const lists = open([LENA], '/desk/people?asOf=2026-06-01');
    const name = await screen.findByRole('link', { name: 'Aho, Lena' });
    // Midnight in Oslo, in summer.
    expect(lists.at(-1)?.get('asOf')).toMatch(/^2026-06-01T2[12]:/);
    expect(name.getAttribute('href')).toContain('asOf=2026-06-01');
  });

  it('says where reach ends', async () => {
    open([LENA], '/desk/people', { limited: true });
    await screen.findByRole('link', { name: 'Aho, Lena' });
    expect(screen.getByText(/reach/)).toBeTruthy();
  });
});
