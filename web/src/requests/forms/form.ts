import type { Schemas } from '../../api/client';
import type { Attribute } from '../../directory/filter/shape';
import { words } from '../../words/en';

export type Question = Required<Schemas['QuestionForm']>;

/** How long access may last, as it is typed. */
export type Term = { choices: string; most: string; endless: boolean };

export type Edited = { questions: Question[]; term: Term };

/** At most so many questions. */
export const MOST_QUESTIONS = 100;

export function editedOf(shape: Schemas['FormShape']): Edited {
  return {
    questions: shape.questions as Question[],
    term: {
      choices: shape.term.choices.join(', '),
      most: shape.term.most == null ? '' : String(shape.term.most),
      endless: shape.term.endless === true,
    },
  };
}

const whole = (text: string) => (/^\d{1,6}$/.test(text.trim()) ? Number(text) : 0);

/** As it is sent; what is no number of days is 0, and refused. */
export function shapeOf(edited: Edited): Schemas['FormShape'] {
  const { choices, most, endless } = edited.term;
  return {
    questions: edited.questions,
    term: {
      choices: choices.trim() === '' ? [] : choices.split(/[,;\s]+/).map(whole),
      most: most.trim() === '' ? null : whole(most),
      endless,
    },
  };
}

/** What an answer is called in conditions, after what is asked: letters, digits and hyphens. */
export function keyOf(label: string, taken: string[]): string {
  const bare = label
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^[^a-z]+|-+$/g, '')
    .slice(0, 36)
    .replaceAll(/-+$/g, '');
  const first = bare === '' ? 'question' : bare;
  let key = first;
  for (let n = 2; taken.includes(key); n++) {
    key = `${first}-${n}`;
  }
  return key;
}

/** Whether a condition of another question names this one. */
export function named(questions: Question[], key: string): boolean {
  const word = new RegExp(`(^|[\\s(])${key}\\s`, 'i');
  return questions.some((one) => word.test(one.shownWhen));
}

export function fresh(taken: string[]): Question {
  return {
    key: keyOf('', taken),
    label: '',
    help: '',
    required: true,
    kind: 'SHORT',
    choices: [],
    looksLike: '',
    least: null,
    most: null,
    earliest: null,
    latest: null,
    shownWhen: '',
  };
}

/** With what one question is called now; its key follows it while nothing names that. */
export function relabelled(questions: Question[], at: number, label: string): Question[] {
  const one = questions[at];
  if (one === undefined) {
    return questions;
  }
  const others = questions.filter((_, index) => index !== at).map((each) => each.key);
  const follows = one.key === keyOf(one.label, others) && !named(questions, one.key);
  return questions.map((each, index) =>
    index === at ? { ...each, label, key: follows ? keyOf(label, others) : each.key } : each,
  );
}

/** Of a kind, without what only another kind has. */
export function ofKind(question: Question, kind: Question['kind']): Question {
  const chooses = kind === 'ONE_OF' || kind === 'SEVERAL_OF';
  return {
    ...question,
    kind,
    choices: chooses ? question.choices : [],
    looksLike: kind === 'SHORT' ? question.looksLike : '',
    least: kind === 'NUMBER' ? question.least : null,
    most: kind === 'NUMBER' ? question.most : null,
    earliest: kind === 'DAY' ? question.earliest : null,
    latest: kind === 'DAY' ? question.latest : null,
  };
}

/** What a condition may name: answers to these questions, and the requester's attributes. */
export function conditionFields(
  questions: Pick<Schemas['QuestionForm'], 'key' | 'label' | 'kind' | 'choices'>[],
  attributes: Schemas['FormAttribute'][],
): Attribute[] {
  return [
    ...questions.map((one) => ({
      name: one.key,
      label: words.forms.answerTo(one.label),
      type: typeOf(one.kind),
      options: one.choices,
    })),
    ...attributes.map((one) => ({ ...one, label: words.forms.askers(one.label) })),
  ];
}

/** How a condition sees an answer. */
function typeOf(kind: Question['kind']): string {
  switch (kind) {
    case 'NUMBER':
      return 'number';
    case 'DAY':
      return 'day';
    case 'YES_NO':
      return 'yesno';
    case 'COLLEAGUE':
      return 'person';
    case 'SHORT':
    case 'LONG':
    case 'ONE_OF':
    case 'SEVERAL_OF':
      return 'text';
  }
}
