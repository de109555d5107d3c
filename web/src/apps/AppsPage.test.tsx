import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, layOut, SIGNED, serve } from '../testing/page';
import { AppsPage } from './AppsPage';

function line(name: string, over: Partial<Schemas['AppLine']> = {}): Schemas['AppLine'] {
  return {
    app: { id: `a-${name}`, name, picture: 'key', hue: 'tide', state: 'open' },
    line: '',
    sensitivity: 'low',
    owners: ['Lena Aho'],
    entitlements: 2,
    holders: 10,
    unused: null,
    openings: null,
    ...over,
  };
}

function open(
  lines: Schemas['AppLine'][],
  over: Partial<Schemas['AppsPage']> = {},
  powers = ['apps.read'],
) {
  const asked: URLSearchParams[] = [];
  serve({
    'GET /api/session': () => ({
      body: { ...SIGNED, signed: { ...SIGNED.signed, powers } },
    }),
    'GET /api/apps': (_, url) => {
      asked.push(url.searchParams);
      return {
        body: {
          lines,
          total: lines.length,
          of: 40,
          open: 38,
          proposed: 0,
          ownerless: 0,
          most: 100,
          weeks: [],
          at: '2026-11-30T09:00:00Z',
          position: 7,
          ...over,
        },
      };
    },
  });
  draw(
    <SessionGate>
      <Routes>
        <Route path="/desk/apps" element={<AppsPage />} />
        <Route path="/desk/apps/:id" element={<h1>One app</h1>} />
      </Routes>
    </SessionGate>,
    '/desk/apps',
  );
  return asked;
}

async function row(name: string): Promise<HTMLElement> {
  const found = (await screen.findByRole('link', { name })).closest<HTMLElement>('[role=row]');
  expect(found).not.toBeNull();
  return found as HTMLElement;
}

describe('the list of applications', () => {
  beforeAll(layOut);

  it('tells who answers for each, and which nobody does', async () => {
    open(
      [line('Farebox', { owners: ['Lena Aho', 'Jonas Weir'] }), line('Old Log', { owners: [] })],
      {
        ownerless: 1,
      },
    );
    expect(within(await row('Farebox')).getByText('Lena Aho, Jonas Weir')).toBeTruthy();
    expect(within(await row('Old Log')).getByText('no owner')).toBeTruthy();
    expect(
      screen.getByText(/without an owner|has no owner|no owner/, { selector: 'header *' }),
    ).toBeTruthy();
  });

  it('shows use only to whoever may see it', async () => {
    open([line('Farebox')]);
    await row('Farebox');
    expect(screen.queryByRole('columnheader', { name: /Unused/ })).toBeNull();
    cleanup();
    open([line('Farebox', { unused: 4, openings: [0, 3, 5] }), line('Quiet', { unused: 0 })], {
      weeks: ['2026-11-16', '2026-11-23', '2026-11-30'],
    });
    const told = within(await row('Farebox')).getAllByRole('cell');
    expect(screen.getByRole('columnheader', { name: /Unused/ })).toBeTruthy();
    expect(told.map((cell) => cell.textContent)).toContain('4');
    // Not known is not the same as none.
    const quiet = within(await row('Quiet'))
      .getAllByRole('cell')
      .map((cell) => cell.textContent);
    expect(quiet).toContain('0');
    expect(quiet).toContain('–');
  });

  it('compares from the most, and the other way at the second press', async () => {
    const asked = open([line('Farebox')]);
    await row('Farebox');
    const sorts = () => asked.map((one) => `${one.get('sort')} ${one.get('descending')}`);
    expect(sorts().at(-1)).toBe('name false');
    await userEvent.click(screen.getByRole('button', { name: /by Holders/i }));
    await waitFor(() => expect(sorts().at(-1)).toBe('holders true'));
    await userEvent.click(screen.getByRole('button', { name: /by Holders/i }));
    await waitFor(() => expect(sorts().at(-1)).toBe('holders false'));
  });

  it('is narrowed by state, and opened by a row', async () => {
    const asked = open([line('Farebox')]);
    await row('Farebox');
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'State' }), 'paused');
    await waitFor(() => expect(asked.at(-1)?.getAll('state')).toEqual(['paused']));
    await userEvent.click(await screen.findByRole('link', { name: 'Farebox' }));
    expect(await screen.findByRole('heading', { name: 'One app' })).toBeTruthy();
  });

  it('lets only whoever may add an app add one', async () => {
    open([line('Farebox')]);
    await row('Farebox');
    expect(screen.queryByRole('link', { name: 'Add an app' })).toBeNull();
    cleanup();
    open([line('Farebox')], {}, ['apps.read', 'apps.edit']);
    expect(await screen.findByRole('link', { name: 'Add an app' })).toBeTruthy();
  });
});
