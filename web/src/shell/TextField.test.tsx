import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, expect, test } from 'vitest';
import { Problem } from '../api/client';
import { problem } from '../testing/page';
import { ProblemNote } from './states';
import { TextField } from './TextField';
import { UNREADABLE } from './times';
import { keepUnfinished } from './unfinished';

afterEach(cleanup);

function Dated({ onSent }: { onSent: (day: string) => void }) {
  const [day, setDay] = useState('');
  return (
    <form
      aria-label="dated"
      onSubmit={(event) => {
        event.preventDefault();
        onSent(day);
      }}
    >
      <TextField id="until" type="date" label="Until" value={day} onChange={setDay} />
      <button type="button" onClick={() => setDay('2027-02-28')}>
        90 days
      </button>
      <output>{day}</output>
    </form>
  );
}

/** What the browser says of a field whose date is half typed. */
function halfTyped(field: HTMLElement, so: boolean) {
  Object.defineProperty(field, 'validity', {
    configurable: true,
    value: { badInput: so, rangeUnderflow: false, rangeOverflow: false },
  });
}

test('a half typed day is neither a day nor none, is told, and is not sent', () => {
  keepUnfinished(document);
  const sent: string[] = [];
  render(<Dated onSent={(day) => sent.push(day)} />);
  const field = screen.getByLabelText('Until');
  const form = screen.getByRole('form', { name: 'dated' });
  halfTyped(field, true);
  fireEvent.keyUp(field);
  expect(screen.getByText(UNREADABLE)).toBeTruthy();
  fireEvent.submit(form);
  expect(sent).toEqual([]);
  expect(document.activeElement).toBe(field);
  expect(screen.getByText(/This date is not complete/)).toBeTruthy();
  expect(field.getAttribute('aria-invalid')).toBe('true');

  halfTyped(field, false);
  fireEvent.change(field, { target: { value: '2027-03-31' } });
  expect(screen.queryByText(/This date is not complete/)).toBeNull();
  fireEvent.submit(form);
  expect(sent).toEqual(['2027-03-31']);
});

test('a day that is chosen instead takes what was said of the half typed one away', async () => {
  render(<Dated onSent={() => {}} />);
  const field = screen.getByLabelText('Until');
  halfTyped(field, true);
  fireEvent.keyUp(field);
  fireEvent.blur(field);
  expect(screen.getByText(/This date is not complete/)).toBeTruthy();
  halfTyped(field, false);
  await userEvent.click(screen.getByRole('button', { name: '90 days' }));
  expect(screen.queryByText(/This date is not complete/)).toBeNull();
  expect(field.getAttribute('data-unfinished')).toBeNull();
});

function Two({ error }: { error: Problem | null }) {
  const [name, setName] = useState('x');
  const wrong = (field: string) => error?.field(field);
  return (
    <form>
      <TextField id="name" label="Name" value={name} onChange={setName} wrong={wrong('name')} />
      <TextField id="line" label="Line" value="" onChange={() => {}} wrong={wrong('line')} />
      <ProblemNote error={error} fields={['name', 'line']} />
    </form>
  );
}

test('a refused form leads to its fields, and a corrected one is wrong no more', async () => {
  const view = problem('x', 'Too short.', 422, 'name');
  const error = new Problem({
    ...view,
    problems: [...view.problems, { code: 'y', field: 'line', sentence: 'Say what it does.' }],
  });
  const { rerender } = render(<Two error={null} />);
  rerender(<Two error={error} />);
  const name = screen.getByLabelText('Name');
  expect(document.activeElement).toBe(name);
  expect(name.getAttribute('aria-describedby')).toBe('name-wrong');
  expect(screen.getByText(/2 fields need correcting/)).toBeTruthy();
  await userEvent.click(screen.getByRole('link', { name: 'Line' }));
  expect(document.activeElement).toBe(screen.getByLabelText('Line'));
  await userEvent.type(name, 'y');
  expect(screen.queryByText('Too short.')).toBeNull();
  expect(name.getAttribute('aria-invalid')).toBe('false');
});
