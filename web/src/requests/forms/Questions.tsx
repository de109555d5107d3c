import { useId } from 'react';
import Form from 'react-bootstrap/Form';
import type { Schemas } from '../../api/client';
import { TextField } from '../../shell/TextField';
import { words } from '../../words/en';
import { type Answers, shown } from './conditions';

type Asked = Schemas['AskQuestion'];

/** So many choices stand open; more are chosen from a list. */
const OPEN = 6;

/** The questions of a request form, as far as they are shown for what was answered. */
export function Questions({
  questions,
  colleagues,
  answers,
  onChange,
  wrong,
}: {
  questions: Asked[];
  colleagues: Schemas['Colleague'][];
  answers: Answers;
  onChange: (answers: Answers) => void;
  /** What is wrong with an answer. */
  wrong: (key: string) => string | undefined;
}) {
  const part = useId();
  return shown(questions, answers).seen.map((question) => (
    <div key={question.key} className={question.shownWhen === null ? undefined : 'follows'}>
      <Field
        id={`${part}-${question.key}`}
        question={question}
        colleagues={colleagues}
        values={answers[question.key] ?? []}
        wrong={wrong(question.key)}
        onChange={(values) => onChange({ ...answers, [question.key]: values })}
      />
    </div>
  ));
}

type Part = {
  id: string;
  question: Asked;
  colleagues: Schemas['Colleague'][];
  values: string[];
  wrong: string | undefined;
  onChange: (values: string[]) => void;
};

function Field(part: Part) {
  const { id, question, values, wrong, onChange } = part;
  const { label } = question;
  const help = [question.help, limits(question)].filter(Boolean).join(' ') || undefined;
  const text = {
    id,
    label,
    wrong,
    help,
    required: question.required,
    value: values[0] ?? '',
    onChange: (value: string) => onChange(value === '' ? [] : [value]),
  };
  switch (question.kind) {
    case 'SHORT':
      return <TextField {...text} maxLength={200} />;
    case 'LONG':
      return <TextField {...text} as="textarea" rows={3} maxLength={4000} />;
    case 'NUMBER':
      return <TextField {...text} inputMode="decimal" maxLength={16} className="short" />;
    case 'DAY':
      return (
        <TextField
          {...text}
          type="date"
          min={question.earliest ?? undefined}
          max={question.latest ?? undefined}
        />
      );
    case 'ONE_OF':
      return question.choices.length > OPEN ? (
        <Choice {...part} label={label} help={help} options={same(question.choices)} />
      ) : (
        <Ticks {...part} label={label} help={help} options={same(question.choices)} />
      );
    case 'YES_NO':
      return (
        <Ticks
          {...part}
          label={label}
          help={help}
          options={[
            ['true', words.yesNo(true)],
            ['false', words.yesNo(false)],
          ]}
        />
      );
    case 'SEVERAL_OF':
      return <Ticks {...part} label={label} help={help} options={same(question.choices)} several />;
    case 'COLLEAGUE':
      return (
        <Choice
          {...part}
          label={label}
          help={help}
          options={part.colleagues.map((one) => [
            one.id,
            one.unit === null ? one.name : `${one.name}, ${one.unit}`,
          ])}
        />
      );
  }
}

const same = (choices: string[]): [string, string][] => choices.map((one) => [one, one]);

function limits(question: Asked): string {
  if (question.kind === 'NUMBER') {
    return words.forms.range(question.least ?? null, question.most ?? null);
  }
  return question.kind === 'SHORT' && question.looksLike !== ''
    ? words.forms.looksLikeThis(question.looksLike)
    : '';
}

type Chosen = Part & { label: string; help: string | undefined; options: [string, string][] };

/** One of many. */
function Choice({ id, question, values, wrong, onChange, label, help, options }: Chosen) {
  return (
    <Form.Group className="field" controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Select
        required={question.required}
        isInvalid={wrong !== undefined}
        aria-invalid={wrong !== undefined}
        aria-describedby={`${id}-said`}
        value={values[0] ?? ''}
        onChange={(event) => onChange(event.target.value === '' ? [] : [event.target.value])}
      >
        <option value="">{words.forms.choose}</option>
        {options.map(([value, name]) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </Form.Select>
      <Said id={id} help={help} wrong={wrong} />
    </Form.Group>
  );
}

/** One or several of a few. */
function Ticks({
  id,
  question,
  values,
  wrong,
  onChange,
  label,
  help,
  options,
  several = false,
}: Chosen & { several?: boolean }) {
  return (
    <fieldset className="field choices" aria-describedby={`${id}-said`}>
      <legend>
        {label} {question.required && <span className="dim">{words.forms.needed}</span>}
      </legend>
      {options.map(([value, name], at) => (
        <Form.Check
          key={value}
          id={`${id}-${at}`}
          name={id}
          type={several ? 'checkbox' : 'radio'}
          label={name}
          checked={values.includes(value)}
          aria-invalid={wrong !== undefined && at === 0}
          onChange={(event) =>
            onChange(
              !several
                ? [value]
                : // In the order in which they are offered.
                  options
                    .map(([one]) => one)
                    .filter((one) => (one === value ? event.target.checked : values.includes(one))),
            )
          }
        />
      ))}
      {!question.required && !several && values.length > 0 && (
        <button type="button" className="choose small" onClick={() => onChange([])}>
          {words.forms.noAnswer}
        </button>
      )}
      <Said id={id} help={help} wrong={wrong} />
    </fieldset>
  );
}

function Said({
  id,
  help,
  wrong,
}: {
  id: string;
  help: string | undefined;
  wrong: string | undefined;
}) {
  return (
    <div id={`${id}-said`}>
      {help !== undefined && <Form.Text className="dim">{help}</Form.Text>}
      {wrong !== undefined && (
        <div className="invalid-feedback d-block" role="alert">
          {wrong}
        </div>
      )}
    </div>
  );
}
