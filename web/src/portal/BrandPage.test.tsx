import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { DONE, openDesk, sent } from '../testing/samples';
import { BrandPage } from './BrandPage';

const BRAND: Schemas['BrandForm'] = {
  name: '',
  mark: '',
  band: '#17504a',
  welcome: '',
  door: '',
  help: '',
  form: 'tiles',
  tight: false,
};

function open(answers = {}) {
  return openDesk(
    '/desk/portal/brand',
    { '/desk/portal/brand': <BrandPage /> },
    {
      'GET /api/brand': () => ({
        body: { brand: BRAND, named: 'Tern Sound Ferries', contrast: 8.9 },
      }),
      'PUT /api/brand': () => ({ body: DONE }),
      ...answers,
    },
    { powers: ['portal.curate', 'settings.edit'] },
  );
}

describe('name, mark and colours', () => {
  it('says while a colour is typed whether white can be read on it', async () => {
    open();
    const band = await screen.findByLabelText('Band colour');
    expect(screen.getByText(/^White on it has a contrast of 9\.\d$/)).toBeTruthy();
    await userEvent.clear(band);
    await userEvent.type(band, '#e6c200');
    expect(screen.getByText(/^White on it has a contrast of 1\.\d; 4\.5 is needed$/)).toBeTruthy();
    await userEvent.clear(band);
    await userEvent.type(band, 'teal');
    expect(screen.getByText('A colour is # and six digits from 0 to 9 and a to f.')).toBeTruthy();
  });

  it('shows what it will look like before anybody has it', async () => {
    open();
    await userEvent.type(await screen.findByLabelText(/^Name \(blank/), 'Tern Sound');
    await userEvent.type(screen.getByLabelText('Whom to ask, in your words'), 'Emre, at the quay');
    const look = screen.getByRole('complementary', { name: 'What it looks like' });
    // In light, in dark, and at the door.
    expect(within(look).getAllByText('Tern Sound')).toHaveLength(3);
    expect(within(look).getByText('Help: Emre, at the quay')).toBeTruthy();
  });

  it('is saved against how it stood, without blanks at the ends, once', async () => {
    const asked = open();
    const save = await screen.findByRole<HTMLButtonElement>('button', { name: 'Save' });
    // Nothing is changed yet.
    expect(save.disabled).toBe(true);
    await userEvent.type(
      screen.getByLabelText('Text on the sign-in page (optional)'),
      ' Good morning ',
    );
    await userEvent.click(screen.getByLabelText('as a list'));
    await userEvent.click(screen.getByLabelText('compact'));
    await userEvent.click(save);
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    expect(sent(asked)[0]?.body).toEqual({
      base: BRAND,
      wanted: { ...BRAND, welcome: 'Good morning', form: 'lines', tight: true },
    });
  });

  it('keeps what was typed where a colour is refused', async () => {
    open({
      'PUT /api/brand': () => ({
        status: 422,
        body: problem('contrast', 'Take a darker one.', 422, 'band'),
      }),
    });
    const band = await screen.findByLabelText<HTMLInputElement>('Band colour');
    await userEvent.clear(band);
    await userEvent.type(band, '#e6c200');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('Take a darker one.')).toBeTruthy();
    expect(band.value).toBe('#e6c200');
  });
});
