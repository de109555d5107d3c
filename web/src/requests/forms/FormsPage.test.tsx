import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { keepUnfinished } from '../../shell/unfinished';
import { foreseen } from '../../testing/page';
import { DONE, openDesk, sent } from '../../testing/samples';
import { FormPage, FormsPage } from './FormsPage';
import { editedOf, fresh, keyOf, named, ofKind, type Question, relabelled, shapeOf } from './form';

const TERM = { choices: [14, 30], most: 60, endless: true };

function question(over: Partial<Question> = {}): Question {
  return { ...fresh([]), key: 'need', label: 'Need', ...over };
}

function view(over: Partial<Schemas['FormLine']> = {}, questions: Question[] = []) {
  return {
    line: {
      scope: 'high',
      app: null,
      entitlement: null,
      set: true,
      questions: questions.map((one) => one.label),
      entitlements: 4,
      mayEdit: true,
      ...over,
    },
    form: { questions, term: TERM },
    conditions: questions.map(() => ({ shape: null, words: '' })),
    attributes: [{ name: 'unit', label: 'Unit', type: 'text' }],
    position: 7,
  };
}

/** A server that shows every question whatever its condition, and wants each to have words. */
function open(address: string, views: Schemas['FormView'][]) {
  const act = (_: unknown, __: URL, headers: Headers) => ({
    body:
      headers.get('Foresee') === null ? DONE : { ...DONE, foreseen: foreseen({ digest: 'seen' }) },
  });
  return openDesk(
    address,
    { '/desk/forms': <FormsPage />, '/desk/forms/:scope': <FormPage /> },
    {
      'GET /api/forms': () => ({ body: { lines: views.map((one) => one.line), position: 7 } }),
      ...Object.fromEntries(
        views.map((one) => [`GET /api/forms/${one.line.scope}`, () => ({ body: one })]),
      ),
      'POST /api/forms/tried': (body: unknown) => {
        const { questions } = (body as Schemas['FormTryForm']).form;
        return {
          body: {
            person: { id: 'p9', name: 'Ines Roth', unit: 'Shore' },
            questions: questions.map(({ shownWhen, ...one }) => ({ ...one, shownWhen: null })),
            colleagues: [],
            conditions: questions.map((one) => ({ shape: null, words: one.shownWhen })),
            problems: questions.flatMap((one, at) =>
              one.label === ''
                ? [
                    {
                      code: 'request-form.label',
                      field: `questions.${at}.label`,
                      sentence: 'Write what is asked.',
                    },
                  ]
                : [],
            ),
          },
        };
      },
      'PUT /api/forms/high': act,
      'POST /api/forms/high/clear': act,
    },
    { powers: ['requests.configure', 'apps.read'] },
  );
}

describe('a form as it is edited', () => {
  it('is sent as it came', () => {
    const shape = { questions: [question()], term: TERM };
    expect(shapeOf(editedOf(shape))).toEqual(shape);
    const endless = { questions: [], term: { choices: [], most: null, endless: false } };
    expect(shapeOf(editedOf(endless))).toEqual(endless);
    const typed = { questions: [], term: { choices: '7; 14 x', most: 'many', endless: true } };
    expect(shapeOf(typed).term).toEqual({ choices: [7, 14, 0], most: 0, endless: true });
  });

  it('calls each question after what is asked, and no two alike', () => {
    expect(keyOf('Which till do you close?', [])).toBe('which-till-do-you-close');
    expect(keyOf('Straße Nº 3', ['stra-e-no-3'])).toBe('stra-e-no-3-2');
    expect(keyOf('3 €', [])).toBe('question');
    expect(keyOf('a'.repeat(80), []).length).toBeLessThanOrEqual(40);
  });

  it('keeps what a question is called while a condition names it', () => {
    const two = [question(), question({ key: 'whom', label: 'Whom', shownWhen: 'need eq "x"' })];
    expect(named(two, 'need')).toBe(true);
    expect(named(two, 'ee')).toBe(false);
    expect(relabelled(two, 0, 'What for')[0]).toMatchObject({ key: 'need', label: 'What for' });
    expect(relabelled(two, 1, 'Who')[1]).toMatchObject({ key: 'who', label: 'Who' });
  });

  it('leaves behind what only the kind before had', () => {
    const choice = question({ kind: 'ONE_OF', choices: ['a', 'b'] });
    expect(ofKind(choice, 'SEVERAL_OF').choices).toEqual(['a', 'b']);
    expect(ofKind(choice, 'DAY').choices).toEqual([]);
    expect(ofKind(question({ kind: 'NUMBER', least: '1' }), 'SHORT').least).toBeNull();
  });
});

