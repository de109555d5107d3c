import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { problem } from '../../testing/page';
import { DONE, openDesk, sent } from '../../testing/samples';
import { AttributesPage } from './AttributesPage';

const VESSEL: Schemas['AttributeLine'] = {
  name: 'vessel',
  label: 'Vessel',
  type: 'text',
  many: false,
  personal: false,
  people: 310,
  source: 's1',
  sourceName: 'Staff register',
};

function open(powers: string[], answers = {}, address = '/desk/attributes') {
  return openDesk(
    address,
    { '/desk/attributes': <AttributesPage /> },
    {
      'GET /api/attributes': () => ({
        body: [VESSEL, { ...VESSEL, name: 'badge', label: 'Badge', people: 0, personal: true }],
      }),
      'GET /api/sources': () => ({
        body: [
          {
            id: 's1',
            name: 'Staff register',
            people: 1214,
            groups: 0,
            last: null,
            position: null,
          },
        ],
      }),
      'PUT /api/attributes/badge': () => ({ body: DONE }),
      'PUT /api/attributes/berth': () => ({ body: DONE }),
      ...answers,
    },
    { powers },
  );
}

describe('the attributes', () => {
  it('are told with their source, and changed only by whoever may', async () => {
    open(['people.read']);
    const row = (await screen.findByRole('rowheader', { name: 'Vessel' })).closest('tr');
    expect([...(row?.cells ?? [])].map((cell) => cell.textContent)).toEqual([
      'Vessel',
      'vessel',
      'text',
      'one',
      'no',
      'Staff register',
      '310',
    ]);
    expect(screen.queryByRole('button', { name: 'Add an attribute' })).toBeNull();
    cleanup();
    open(['people.read', 'settings.edit'], {}, '/desk/attributes?asOf=2026-06-01');
    await screen.findByRole('rowheader', { name: 'Vessel' });
    expect(screen.queryByRole('button', { name: 'Add an attribute' })).toBeNull();
  });

  it('keeps its type once people have values', async () => {
    open(['people.read', 'settings.edit']);
    await userEvent.click(await screen.findByRole('button', { name: 'Change Vessel' }));
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByLabelText<HTMLSelectElement>('Type').disabled).toBe(true);
    expect(within(dialog).getByLabelText<HTMLInputElement>('Name in filters').disabled).toBe(true);
    await userEvent.click(within(dialog).getByRole('button', { name: 'Cancel' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Change Badge' }));
    const other = await screen.findByRole('dialog', { name: 'Badge' });
    expect(within(other).getByLabelText<HTMLSelectElement>('Type').disabled).toBe(false);
  });

  it('is changed against how it stood', async () => {
    const asked = open(['people.read', 'settings.edit']);
    await userEvent.click(await screen.findByRole('button', { name: 'Change Badge' }));
    const dialog = await screen.findByRole('dialog');
    await userEvent.selectOptions(within(dialog).getByLabelText('Type'), 'number');
    await userEvent.selectOptions(within(dialog).getByLabelText('Source'), '');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const badge = { label: 'Badge', type: 'text', many: false, personal: true, source: 's1' };
    expect(sent(asked)).toEqual([
      {
        what: 'PUT /api/attributes/badge',
        body: { base: badge, wanted: { ...badge, type: 'number', source: null } },
      },
    ]);
  });

  it('is added, after what is wrong was put right', async () => {
    const asked = open(['people.read', 'settings.edit'], {
      'PUT /api/attributes/-': () => ({
        status: 422,
        body: problem('name-missing', 'It needs a name for filters.', 422, 'name'),
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Add an attribute' }));
    const dialog = await screen.findByRole('dialog');
    await userEvent.type(within(dialog).getByLabelText('Label'), 'Berth');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    expect(await within(dialog).findByText('It needs a name for filters.')).toBeTruthy();
    await userEvent.type(within(dialog).getByLabelText('Name in filters'), 'berth');
    await userEvent.click(within(dialog).getByLabelText('Values: several'));
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked).at(-1)).toEqual({
      what: 'PUT /api/attributes/berth',
      body: {
        base: null,
        wanted: { label: 'Berth', type: 'text', many: true, personal: false, source: null },
      },
    });
  });
});
