import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { draw, serve } from '../../testing/page';
import { group, line, type Shape } from '../filter/shape';
import { FilterField } from './FilterField';

function Typed({ begin = '' }: { begin?: string }) {
  const [filter, setFilter] = useState(begin);
  return (
    <>
      <FilterField value={filter} onChange={setFilter} />
      <output>{filter}</output>
    </>
  );
}

const NONE = {
  error: null,
  from: 0,
  until: 0,
  count: 0,
  more: null,
  fewer: null,
  sample: [],
  words: null,
  shape: null,
};
const someone = (name: string) => ({ id: name, displayed: name });
const ATTRIBUTES = [
  { name: 'unit', label: 'Unit', type: 'text' },
  { name: 'grade', label: 'Grade', type: 'number' },
];

function answering(shape: Shape | null = null) {
  serve({
    'GET /api/attributes': () => ({ body: ATTRIBUTES }),
    'GET /api/attributes/unit/values': () => ({ body: [{ value: 'Ticketing', people: 97 }] }),
    'GET /api/attributes/grade/values': () => ({ body: [] }),
    'POST /api/filters/try': (body) => {
      const { filter } = body as { filter: string };
      return filter.includes('unti')
        ? { body: { ...NONE, error: 'There is no attribute “unti”.', from: 0, until: 4 } }
        : {
            body: {
              ...NONE,
              count: 1214,
              more: 14,
              fewer: 3,
              sample: ['Oda Brekke', 'Mina Sato', 'Lena Aho', 'Ines Roth'].map(someone),
              words: 'everyone with a unit',
              shape,
            },
          };
    },
  });
}

describe('a filter', () => {
  it('is made in lines, with what its values come to', async () => {
    answering();
    draw(<Typed />);
    const value = await screen.findByLabelText('Value of condition 1');
    await userEvent.type(value, 'Ticketing');
    expect(await screen.findByText('1,214 people match')).toBeTruthy();
    expect(document.body.textContent).toContain('Oda Brekke, Mina Sato, Lena Aho and 1,211 more');
    await userEvent.click(screen.getByRole('button', { name: 'or another value of condition 1' }));
    await userEvent.type(screen.getByLabelText('Value 2 of condition 1'), 'Yard');
    await userEvent.click(screen.getByRole('button', { name: 'Add a condition' }));
    await userEvent.selectOptions(screen.getByLabelText('Attribute of condition 2'), 'Grade');
    await userEvent.selectOptions(
      screen.getByLabelText('Comparison of condition 2'),
      'is at least',
    );
    await userEvent.type(screen.getByLabelText('Value of condition 2'), '12');
    expect(document.querySelector('output')?.textContent).toBe(
      '(unit eq "Ticketing" or unit eq "Yard") and grade ge 12',
    );
    // A condition without its value is not passed over in silence.
    await userEvent.click(screen.getByRole('button', { name: 'Add a condition' }));
    expect(screen.getByText('Choose a value, or remove this condition.')).toBeTruthy();
    expect(document.querySelectorAll('[data-unfinished]')).toHaveLength(1);
    await userEvent.click(screen.getByRole('button', { name: 'Remove condition 3' }));
    expect(document.querySelector('[data-unfinished]')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Remove condition 1' }));
    expect(document.querySelector('output')?.textContent).toBe('grade ge 12');
  });

  it('is the same filter as text, and is shown in lines again', async () => {
    answering(group('any', [line('unit', 'eq', ['Yard']), line('grade', 'lt', ['3'])]));
    draw(<Typed begin={'unit eq "Yard" or grade lt 3'} />);
    await waitFor(() =>
      expect(
        screen.getByLabelText<HTMLSelectElement>('How many of the conditions must be true').value,
      ).toBe('any'),
    );
    expect(screen.getByLabelText<HTMLInputElement>('Value of condition 1').value).toBe('Yard');
    await userEvent.click(screen.getByRole('button', { name: 'Edit as text' }));
    expect(screen.getByLabelText<HTMLTextAreaElement>('Filter').value).toBe(
      'unit eq "Yard" or grade lt 3',
    );
    expect(screen.getByText('everyone with a unit')).toBeTruthy();
  });

  it('shows as text what is wrong and where', async () => {
    answering();
    draw(<Typed begin="unti pr" />);
    expect(await screen.findByText('There is no attribute “unti”.')).toBeTruthy();
    expect(document.querySelector('mark')?.textContent).toBe('unti');
    const field = screen.getByLabelText('Filter');
    await userEvent.clear(field);
    await userEvent.type(field, 'unit pr');
    expect(await screen.findByText('1,214 people match')).toBeTruthy();
    expect(document.body.textContent).toContain('+14 join, −3 leave');
    expect(screen.getByLabelText('Filter')).toBe(field);
    expect(screen.getByText('unit, grade')).toBeTruthy();
  });
});
