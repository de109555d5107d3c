import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { foreseen } from '../../testing/page';
import { DONE, entitlement, ODA, openDesk, sent } from '../../testing/samples';
import { fresh as freshQuestion } from '../forms/form';
import { moved } from '../Scopes';
import { RoutePage, RoutesPage } from './RoutesPage';
import { fresh, type Step, told, whole } from './steps';

const APPROVE = entitlement('Refund Bench · Approver', { id: 'e1' });
const SHIPPED: Schemas['StepShape'][] = [
  {
    seat: 'MANAGER',
    of: null,
    name: null,
    days: 14,
    onlyIf: '',
    condition: { shape: null, words: '' },
  },
  {
    seat: 'OWNER',
    of: null,
    name: null,
    days: 14,
    onlyIf: '',
    condition: { shape: null, words: '' },
  },
];

function line(over: Partial<Schemas['RouteLine']> = {}): Schemas['RouteLine'] {
  return {
    scope: 'all',
    app: null,
    entitlement: null,
    set: false,
    steps: SHIPPED,
    entitlements: 12,
    mayEdit: true,
    ...over,
  };
}

const HIGH = line({
  scope: 'high',
  set: true,
  steps: [
    {
      seat: 'ANY_OF',
      of: 'g1',
      name: 'Safety desk',
      days: 3,
      onlyIf: '',
      condition: { shape: null, words: '' },
    },
  ],
  entitlements: 4,
});

function open(
  address: string,
  lines: Schemas['RouteLine'][],
  open = 0,
  questions: Schemas['QuestionForm'][] = [],
) {
  const act = (_: unknown, __: URL, headers: Headers) => ({
    body:
      headers.get('Foresee') === null ? DONE : { ...DONE, foreseen: foreseen({ digest: 'seen' }) },
  });
  return openDesk(
    address,
    { '/desk/routes': <RoutesPage />, '/desk/routes/:scope': <RoutePage /> },
    {
      'GET /api/routes': () => ({ body: { lines, position: 7 } }),
      ...Object.fromEntries(
        lines.map((one) => [
          `GET /api/routes/${one.scope}`,
          () => ({
            body: {
              route: one,
              example: APPROVE,
              open,
              questions,
              attributes: [],
              position: 7,
            },
          }),
        ]),
      ),
      'POST /api/routes/drawn': (body: unknown) => ({
        body: {
          person: { id: 'p9', name: 'Ines Roth', unit: 'Shore' },
          entitlement: APPROVE,
          steps: (body as Schemas['RouteDrawForm']).steps.map((step, at) => ({
            step: at,
            maybe: (step.onlyIf ?? '') !== '',
            as: step.seat === 'STEWARD' ? 'steward' : 'owner',
            people: step.seat === 'STEWARD' ? [] : ['Nils Sand'],
            more: 0,
            deputies: [],
            elsewhere: step.seat === 'NAMED',
            settled: false,
          })),
        },
      }),
      'GET /api/find': () => ({
        body: {
          people: [ODA],
          peopleTotal: 1,
          groups: [],
          groupsTotal: 0,
          apps: [],
          entitlements: [],
        },
      }),
      'PUT /api/routes/high': act,
      'POST /api/routes/high/clear': act,
    },
    { powers: ['requests.configure', 'apps.read'] },
  );
}

/** What was really sent, none of what was only looked at. */
const of = (asked: Parameters<typeof sent>[0], what: string) =>
  sent(asked).filter((one) => one.what === what);

describe('steps', () => {
  const step = (over: Partial<Step>): Step => ({ ...fresh, ...over });

  it('are whole with people and days from 1 to 60', () => {
    expect(whole([])).toBe(false);
    expect(whole([step({})])).toBe(true);
    expect(whole([step({ onlyIf: 'unit pr' })])).toBe(false);
    expect(whole([step({ onlyIf: 'unit pr' }), step({ seat: 'MANAGER' })])).toBe(true);
    for (const days of ['', '0', '61', '1.5', 'x', '-3']) {
      expect(whole([step({ days })])).toBe(false);
    }
    expect(whole([step({ seat: 'NAMED' })])).toBe(false);
    expect(whole([step({ seat: 'NAMED', of: 'p1' })])).toBe(true);
  });

  it('are told in one line and moved', () => {
    const all = [step({ seat: 'MANAGER' }), step({ seat: 'ANY_OF', name: 'Safety desk' })];
    expect(told(all)).toBe('Manager, then anyone in Safety desk');
    expect(told(moved(all, 1, -1))).toBe('Anyone in Safety desk, then manager');
  });
});

