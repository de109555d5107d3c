import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';
import { draw, serve } from '../../testing/page';
import { FilterField } from './FilterField';

function Typed() {
  const [filter, setFilter] = useState('');
  return <FilterField value={filter} onChange={setFilter} />;
}

const NONE = { error: null, from: 0, until: 0, count: 0, more: null, fewer: null, sample: [] };

describe('a filter while it is typed', () => {
  afterEach(cleanup);

  it('shows what is wrong and where, then how many fit', async () => {
    serve({
      'GET /api/attributes': () => ({ body: [{ name: 'unit' }, { name: 'site' }] }),
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
                sample: [{ id: '1', displayed: 'Oda Brekke' }],
              },
            };
      },
    });
    draw(<Typed />);
    const field = screen.getByLabelText('Filter');
    await userEvent.type(field, 'unti pr');
    expect(await screen.findByText('There is no attribute “unti”.')).toBeTruthy();
    expect(document.querySelector('mark')?.textContent).toBe('unti');
    await userEvent.clear(field);
    await userEvent.type(field, 'unit pr');
    expect(await screen.findByText('1,214 people fit')).toBeTruthy();
    expect(document.body.textContent).toContain('+14 come in, −3 go out');
    expect(document.body.textContent).toContain('Oda Brekke …');
    expect(screen.getByText('unit, site')).toBeTruthy();
  });
});
