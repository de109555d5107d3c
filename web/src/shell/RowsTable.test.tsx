import { cleanup, fireEvent, screen } from '@testing-library/react';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { draw, layOut } from '../testing/page';
import { type Column, RowsTable } from './RowsTable';

type Row = { id: string; name: string };

const COLUMNS: Column<Row>[] = [
  { key: 'name', label: 'Name', width: '1fr', sort: 'name', cell: (row) => row.name },
];

function rows(offset: number, limit: number, total: number): Row[] {
  return Array.from({ length: Math.min(limit, total - offset) }, (_, index) => ({
    id: String(offset + index),
    name: `Person ${offset + index}`,
  }));
}

describe('a long table', () => {
  beforeAll(layOut);

  it('asks for the pages in sight only, and tells its whole length', async () => {
    const page = vi.fn(async (offset: number, limit: number) => ({
      total: 100_000,
      rows: rows(offset, limit, 100_000),
    }));
    draw(
      <RowsTable
        label="People"
        columns={COLUMNS}
        queryKey={['p']}
        page={page}
        onOpen={vi.fn()}
        empty="none"
      />,
    );
    expect(await screen.findByText('Person 0')).toBeTruthy();
    expect(screen.getByRole('table').getAttribute('aria-rowcount')).toBe('100001');
    expect(screen.getAllByRole('row').length).toBeLessThan(60);
    expect(page.mock.calls).toEqual([[0, 100]]);
  });

  it('is moved through by arrows and opened by Enter', async () => {
    const onOpen = vi.fn();
    draw(
      <RowsTable
        label="People"
        columns={COLUMNS}
        queryKey={['p']}
        page={async () => ({ total: 3, rows: rows(0, 3, 3) })}
        onOpen={onOpen}
        empty="none"
      />,
    );
    await screen.findByText('Person 2');
    const table = screen.getByRole('table');
    for (const key of ['ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowUp', 'Enter']) {
      fireEvent.keyDown(table, { key });
    }
    expect(onOpen).toHaveBeenCalledWith({ id: '1', name: 'Person 1' });
  });

  it('says when there is nothing, and when something cannot be read', async () => {
    draw(
      <RowsTable
        label="People"
        columns={COLUMNS}
        queryKey={['e']}
        page={async () => ({ total: 0, rows: [] })}
        onOpen={vi.fn()}
        empty={<p>nobody fits</p>}
      />,
    );
    expect(await screen.findByText('nobody fits')).toBeTruthy();
    cleanup();
    draw(
      <RowsTable
        label="People"
        columns={COLUMNS}
        queryKey={['f']}
        page={async () => Promise.reject(new Error('The database does not answer.'))}
        onOpen={vi.fn()}
        empty="none"
      />,
    );
    expect((await screen.findByRole('alert')).textContent).toContain(
      'The database does not answer.',
    );
  });
});
