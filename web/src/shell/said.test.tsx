import { act, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { Said, say } from './said';
import { noteAct, useSettled } from './settled';

test('says what was done, and the same again', () => {
  render(<Said />);
  act(() => say('Done: Approve.'));
  const told = screen.getByRole('status');
  expect(told.textContent).toBe('Done: Approve.');
  act(() => say('Done: Approve.'));
  expect(told.textContent).not.toBe('Done: Approve.');
});

function Dangerous() {
  return (
    <button type="button" disabled={!useSettled()}>
      Retire it
    </button>
  );
}

test('nothing dangerous can be pressed within a second of an act', () => {
  vi.useFakeTimers();
  render(<Dangerous />);
  const button = screen.getByRole<HTMLButtonElement>('button');
  expect(button.disabled).toBe(false);
  act(() => noteAct());
  expect(button.disabled).toBe(true);
  act(() => vi.advanceTimersByTime(1001));
  expect(button.disabled).toBe(false);
});
