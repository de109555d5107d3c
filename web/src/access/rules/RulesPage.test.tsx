import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { foreseen } from '../../testing/page';
import { DONE, entitlement, ODA, openDesk, sent } from '../../testing/samples';
import { RulePage, RulesPage } from './RulesPage';

const APPROVE = entitlement('Refund Bench · Approver', { id: 'e1' });
const RECONCILE = entitlement('Coin House · Reconciler', { id: 'e2' });

function rule(over: Partial<Schemas['RuleLine']> = {}): Schemas['RuleLine'] {
  return {
    id: 'x1',
    name: 'Who refunds does not reconcile',
    why: 'One person could pay themself and hide it.',
    one: [APPROVE],
    other: [RECONCILE],
    from: '2026-01-01T00:00:00Z',
    breaches: 1,
    accepted: 0,
    ...over,
  };
}

const BREACH: Schemas['Breach'] = {
  person: ODA,
  one: APPROVE,
  other: RECONCILE,
  acceptedUntil: null,
  mayAccept: true,
};

function open(
  address: string,
  {
    rules = [rule()],
    breaches = [BREACH],
    mayEdit = true,
    more = 0,
  }: {
    rules?: Schemas['RuleLine'][];
    breaches?: Schemas['Breach'][];
    mayEdit?: boolean;
    more?: number;
  } = {},
) {
  const act = (_: unknown, __: URL, headers: Headers) => ({
    body:
      headers.get('Foresee') === null ? DONE : { ...DONE, foreseen: foreseen({ digest: 'seen' }) },
  });
  return openDesk(
    address,
    { '/desk/rules': <RulesPage />, '/desk/rules/:id': <RulePage /> },
    {
      'GET /api/rules': () => ({ body: { rules, mayEdit, position: 7 } }),
      'GET /api/rules/x1': () => ({
        body: { rule: rules[0], breaches, more, mayEdit, position: 7 },
      }),
      'POST /api/rules/preview': () => ({ body: breaches }),
      'GET /api/find': (_: unknown, url: URL) => ({
        body: {
          people: [],
          peopleTotal: 0,
          groups: [],
          groupsTotal: 0,
          apps: [],
          entitlements: [APPROVE, RECONCILE].filter((one) =>
            one.title.includes(url.searchParams.get('text') ?? ''),
          ),
        },
      }),
      'POST /api/rules': act,
      'PUT /api/rules/x1': act,
      'DELETE /api/rules/x1': act,
    },
    { powers: ['apps.read', 'rules.edit'] },
  );
}

describe('separation rules', () => {
  it('are told with both sides and how many break them', async () => {
    open('/desk/rules', {
      rules: [
        rule(),
        rule({ id: 'x2', name: 'Kept by all', breaches: 0, accepted: 2 }),
        rule({ id: 'x3', name: 'To come', from: '2099-01-01T00:00:00Z', breaches: 0 }),
      ],
    });
    const row = async (name: string) => (await screen.findByRole('link', { name })).closest('tr');
    expect((await row('Who refunds does not reconcile'))?.textContent).toMatch(
      /Refund Bench · Approver.*Coin House · Reconciler.*1 conflict open/,
    );
    expect((await row('Kept by all'))?.textContent).toMatch(/nobody breaks it.*2 accepted/);
    expect((await row('To come'))?.textContent).toMatch(/from .*2099/);
  });

  it('are made only once both sides are named, and it was seen who holds both', async () => {
    const asked = open('/desk/rules', { rules: [] });
    expect(await screen.findByText('No separation rules yet')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'New rule' }));
    const dialog = await screen.findByRole('dialog');
    const make = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Create rule' });
    expect(within(dialog).getByText('Name both sides to see who holds both today.')).toBeTruthy();
    expect(make.disabled).toBe(true);
    await userEvent.type(within(dialog).getByLabelText('Rule'), 'Apart');
    const side = async (label: string, text: string) => {
      await userEvent.type(within(dialog).getByRole('combobox', { name: label }), text);
      await userEvent.click(await within(dialog).findByRole('option', { name: new RegExp(text) }));
    };
    await side('Anyone who holds any of these', 'Refund');
    expect(make.disabled).toBe(true);
    await side('must hold none of these', 'Coin');
    expect(await within(dialog).findByText('1 pair is held by one person today.')).toBeTruthy();
    // There is no rule yet that could be excepted.
    expect(within(dialog).queryByRole('button', { name: 'Accept it until a day' })).toBeNull();
    await userEvent.click(make);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent(asked).at(-1)).toEqual({
      what: 'POST /api/rules',
      body: {
        base: null,
        wanted: { name: 'Apart', why: '', sides: { one: ['e1'], other: ['e2'] } },
        from: null,
        reason: '',
      },
    });
  });

  it('are changed against how they stood', async () => {
    const asked = open('/desk/rules/x1');
    await userEvent.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = await screen.findByRole('dialog');
    const name = within(dialog).getByLabelText<HTMLInputElement>('Rule');
    await userEvent.clear(name);
    await userEvent.type(name, 'Pay or count');
    const change = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Change rule' });
    await waitFor(() => expect(change.disabled).toBe(false));
    await userEvent.click(change);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const sides = { one: ['e1'], other: ['e2'] };
    expect(sent(asked).at(-1)?.body).toEqual({
      base: { name: rule().name, why: rule().why, sides },
      wanted: { name: 'Pay or count', why: rule().why, sides },
      from: null,
      reason: '',
    });
  });

  it('lead from each side of a pair to where it can be ended, and are ended with a reason', async () => {
    const asked = open('/desk/rules/x1', { more: 12 });
    const table = await screen.findByRole('table', { name: 'Who holds both' });
    expect(
      within(table)
        .getAllByRole('link')
        .map((one) => one.getAttribute('href')),
    ).toEqual([
      '/desk/people/p-oda/holdings',
      '/desk/people/p-oda/holdings?holding=e1',
      '/desk/people/p-oda/holdings?holding=e2',
    ]);
    expect(screen.getByText(/^12 more rows are not shown/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'End rule' }));
    const dialog = await screen.findByRole('dialog');
    await userEvent.type(within(dialog).getByLabelText(/^Reason/), 'one desk now');
    const end = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'End rule' });
    await waitFor(() => expect(end.disabled).toBe(false));
    await userEvent.click(end);
    expect(await screen.findByRole('table', { name: 'Separation rules' })).toBeTruthy();
    expect(asked.some((one) => one.what.startsWith('DELETE'))).toBe(true);
  });

  it('leave who may only look with nothing to press', async () => {
    open('/desk/rules/x1', { mayEdit: false, breaches: [{ ...BREACH, mayAccept: false }] });
    await screen.findByRole('heading', { name: rule().name });
    expect(screen.queryAllByRole('button')).toEqual([]);
    expect(screen.getByText('not accepted')).toBeTruthy();
    cleanup();
    open('/desk/rules/x1', { breaches: [] });
    expect(await screen.findByText('Nobody holds both.')).toBeTruthy();
  });

  it('tell until when somebody may hold both', async () => {
    open('/desk/rules/x1', { breaches: [{ ...BREACH, acceptedUntil: '2027-03-01T23:00:00Z' }] });
    expect(await screen.findByText(/accepted until the end of 1 Mar 2027/)).toBeTruthy();
  });
});
