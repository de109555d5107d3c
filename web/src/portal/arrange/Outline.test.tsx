import { fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import { draw } from '../../testing/page';
import { Outline } from './Outline';

function audience(people: number, everyone = false): Schemas['AudienceView'] {
  return { everyone, firstDays: 0, people, subjects: [] };
}

function collection(
  id: string,
  name: string,
  over: Partial<Schemas['CollectionView']> = {},
): Schemas['CollectionView'] {
  return {
    id,
    name,
    line: '',
    audience: audience(12),
    owners: [],
    places: [],
    all: 0,
    some: 0,
    none: 0,
    mayArrange: true,
    mayCurate: true,
    ...over,
  };
}

function page(
  id: string,
  name: string,
  order: string[],
  over: Partial<Schemas['FrontPageView']> = {},
): Schemas['FrontPageView'] {
  return {
    id,
    name,
    everyones: false,
    only: false,
    audience: audience(5),
    waves: [],
    notice: null,
    named: order.map((one) => ({ id: one, rank: one })),
    order,
    people: 7,
    rank: id,
    ...over,
  };
}

const ALL: Schemas['CuratedView'] = {
  at: '2026-11-30T09:00:00Z',
  position: 7,
  mayArrange: true,
  units: [],
  collections: [
    collection('c1', 'Ticket office'),
    collection('c2', 'Today aboard', { audience: audience(0, true) }),
    collection('c3', 'On the bridge'),
    collection('c4', 'Money'),
  ],
  pages: [
    page('p1', 'Counter and quay', ['c2', 'c1', 'c3']),
    page('p2', 'On board', ['c3']),
    page('p0', '', [], { everyones: true, people: 1_200 }),
  ],
  tiles: [],
};

function open(curated: Schemas['CuratedView'] = ALL, of = curated.pages[0]) {
  const done: string[] = [];
  const note =
    (what: string) =>
    (...all: unknown[]) =>
      done.push([what, ...all].join(' '));
  draw(
    <Outline
      curated={curated}
      page={of}
      edits={(thing) => (thing === 'c1' ? 2 : 0)}
      busy={false}
      chosen="c2"
      onCollection={note('collection')}
      onPage={note('page')}
      onTiles={() => done.push('tiles')}
      onMakeCollection={vi.fn()}
      onMakePage={vi.fn()}
      onMoveCollection={note('move')}
      onMovePage={note('move page')}
    />,
  );
  return done;
}

const grip = (name: string) => screen.getByRole('button', { name: `Move ${name}` });
const said = () =>
  screen
    .getAllByRole('status')
    .map((one) => one.textContent)
    .join('');
const names = () =>
  screen
    .getAllByRole('button', { name: /^Move / })
    .map((one) => one.getAttribute('aria-label')?.slice(5));

describe('the outline of the portal', () => {
  it('has the collections in the order of the page, and those that it leaves out below', async () => {
    const done = open();
    expect(names()).toEqual([
      'Today aboard',
      'Ticket office',
      'On the bridge',
      'Counter and quay',
      'On board',
    ]);
    expect(screen.getByText('As on “Counter and quay”')).toBeTruthy();
    const left = screen.getByText('Not on this page').nextElementSibling as HTMLElement;
    expect(within(left).getByText('Money')).toBeTruthy();
    await userEvent.click(within(left).getByRole('button', { name: 'Add' }));
    expect(done).toEqual(['move c4 c3']);
  });

  it('says of each for whom it is, what nobody answers for, and what a draft wants of it', () => {
    open({
      ...ALL,
      collections: [
        collection('c1', 'Ticket office', {
          owners: [{ id: 'p9' } as Schemas['PersonLine']],
        }),
        collection('c2', 'Today aboard', { audience: audience(0, true) }),
      ],
    });
    const office = screen.getByRole('button', { name: /^Ticket office/ });
    expect(office.textContent).toContain('12 people');
    expect(office.textContent).toContain('2 edits');
    expect(office.textContent).not.toContain('no owner');
    const aboard = screen.getByRole('button', { name: /^Today aboard/ });
    expect(aboard.textContent).toContain('everyone');
    expect(aboard.textContent).toContain('no owner');
    expect(aboard.getAttribute('aria-pressed')).toBe('true');
  });

  it('is arranged by the keyboard, each step said', () => {
    const done = open();
    fireEvent.keyDown(grip('Today aboard'), { key: ' ' });
    expect(said()).toBe('Today aboard picked up, place 1 in the list.');
    fireEvent.keyDown(grip('Today aboard'), { key: 'ArrowDown' });
    expect(said()).toBe('Place 2 in the list.');
    expect(names().slice(0, 3)).toEqual(['Ticket office', 'Today aboard', 'On the bridge']);
    expect(document.activeElement).toBe(grip('Today aboard'));
    expect(done).toEqual([]);
    fireEvent.keyDown(grip('Today aboard'), { key: ' ' });
    expect(said()).toBe('Today aboard put down, place 2 in the list.');
    expect(done).toEqual(['move c2 c1']);
  });

  it('leaves all as it was by Escape, by Tab, and where it was put back', () => {
    const done = open();
    for (const end of ['Escape', 'Tab']) {
      fireEvent.keyDown(grip('Ticket office'), { key: ' ' });
      fireEvent.keyDown(grip('Ticket office'), { key: 'ArrowUp' });
      expect(names()[0]).toBe('Ticket office');
      fireEvent.keyDown(grip('Ticket office'), { key: end });
      expect(said()).toBe('Ticket office left where it was.');
      expect(names()[0]).toBe('Today aboard');
    }
    fireEvent.keyDown(grip('Ticket office'), { key: ' ' });
    fireEvent.keyDown(grip('Ticket office'), { key: 'ArrowUp' });
    fireEvent.keyDown(grip('Ticket office'), { key: 'ArrowDown' });
    fireEvent.keyDown(grip('Ticket office'), { key: 'Enter' });
    expect(done).toEqual([]);
  });

  it('puts a front page before another, and everyone’s stays the last', () => {
    const done = open();
    expect(screen.queryByRole('button', { name: 'Move Everyone else' })).toBeNull();
    expect(screen.getByRole('button', { name: /Everyone else/ }).textContent).toContain(
      '1,200 people see it',
    );
    fireEvent.keyDown(grip('On board'), { key: ' ' });
    fireEvent.keyDown(grip('On board'), { key: 'ArrowUp' });
    fireEvent.keyDown(grip('On board'), { key: ' ' });
    expect(done).toEqual(['move page p2 ']);
  });

  it('is only looked at by whoever may not arrange it', () => {
    open({ ...ALL, mayArrange: false });
    expect(screen.queryAllByRole('button', { name: /^Move / })).toEqual([]);
    expect(screen.queryByRole('button', { name: 'New collection' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Add' })).toBeNull();
    expect(screen.getByRole('button', { name: /^Ticket office/ })).toBeTruthy();
  });

  it('leads to what people hold and no collection has', async () => {
    const tile = (id: string, collections: number, holders: number) =>
      ({ id, collections, holders }) as Schemas['CuratedTile'];
    const done = open({ ...ALL, tiles: [tile('t1', 0, 3), tile('t2', 0, 0), tile('t3', 1, 3)] });
    expect(screen.getByText(/One tile that people hold is in no collection/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'All 3 tiles' }));
    expect(done).toEqual(['tiles']);
  });
});
