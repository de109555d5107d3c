import { useId, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Schemas } from '../../api/client';
import { TextField } from '../../shell/TextField';
import { words } from '../../words/en';
import { moved } from '../Scopes';
import { EditQuestion } from './EditQuestion';
import { type Edited, fresh, MOST_QUESTIONS, relabelled, type Term } from './form';

/** All questions in their order, one of them open, and for how long one may ask. */
export function EditForm({
  edited,
  conditions,
  attributes,
  wrong,
  onChange,
}: {
  edited: Edited;
  conditions: Schemas['ConditionView'][];
  attributes: Schemas['FormAttribute'][];
  /** What is wrong with a field, {@code questions.0.label}. */
  wrong: (field: string) => string | undefined;
  onChange: (edited: Edited) => void;
}) {
  const id = useId();
  const { questions, term } = edited;
  const [open, setOpen] = useState<number>();
  const put = (next: Edited['questions']) => onChange({ ...edited, questions: next });
  const faulty = (at: number) =>
    PARTS.some((part) => wrong(`questions.${at}.${part}`) !== undefined);
  return (
    <>
      <ol className="edit-questions" aria-label={words.forms.questions}>
        {questions.map((question, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a question is its place in the order
          <li key={at}>
            <div className="bar">
              <button
                type="button"
                className="choose"
                aria-expanded={open === at}
                onClick={() => setOpen(open === at ? undefined : at)}
              >
                {question.label.trim() === '' ? words.forms.unnamed : question.label}
              </button>
              <span className="dim small">
                {[
                  words.forms.kinds[question.kind],
                  question.required ? null : words.forms.isOptional,
                  question.shownWhen === '' ? null : words.forms.sometimes,
                ]
                  .filter(Boolean)
                  .join(', ')}
              </span>
              {faulty(at) && open !== at && <span className="tag loss">{words.forms.faulty}</span>}
              <span className="grow" />
              <Button
                size="sm"
                variant="outline-primary"
                disabled={at === 0}
                aria-label={words.routes.earlier(question.label)}
                onClick={() => {
                  put(moved(questions, at, -1));
                  setOpen(undefined);
                }}
              >
                ↑
              </Button>
              <Button
                size="sm"
                variant="outline-primary"
                disabled={at === questions.length - 1}
                aria-label={words.routes.later(question.label)}
                onClick={() => {
                  put(moved(questions, at, 1));
                  setOpen(undefined);
                }}
              >
                ↓
              </Button>
              <Button
                size="sm"
                variant="link"
                aria-label={words.routes.leaveOutOne(question.label)}
                onClick={() => {
                  put(questions.filter((_, index) => index !== at));
                  setOpen(undefined);
                }}
              >
                {words.routes.leaveOut}
              </Button>
            </div>
            {open === at && (
              <div className="open">
                <EditQuestion
                  id={`${id}-${at}`}
                  question={question}
                  condition={conditions[at]}
                  before={questions.slice(0, at)}
                  attributes={attributes}
                  wrong={(part) => wrong(`questions.${at}.${part}`)}
                  onLabel={(label) => put(relabelled(questions, at, label))}
                  onChange={(change) =>
                    put(questions.map((one, index) => (index === at ? { ...one, ...change } : one)))
                  }
                />
              </div>
            )}
          </li>
        ))}
      </ol>
      {questions.length < MOST_QUESTIONS && (
        <Button
          size="sm"
          variant="outline-primary"
          onClick={() => {
            put([...questions, fresh(questions.map((one) => one.key))]);
            setOpen(questions.length);
          }}
        >
          {words.forms.add}
        </Button>
      )}
      <EditTerm
        id={id}
        term={term}
        wrong={wrong}
        onChange={(change) => onChange({ ...edited, term: { ...term, ...change } })}
      />
    </>
  );
}

const PARTS = ['label', 'help', 'choices', 'looksLike', 'least', 'earliest', 'shownWhen', 'key'];

function EditTerm({
  id,
  term,
  wrong,
  onChange,
}: {
  id: string;
  term: Term;
  wrong: (field: string) => string | undefined;
  onChange: (change: Partial<Term>) => void;
}) {
  return (
    <fieldset className="term">
      <legend>{words.forms.term}</legend>
      <div className="between">
        <TextField
          id={`${id}-days`}
          label={words.forms.termChoices}
          help={words.forms.termChoicesHelp}
          value={term.choices}
          wrong={wrong('term.choices')}
          onChange={(choices) => onChange({ choices })}
        />
        <TextField
          id={`${id}-at-most`}
          label={words.forms.termMost}
          help={words.forms.termMostHelp}
          inputMode="numeric"
          maxLength={5}
          value={term.most}
          wrong={wrong('term.most')}
          onChange={(most) => onChange({ most })}
        />
      </div>
      <Form.Check
        id={`${id}-endless`}
        label={words.forms.endless}
        checked={term.endless}
        onChange={(event) => onChange({ endless: event.target.checked })}
      />
    </fieldset>
  );
}