describe('request forms', () => {
  it('tells what is asked for what', async () => {
    open('/desk/forms', [
      view({ scope: 'all', set: false }),
      view({}, [question(), question({ key: 'b', label: 'Which till?' })]),
      view({ scope: 'low', set: false }),
    ]);
    const rows = within(await screen.findByRole('table')).getAllByRole('row');
    expect(rows[1]?.textContent).toContain('All requestsOnly the reason');
    expect(rows[2]?.textContent).toContain('High sensitivityNeed · Which till?');
    expect(rows[3]?.textContent).toContain('as for all requests');
  });

  it('gets a question with a condition, in view of what it will look like', async () => {
    const choice = question({ kind: 'ONE_OF', choices: ['Covering', 'My work'] });
    const asked = open('/desk/forms/high', [view({}, [choice])]);
    await userEvent.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(await dialog.findByRole('radio', { name: 'Covering' })).toBeTruthy();
    await userEvent.click(dialog.getByRole('button', { name: 'Add a question' }));
    const save = dialog.getByRole<HTMLButtonElement>('button', { name: 'Save form' });
    await waitFor(() => expect(save.disabled).toBe(true));
    expect(await dialog.findByText('Write what is asked.')).toBeTruthy();
    await userEvent.type(dialog.getByRole('textbox', { name: 'Question' }), 'For whom?');
    await userEvent.selectOptions(dialog.getByRole('combobox', { name: 'Answer' }), 'A colleague');
    await userEvent.click(dialog.getByRole('button', { name: 'Show only if …' }));
    await userEvent.type(dialog.getByRole('combobox', { name: /^Value/ }), 'Covering');
    expect(await dialog.findByRole('combobox', { name: 'For whom?' })).toBeTruthy();
    await userEvent.type(dialog.getByRole('textbox', { name: /^Reason/ }), 'Owners ask.');
    await waitFor(() => expect(save.disabled).toBe(false));
    await userEvent.click(save);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const [put] = sent(asked).filter((one) => one.what === 'PUT /api/forms/high');
    expect(put?.body).toMatchObject({
      base: { questions: [choice], term: TERM },
      wanted: {
        questions: [
          choice,
          { key: 'for-whom', kind: 'COLLEAGUE', required: true, shownWhen: 'need eq "Covering"' },
        ],
        term: TERM,
      },
      reason: 'Owners ask.',
    });
  });

  it('is not saved with a limit that cannot be read, or a condition without its value', async () => {
    keepUnfinished(document);
    const asked = open('/desk/forms/high', [
      view({}, [question(), question({ key: 'most', label: 'How much?', kind: 'NUMBER' })]),
    ]);
    await userEvent.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = within(await screen.findByRole('dialog'));
    await userEvent.click(dialog.getByRole('button', { name: 'How much?' }));
    await userEvent.type(dialog.getByRole('textbox', { name: /^Smallest/ }), '5');
    await userEvent.type(dialog.getByRole('textbox', { name: /^Largest/ }), '1,5');
    await userEvent.type(dialog.getByRole('textbox', { name: /^Reason/ }), 'Owners ask.');
    const save = dialog.getByRole<HTMLButtonElement>('button', { name: 'Save form' });
    await waitFor(() => expect(save.disabled).toBe(false));
    await userEvent.click(save);
    expect(dialog.getByText(/Write a number such as 500/)).toBeTruthy();
    await userEvent.clear(dialog.getByRole('textbox', { name: /^Largest/ }));
    await userEvent.click(dialog.getByRole('button', { name: 'Show only if …' }));
    await userEvent.click(save);
    expect(dialog.getByText('Choose a value, or remove this condition.')).toBeTruthy();
    const put = () => sent(asked).filter((one) => one.what === 'PUT /api/forms/high');
    expect(put()).toHaveLength(0);
    // The last condition that is removed leaves the question as it was.
    await userEvent.click(dialog.getByRole('button', { name: 'Remove condition 1' }));
    expect(dialog.getByText('Always shown.')).toBeTruthy();
    await userEvent.click(save);
    await waitFor(() => expect(put()).toHaveLength(1));
    expect(put()[0]?.body).toMatchObject({
      wanted: { questions: [{}, { least: '5', most: null, shownWhen: '' }] },
    });
  });

  it('is ended with a reason', async () => {
    const asked = open('/desk/forms/high', [view({}, [question()])]);
    await userEvent.click(await screen.findByRole('button', { name: 'End this form' }));
    const dialog = within(await screen.findByRole('dialog'));
    await userEvent.type(dialog.getByRole('textbox', { name: /^Reason/ }), 'Not needed.');
    await userEvent.click(dialog.getByRole('button', { name: 'End this form' }));
    await waitFor(() =>
      expect(sent(asked).some((one) => one.what === 'POST /api/forms/high/clear')).toBe(true),
    );
  });

  it('is only read by whoever may not change it', async () => {
    open('/desk/forms/high', [view({ mayEdit: false }, [question()])]);
    expect(await screen.findByRole('textbox', { name: 'Need' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Change' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'End this form' })).toBeNull();
  });
});
