import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { openDesk, sent } from '../testing/samples';
import { Deputies } from './Deputies';

const MINA = { id: 'p8', name: 'Mina Sand', unit: 'Ticketing' };
const LENA = { id: 'p7', name: 'Lena Aho', unit: 'Ticketing' };

function view(over: Partial<Schemas['DeputiesView']> = {}): Schemas['DeputiesView'] {
  return {
    deputies: [],
    standsInFor: [],
    candidates: [MINA, LENA],
    team: true,
    apps: true,
    ...over,
  };
}

function line(who: Schemas['Colleague'], over: Partial<Schemas['DeputyLine']> = {}) {
  return {
    who,
    duties: ['TEAM', 'APPS'],
    from: '2026-11-20',
    until: '2026-12-04',
    begun: true,
    ...over,
  } as Schemas['DeputyLine'];
}

/** Opens it for the reader, p1, or for somebody else. */
function open(data: Schemas['DeputiesView'], of = 'p1', answers = {}) {
  return openDesk(
    '/x',
    {
      '/x': (
        <Deputies
          person={of}
          name="Lena Aho"
          pick={
            of === 'p1'
              ? undefined
              : (label, chosen, onChange) => (
                  <button type="button" onClick={() => onChange([{ id: 'p8', name: 'Mina Sand' }])}>
                    {label}: {chosen.map((one) => one.name).join()}
                  </button>
                )
          }
        />
      ),
    },
    {
      [`GET /api/people/${of}/deputies`]: () => ({ body: data }),
      [`POST /api/people/${of}/deputies`]: () => ({ body: {} }),
      ...answers,
    },
  );
}

describe('who decides while somebody is away', () => {
  it('is named among those whom one knows, for days and duties', async () => {
    const asked = open(view());
    const user = userEvent.setup();
    expect(await screen.findByText('You have no deputy.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Name a deputy' }));
    const dialog = within(screen.getByRole('dialog'));
    const act = dialog.getByRole<HTMLButtonElement>('button', { name: 'Name a deputy' });
    expect(act.disabled).toBe(true);
    await user.selectOptions(dialog.getByLabelText('Deputy'), 'Mina Sand · Ticketing');
    const until = dialog.getByLabelText('Last day');
    await user.clear(until);
    await user.type(until, '31/12/2099');
    await user.click(dialog.getByLabelText('requests for apps you own'));
    await user.click(act);
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        {
          what: 'POST /api/people/p1/deputies',
          body: { deputy: 'p8', from: null, until: '2099-12-31', duties: ['TEAM'] },
        },
      ]),
    );
  });

  it('needs something to decide', async () => {
    open(view());
    const user = userEvent.setup();
    await user.click(await screen.findByRole('button', { name: 'Name a deputy' }));
    const dialog = within(screen.getByRole('dialog'));
    await user.selectOptions(dialog.getByLabelText('Deputy'), 'Lena Aho · Ticketing');
    await user.click(dialog.getByLabelText('requests from your team'));
    await user.click(dialog.getByLabelText('requests for apps you own'));
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Name a deputy' }).disabled).toBe(
      true,
    );
  });

  it('tells at the field what is wrong', async () => {
    open(view(), 'p1', {
      'POST /api/people/p1/deputies': () => ({
        status: 422,
        body: problem('deputy.who', 'This person cannot be the deputy.', 422, 'deputy'),
      }),
    });
    const user = userEvent.setup();
    await user.click(await screen.findByRole('button', { name: 'Name a deputy' }));
    const dialog = within(screen.getByRole('dialog'));
    await user.selectOptions(dialog.getByLabelText('Deputy'), 'Lena Aho · Ticketing');
    await user.click(dialog.getByRole('button', { name: 'Name a deputy' }));
    expect(await dialog.findByText('This person cannot be the deputy.')).toBeTruthy();
  });

  it('shows until when, what they decide where it is not all, and ends it', async () => {
    const asked = open(
      view({
        deputies: [
          line(MINA, { duties: ['TEAM'] }),
          line(LENA, { begun: false, from: '2026-12-20', until: '2026-12-27' }),
        ],
      }),
      'p1',
      { 'DELETE /api/people/p1/deputies/p8': () => ({ body: {} }) },
    );
    const items = await screen.findAllByRole('listitem');
    expect(items[0]?.textContent).toContain('until 4 Dec 2026');
    expect(items[0]?.textContent).toContain('requests from your team');
    expect(items[1]?.textContent).toContain('20 Dec 2026 to 27 Dec 2026');
    expect(items[1]?.textContent).not.toContain('requests');
    await userEvent.setup().click(screen.getByRole('button', { name: 'End Mina Sand as deputy' }));
    expect(asked.some((one) => one.what === 'DELETE /api/people/p1/deputies/p8')).toBe(true);
  });

  it('tells a deputy for whom, and lets them stop', async () => {
    const asked = open(
      view({ team: false, apps: false, candidates: [], standsInFor: [line(LENA)] }),
      'p1',
      { 'DELETE /api/people/p7/deputies/p1': () => ({ body: {} }) },
    );
    expect(await screen.findByRole('heading', { name: 'You decide for' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Name a deputy' })).toBeNull();
    await userEvent
      .setup()
      .click(screen.getByRole('button', { name: 'End deciding for Lena Aho' }));
    expect(asked.some((one) => one.what === 'DELETE /api/people/p7/deputies/p1')).toBe(true);
  });

  it.each([
    ['decides nothing', { body: view({ team: false, apps: false }) }],
    ['may not see it', { status: 404, body: problem('absent', 'There is no such person.', 404) }],
  ])('says nothing to whoever %s', async (_, told) => {
    const asked = open(view(), 'p7', { 'GET /api/people/p7/deputies': () => told });
    await waitFor(() =>
      expect(asked.map((one) => one.what)).toContain('GET /api/people/p7/deputies'),
    );
    // What was answered is drawn.
    await act(() => new Promise((next) => setTimeout(next)));
    expect(screen.queryByRole('heading')).toBeNull();
  });

  it('is found among everybody by an administrator', async () => {
    const asked = open(view({ candidates: [] }), 'p7');
    const user = userEvent.setup();
    expect(await screen.findByText('Lena Aho has no deputy.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Name a deputy' }));
    const dialog = within(screen.getByRole('dialog'));
    expect(dialog.getByText('Name a deputy for Lena Aho')).toBeTruthy();
    await user.click(dialog.getByRole('button', { name: /Deputy/ }));
    await user.click(dialog.getByRole('button', { name: 'Name a deputy' }));
    await waitFor(() => expect(sent(asked)[0]?.body).toMatchObject({ deputy: 'p8' }));
  });
});
