import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeEach, expect, test } from 'vitest';
import { Problem } from '../api/client';
import { problem } from '../testing/page';
import { setLocale } from '../words/locale';
import { ProblemNote } from './states';
import { TextField } from './TextField';
import { UNREADABLE } from './times';
import { keepUnfinished } from './unfinished';

beforeEach(() => setLocale('en-GB'));

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

test('a half typed day is neither a day nor none, is told, and is not sent', async () => {
  keepUnfinished(document);
  const sent: string[] = [];
  render(<Dated onSent={(day) => sent.push(day)} />);
  const field = screen.getByLabelText('Until') as HTMLInputElement;
  const form = screen.getByRole('form', { name: 'dated' });
  await userEvent.type(field, '31 Mar');
  expect(screen.getByText(UNREADABLE)).toBeTruthy();
  expect(screen.queryByRole('alert')).toBeNull();
  fireEvent.submit(form);
  expect(sent).toEqual([]);
  expect(document.activeElement).toBe(field);
  expect(screen.getByRole('alert').textContent).toMatch(/not a complete date/);
  expect(field.getAttribute('aria-invalid')).toBe('true');

  await userEvent.type(field, ' 2027');
  expect(screen.queryByRole('alert')).toBeNull();
  fireEvent.submit(form);
  expect(sent).toEqual(['2027-03-31']);
});

test('a day that is chosen instead takes what was said of the half typed one away', async () => {
  render(<Dated onSent={() => {}} />);
  const field = screen.getByLabelText('Until') as HTMLInputElement;
  await userEvent.type(field, '3');
  await userEvent.tab();
  await userEvent.tab();
  expect(screen.getByRole('alert').textContent).toMatch(/not a complete date/);
  await userEvent.click(screen.getByRole('button', { name: '90 days' }));
  expect(screen.queryByRole('alert')).toBeNull();
  expect(field.getAttribute('data-unfinished')).toBeNull();
  expect(field.value).toBe('28 Feb 2027');
});

test('a day is chosen from a month by the keyboard, and told in full', async () => {
  render(<Dated onSent={() => {}} />);
  const field = screen.getByLabelText('Until') as HTMLInputElement;
  await userEvent.type(field, '2027-03-30');
  await userEvent.click(screen.getByRole('button', { name: 'Calendar: Until' }));
  const chosen = await screen.findByRole('button', { name: 'Tuesday, 30 March 2027' });
  expect(document.activeElement).toBe(chosen);
  await userEvent.keyboard('{ArrowRight}{ArrowRight}{Enter}');
  expect(screen.getByText('2027-04-01')).toBeTruthy();
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(document.activeElement).toBe(field);
  await userEvent.tab();
  expect(field.value).toBe('1 Apr 2027');

  await userEvent.click(screen.getByRole('button', { name: 'Calendar: Until' }));
  await screen.findByRole('dialog');
  await userEvent.keyboard('{Escape}');
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(field.value).toBe('1 Apr 2027');
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
