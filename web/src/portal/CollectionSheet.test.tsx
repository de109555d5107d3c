import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { draw, problem, serve } from '../testing/page';
import { CollectionSheet } from './CollectionSheet';

function tile(id: string): Schemas['CuratedTile'] {
  return {
    id,
    name: `Tile ${id}`,
    line: '',
    picture: 'key',
    hue: 'tide',
    app: { id: 'a', name: 'App', picture: 'key', hue: 'tide', state: 'open' },
    needs: [],
    holders: 1,
    openings: 0,
    collections: 1,
  };
}

const COLLECTION: Schemas['CollectionView'] = {
  id: 'c1',
  name: 'Counter',
  line: '',
  everyone: false,
  audience: [{ kind: 'group', id: 'g1', name: 'Ticket office', people: 5 }],
  people: 5,
  none: 1,
  some: 3,
  all: 1,
  owners: [],
  places: [
    { tile: 'a', offered: false },
    { tile: 'b', offered: true },
  ],
  mayArrange: true,
  mayCurate: true,
};

function open(collection: Schemas['CollectionView'], answer: { status?: number; body?: unknown }) {
  const asked = serve({ 'PUT /api/collections/c1/tiles': () => answer });
  draw(
    <CollectionSheet
      collection={collection}
      tiles={[tile('a'), tile('b'), tile('c')]}
      onTile={() => undefined}
    />,
  );
  return asked;
}

const DONE = { body: { position: 8, result: 'c1' } };

describe('a collection on the desk', () => {
  afterEach(cleanup);

  it('says who sees it and how much of it they can open', () => {
    open(COLLECTION, DONE);
    expect(screen.getByText('Ticket office')).toBeTruthy();
    expect(screen.getByText('1 can open all of it, 3 some, 1 nothing')).toBeTruthy();
    expect(screen.getByText('offered')).toBeTruthy();
  });

  it('moves, offers, adds and takes out, each from the order that was seen', async () => {
    const asked = open(COLLECTION, DONE);
    await userEvent.click(screen.getByRole('button', { name: 'Tile b' }));
    await userEvent.click(screen.getByRole('button', { name: 'Move Tile b earlier' }));
    await userEvent.click(screen.getByRole('button', { name: 'Do not offer' }));
    await userEvent.click(screen.getByRole('button', { name: 'Take out' }));
    await userEvent.selectOptions(screen.getByLabelText('Add a tile to Counter'), 'c');
    await waitFor(() => expect(asked).toHaveLength(4));
    const base = ['a', 'b'];
    const [a, b] = COLLECTION.places;
    expect(asked.map((one) => one.body)).toEqual([
      { base, tiles: [b, a] },
      { base, tiles: [a, { tile: 'b', offered: false }] },
      { base, tiles: [a] },
      { base, tiles: [a, b, { tile: 'c', offered: false }] },
    ]);
  });

  it('tells when someone else has arranged it', async () => {
    open(COLLECTION, {
      status: 409,
      body: problem('changed-meanwhile', 'Someone has arranged this collection meanwhile.', 409),
    });
    await userEvent.click(screen.getByRole('button', { name: 'Tile a' }));
    await userEvent.click(screen.getByRole('button', { name: 'Move Tile a later' }));
    expect(await screen.findByRole('alert')).toBeTruthy();
    expect(screen.getByText('Someone has arranged this collection meanwhile.')).toBeTruthy();
  });

  it('offers nothing to whom may not', async () => {
    open({ ...COLLECTION, mayArrange: false, mayCurate: false }, DONE);
    await userEvent.click(screen.getByRole('button', { name: 'Tile a' }));
    expect(screen.queryByRole('button', { name: /^Move/ })).toBeNull();
    expect(screen.queryByLabelText('Add a tile to Counter')).toBeNull();
  });
});
