import type { Schemas } from '../../api/client';

/** What was answered, by the question's key, as it was typed. */
export type Answers = Record<string, string[]>;

type Shape = Schemas['ShapeView'];
type Kind = Schemas['AskQuestion']['kind'];

/** How answers of a kind compare; the same as on the server (Question.Kind.type). */
const NUMBERS: ReadonlySet<Kind> = new Set(['NUMBER']);
const TEXTS: ReadonlySet<Kind> = new Set(['SHORT', 'LONG', 'ONE_OF', 'SEVERAL_OF']);

/** NFC and full case folding, as the server compares texts. */
function fold(text: string): string {
  const one = text.normalize('NFC').toUpperCase().toLowerCase().normalize('NFC');
  return one.replaceAll('ς', 'σ');
}

/** What counts as an answer: of what is typed, all that could be sent. */
export function proper(question: Schemas['AskQuestion'], typed: string[]): string[] {
  const values = [...new Set(typed.map((one) => one.trim()))].filter((one) => one !== '');
  const [first = ''] = values;
  switch (question.kind) {
    case 'SHORT':
      return first.length <= 200 && fits(question.looksLike, first) ? values : [];
    case 'LONG':
      return first.length <= 4000 ? values : [];
    case 'NUMBER':
      return /^-?\d{1,12}(\.\d{1,3})?$/.test(first) &&
        (question.least === null || Number(first) >= Number(question.least)) &&
        (question.most === null || Number(first) <= Number(question.most))
        ? values
        : [];
    case 'DAY':
      return /^\d{4}-\d\d-\d\d$/.test(first) &&
        (question.earliest === null || first >= question.earliest) &&
        (question.latest === null || first <= question.latest)
        ? values
        : [];
    case 'ONE_OF':
    case 'SEVERAL_OF':
      return values.every((one) => question.choices.includes(one)) ? values : [];
    case 'YES_NO':
      return first === 'true' || first === 'false' ? values : [];
    case 'COLLEAGUE':
      return values;
  }
}

/** Whether a text looks as it must: # is a digit, @ a letter, * anything, the rest itself. */
function fits(mask: string, text: string): boolean {
  if (mask === '') {
    return true;
  }
  const one = (wanted: string, given: string) =>
    wanted === '#'
      ? /[0-9]/.test(given)
      : wanted === '@'
        ? /\p{L}/u.test(given)
        : wanted.toLowerCase() === given.toLowerCase();
  let [at, within, star, resume] = [0, 0, -1, 0];
  while (within < text.length) {
    const wanted = mask.charAt(at);
    if (wanted === '*') {
      star = at++;
      resume = within;
    } else if (wanted !== '' && one(wanted, text.charAt(within))) {
      at++;
      within++;
    } else if (star >= 0) {
      at = star + 1;
      within = ++resume;
    } else {
      return false;
    }
  }
  return /^\**$/.test(mask.slice(at));
}

function compares(kind: Kind | undefined, operator: string, value: string, with_: string): boolean {
  if (kind !== undefined && NUMBERS.has(kind)) {
    return ordered(operator, Number(value) - Number(with_));
  }
  const text = kind === undefined || TEXTS.has(kind);
  const [one, other] = text ? [fold(value), fold(with_)] : [value, with_];
  switch (operator) {
    case 'co':
      return one.includes(other);
    case 'sw':
      return one.startsWith(other);
    case 'ew':
      return one.endsWith(other);
    default:
      return ordered(operator, one < other ? -1 : one > other ? 1 : 0);
  }
}

function ordered(operator: string, difference: number): boolean {
  switch (operator) {
    case 'eq':
      return difference === 0;
    case 'ne':
      return difference !== 0;
    case 'gt':
      return difference > 0;
    case 'ge':
      return difference >= 0;
    case 'lt':
      return difference < 0;
    case 'le':
      return difference <= 0;
    default:
      return false;
  }
}

/** Whether a condition holds for answers (RFC 7644, section 3.4.2.2; two-valued). */
export function holds(
  shape: Shape,
  kindOf: (key: string) => Kind | undefined,
  answers: Answers,
): boolean {
  const values = answers[shape.attribute ?? ''] ?? [];
  switch (shape.kind) {
    case 'all':
      return shape.parts.every((part) => holds(part, kindOf, answers));
    case 'any':
      return shape.parts.some((part) => holds(part, kindOf, answers));
    case 'except':
      return !shape.parts.some((part) => holds(part, kindOf, answers));
    case 'present':
      return values.length > 0;
    default:
      return values.some((value) =>
        shape.values.some((with_) =>
          compares(kindOf(shape.attribute ?? ''), shape.operator ?? '', value, with_),
        ),
      );
  }
}

/** The questions that are shown for what is typed, and what of it counts. */
export function shown(questions: Schemas['AskQuestion'][], typed: Answers) {
  const kinds = new Map(questions.map((question) => [question.key, question.kind]));
  const answers: Answers = {};
  const seen = questions.filter((question) => {
    const is =
      question.shownWhen === null || holds(question.shownWhen, (key) => kinds.get(key), answers);
    const values = is ? proper(question, typed[question.key] ?? []) : [];
    if (values.length > 0) {
      answers[question.key] = values;
    }
    return is;
  });
  return { seen, answers };
}

/** What is sent: everything that is typed where it is shown, proper or not. */
export function sent(questions: Schemas['AskQuestion'][], typed: Answers): Answers {
  return Object.fromEntries(
    shown(questions, typed).seen.flatMap(({ key }) => {
      const values = (typed[key] ?? []).filter((one) => one.trim() !== '');
      return values.length === 0 ? [] : [[key, values]];
    }),
  );
}