describe('approval routes', () => {
  it('tells what counts for what', async () => {
    open('/desk/routes', [line(), HIGH, line({ scope: 'low', entitlements: 1 })]);
    const rows = within(await screen.findByRole('table')).getAllByRole('row');
    expect(rows[1]?.textContent).toContain('All requestsManager, then owner of the app');
    expect(rows[2]?.textContent).toContain('High sensitivityAnyone in Safety desk');
    expect(rows[3]?.textContent).toContain('as for all requests1');
  });

  it('is changed with the people in view, and says what keeps its steps', async () => {
    const asked = open('/desk/routes/high', [HIGH], 2);
    expect(
      await screen.findByText('If Ines Roth asked for Refund Bench · Approver now:'),
    ).toBeTruthy();
    await userEvent.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.getByText(/2 requests are open/)).toBeTruthy();
    await userEvent.click(dialog.getByRole('button', { name: 'Add a step' }));
    const save = dialog.getByRole('button', { name: 'Save route' }) as HTMLButtonElement;
    expect(save.disabled).toBe(true);
    await userEvent.type(
      dialog.getByRole('combobox', { name: 'Person or group for step 2' }),
      'od',
    );
    await userEvent.click(await dialog.findByRole('option', { name: /Oda/ }));
    expect(await dialog.findByText(/Nobody can approve it as Oda/)).toBeTruthy();
    const days = dialog.getByRole('textbox', { name: 'Days for step 2' });
    await userEvent.clear(days);
    expect(save.disabled).toBe(true);
    await userEvent.type(days, '5');
    await userEvent.click(dialog.getByRole('button', { name: /Move earlier: Oda/ }));
    await userEvent.type(dialog.getByRole('textbox', { name: /^Reason/ }), 'Oda knows them.');
    await waitFor(() => expect(save.disabled).toBe(false));
    await userEvent.click(save);
    await waitFor(() => expect(of(asked, 'PUT /api/routes/high')).toHaveLength(1));
    expect(of(asked, 'PUT /api/routes/high')[0]?.body).toEqual({
      base: [{ seat: 'ANY_OF', of: 'g1', days: 3, onlyIf: '' }],
      steps: [
        { seat: 'NAMED', of: ODA.id, days: 5, onlyIf: '' },
        { seat: 'ANY_OF', of: 'g1', days: 3, onlyIf: '' },
      ],
      reason: 'Oda knows them.',
    });
  });

  it('has a step that is only needed for some answers', async () => {
    const asked = open('/desk/routes/high', [HIGH], 0, [
      { ...freshQuestion([]), key: 'amount', label: 'How much?', kind: 'NUMBER' },
    ]);
    await userEvent.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = within(await screen.findByRole('dialog'));
    await userEvent.click(dialog.getByRole('button', { name: 'Add a step' }));
    await userEvent.selectOptions(
      dialog.getByRole('combobox', { name: 'Who approves step 2' }),
      'Owner of the app',
    );
    const only = () => dialog.getAllByRole('button', { name: 'Needed only if …' });
    await userEvent.click(only()[1] as HTMLElement);
    await userEvent.selectOptions(dialog.getByRole('combobox', { name: /^Comparison/ }), 'is over');
    await userEvent.type(dialog.getByRole('spinbutton', { name: /^Value/ }), '500');
    expect(await dialog.findByText(/depending on the answers/)).toBeTruthy();
    // One step is always needed, and a step that is moved keeps its condition.
    const save = dialog.getByRole<HTMLButtonElement>('button', { name: 'Save route' });
    await userEvent.click(dialog.getByRole('button', { name: /Move earlier: owner/ }));
    expect(dialog.getByRole<HTMLInputElement>('spinbutton', { name: /^Value/ }).value).toBe('500');
    await userEvent.type(dialog.getByRole('textbox', { name: /^Reason/ }), 'By amount.');
    await waitFor(() => expect(save.disabled).toBe(false));
    await userEvent.click(save);
    await waitFor(() => expect(of(asked, 'PUT /api/routes/high')).toHaveLength(1));
    expect(of(asked, 'PUT /api/routes/high')[0]?.body).toMatchObject({
      steps: [
        { seat: 'OWNER', onlyIf: 'amount gt 500' },
        { seat: 'ANY_OF', onlyIf: '' },
      ],
    });
  });

  it('says where nobody could approve', async () => {
    open('/desk/routes/high', [
      { ...HIGH, steps: [{ ...SHIPPED[0], seat: 'STEWARD', days: 3 } as Schemas['StepShape']] },
    ]);
    expect(await screen.findByText(/Nobody could approve this step/)).toBeTruthy();
  });

  it('is ended with a reason, and not at all without the power', async () => {
    const asked = open('/desk/routes/high', [HIGH]);
    await userEvent.click(await screen.findByRole('button', { name: 'End this route' }));
    const dialog = within(await screen.findByRole('dialog'));
    await userEvent.type(dialog.getByRole('textbox', { name: /^Reason/ }), 'As for all.');
    const end = dialog.getByRole('button', { name: 'End this route' }) as HTMLButtonElement;
    await waitFor(() => expect(end.disabled).toBe(false));
    await userEvent.click(end);
    await waitFor(() => expect(of(asked, 'POST /api/routes/high/clear')).toHaveLength(1));
  });

  it('offers no change to whoever may not', async () => {
    open('/desk/routes/high', [{ ...HIGH, mayEdit: false }]);
    await screen.findByRole('heading', { name: 'High sensitivity' });
    expect(screen.queryByRole('button', { name: 'Change' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'End this route' })).toBeNull();
  });
});
