import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { keepingMine, takingTheirs, useStale } from './stale';

type Tile = { name: string; line: string; needs: string[] };

const SEEN: Tile = { name: 'Till', line: 'Sell', needs: ['a'] };

describe('what two have changed', () => {
  const theirs = { name: 'Farebox', line: 'Sell', needs: ['a', 'b'] };
  const mine = { name: 'Tills', line: 'Sell fares', needs: ['a'] };

  it('keeps mine where I have typed, and theirs where I have not', () => {
    expect(keepingMine(SEEN, theirs, mine)).toEqual({
      name: 'Tills',
      line: 'Sell fares',
      needs: ['a', 'b'],
    });
  });

  it('takes theirs where they have changed it, and mine elsewhere', () => {
    expect(takingTheirs(SEEN, theirs, mine)).toEqual({
      name: 'Farebox',
      line: 'Sell fares',
      needs: ['a', 'b'],
    });
  });
});

function TileForm({ now }: { now: Tile }) {
  const [wanted, setWanted] = useState(now);
  const stale = useStale({
    now,
    wanted,
    onChange: setWanted,
    labels: { name: 'Name', line: 'Line', needs: 'Needs' },
  });
  return (
    <>
      {stale.note}
      <input
        aria-label="Name"
        value={wanted.name}
        onChange={(event) => setWanted({ ...wanted, name: event.target.value })}
      />
      <button type="button" disabled={stale.blocked}>
        Save over {stale.base.name}
      </button>
    </>
  );
}

describe('a form whose thing changes while it is open', () => {
  it('shows theirs beside yours, loses nothing typed, and waits for an answer', async () => {
    const { rerender } = render(<TileForm now={SEEN} />);
    await userEvent.type(screen.getByLabelText('Name'), 's');
    expect(screen.queryByRole('alert')).toBeNull();
    rerender(<TileForm now={{ ...SEEN, name: 'Farebox', line: 'Fares' }} />);
    const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save over Till' });
    expect(save.disabled).toBe(true);
    expect(screen.getByRole('row', { name: 'Name Farebox Tills' })).toBeTruthy();
    expect(screen.getByRole('row', { name: 'Line Fares not changed by you' })).toBeTruthy();
    expect(screen.queryByRole('row', { name: /^Needs/ })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Keep what I typed' }));
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Tills');
    expect(
      screen.getByRole<HTMLButtonElement>('button', { name: 'Save over Farebox' }).disabled,
    ).toBe(false);
    rerender(<TileForm now={{ ...SEEN, name: 'Fare box' }} />);
    await userEvent.click(screen.getByRole('button', { name: 'Take theirs' }));
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Fare box');
  });
});
