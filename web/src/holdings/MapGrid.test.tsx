import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { draw, layOut, problem, serve } from '../testing/page';
import type { Piece } from './cells';
import { MapGrid, type Placed } from './MapGrid';

const APPS = [
  { id: 'a0', name: 'Farebox', picture: 'key', hue: 'tide', state: 'open' },
  { id: 'a1', name: 'Tide Table', picture: 'key', hue: 'moss', state: 'open' },
];
const NOTHING = () => undefined;
const UNMARKED = {};
const ROLES = ['Seller', 'Auditor', 'Reader'];

/** A window of a map of so many people with three entitlements; who and what meet in a cell. */
function view(url: URL, people: number): Schemas['MapView'] {
  const from = Number(url.searchParams.get('row'));
  const size = Math.min(Number(url.searchParams.get('size')), people - from);
  const cells: number[][] = [];
  for (let row = 0; row < size; row++) {
    // Everybody holds the first; every second one has left the second unused.
    cells.push([row, 0, 1, 0, 0, 1, 0]);
    if ((from + row) % 2 === 0) {
      cells.push([row, 1, 1, 1, 0, 2, 0]);
    }
  }
  return {
    at: '2026-11-30T09:00:00Z',
    position: 7,
    people,
    held: people + Math.ceil(people / 2),
    rows: people,
    columns: 3,
    apps: APPS,
    columnHeads: ROLES.map((name, index) => ({
      id: `e${index}`,
      name,
      app: index === 2 ? 1 : 0,
      sensitivity: index === 1 ? 'high' : 'low',
      count: people,
    })),
    rowHeads: Array.from({ length: Math.max(0, size) }, (_, index) => ({
      key: `p${from + index}`,
      id: `p${from + index}`,
      kind: 'person',
      name: `Person ${from + index}`,
      beside: null,
      depth: 0,
      of: 1,
      open: false,
    })),
    cells,
  };
}

/** The map, with what is marked kept as a page keeps it. */
function Held({
  onMark,
  onOpen,
}: {
  onMark: (piece: Piece | undefined) => void;
  onOpen: (name: string) => void;
}) {
  const [placed, setPlaced] = useState<Placed>();
  return (
    <MapGrid
      asked={{}}
      shape={{}}
      laid="one"
      placed={placed}
      onMark={(next) => {
        onMark(next.piece);
        setPlaced(next);
      }}
      onOpen={(head) => onOpen(head.name)}
      onSizes={NOTHING}
      corner="People"
      marked={UNMARKED}
    />
  );
}

function open(people: number, failing = false) {
  const marks: (Piece | undefined)[] = [];
  const opened: string[] = [];
  const windows: string[] = [];
  serve({
    'GET /api/holdings/map': (_, url) => {
      windows.push(`${url.searchParams.get('row')}+${url.searchParams.get('size')}`);
      return failing
        ? { status: 503, body: problem('away', 'The database is away for a moment.', 503) }
        : { body: view(url, people) };
    },
  });
  draw(<Held onMark={(piece) => marks.push(piece)} onOpen={(name) => opened.push(name)} />);
  return { marks, opened, windows };
}

describe('the map of holdings', () => {
  beforeAll(() => {
    layOut();
    HTMLElement.prototype.scrollTo = vi.fn();
  });

  it('tells its whole size, and draws and asks only for what is in sight', async () => {
    const { windows } = open(100_000);
    const grid = await screen.findByRole('grid', { name: 'Who holds what' });
    expect(await screen.findByText('Person 0')).toBeTruthy();
    // One row of heads and one of totals, one column of names.
    expect(grid.getAttribute('aria-rowcount')).toBe('100002');
    expect(grid.getAttribute('aria-colcount')).toBe('4');
    expect(within(grid).getAllByRole('row').length).toBeLessThan(60);
    expect(windows.every((one) => Number(one.split('+')[0]) < 120)).toBe(true);
  });

  it('says of each place who holds what, and what is left unused', async () => {
    open(4);
    await screen.findByText('Person 0');
    const names = screen
      .getAllByRole('gridcell')
      .map((cell) => cell.getAttribute('aria-label') ?? '');
    const of = (person: string, role: string) =>
      names.find((name) => name.startsWith(`${person}, `) && name.includes(role));
    expect(of('Person 0', 'Seller')).toBeDefined();
    expect(of('Person 0', 'Auditor')).toContain('unused');
    expect(of('Person 0', 'Seller')).not.toContain('unused');
    // An empty place says so when one comes to it, rather than nothing.
    const grid = screen.getByRole('grid', { name: 'Who holds what' });
    fireEvent.keyDown(grid, { key: 'ArrowDown' });
    fireEvent.keyDown(grid, { key: 'ArrowRight' });
    await waitFor(() => {
      const at = document.getElementById(grid.getAttribute('aria-activedescendant') ?? '');
      expect(at?.getAttribute('aria-label')).toMatch(/^Person 1, .*Auditor.*: nobody$/);
    });
  });

  it('is gone through and marked by the keyboard, and opened by Enter', async () => {
    const { marks, opened } = open(30);
    const grid = await screen.findByRole('grid', { name: 'Who holds what' });
    await screen.findByText('Person 0');
    const press = (key: string, over: object = {}) => fireEvent.keyDown(grid, { key, ...over });
    press('ArrowDown');
    expect(marks.at(-1)).toEqual({ row: 1, column: 0, toRow: 1, toColumn: 0 });
    await waitFor(() => expect(grid.getAttribute('aria-activedescendant')).toBeTruthy());
    press('ArrowRight', { shiftKey: true });
    press('ArrowDown', { shiftKey: true });
    expect(marks.at(-1)).toEqual({ row: 1, column: 0, toRow: 2, toColumn: 1 });
    press(' ', { shiftKey: true });
    expect(marks.at(-1)).toEqual({ row: 2, column: 0, toRow: 2, toColumn: 2 });
    press(' ', { ctrlKey: true });
    expect(marks.at(-1)).toEqual({ row: 0, column: 2, toRow: 29, toColumn: 2 });
    press('Escape');
    expect(marks.at(-1)).toBeUndefined();
    press('ArrowDown');
    press('Enter');
    expect(opened).toEqual(['Person 1']);
  });

  it('goes no further than its edges', async () => {
    const { marks } = open(3);
    const grid = await screen.findByRole('grid', { name: 'Who holds what' });
    await screen.findByText('Person 2');
    for (let i = 0; i < 6; i++) {
      fireEvent.keyDown(grid, { key: 'ArrowDown' });
      fireEvent.keyDown(grid, { key: 'ArrowRight' });
    }
    expect(marks.at(-1)).toEqual({ row: 2, column: 2, toRow: 2, toColumn: 2 });
  });

  it('says when there is nothing, and when it cannot be had', async () => {
    open(0);
    expect(await screen.findByText('Nothing matches')).toBeTruthy();
    cleanup();
    open(3, true);
    expect(await screen.findByText('The database is away for a moment.')).toBeTruthy();
    expect(screen.getByRole('button', { name: /again/i })).toBeTruthy();
  });
});
