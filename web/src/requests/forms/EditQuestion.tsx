import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { Schemas } from '../../api/client';
import { TextField } from '../../shell/TextField';
import { words } from '../../words/en';
import { EditCondition } from './EditCondition';
import { conditionFields, ofKind, type Question } from './form';

/** One question: what is asked, what an answer is, and when it is shown. */
export function EditQuestion({
  id,
  question,
  condition,
  before,
  attributes,
  wrong,
  onLabel,
  onChange,
}: {
  id: string;
  question: Question;
  /** Its condition as the server reads it. */
  condition: Schemas['ConditionView'] | undefined;
  /** The questions before it. */
  before: Question[];
  attributes: Schemas['FormAttribute'][];
  wrong: (part: string) => string | undefined;
  onLabel: (label: string) => void;
  onChange: (change: Partial<Question>) => void;
}) {
  return (
    <>
      <TextField
        id={`${id}-label`}
        label={words.forms.label}
        maxLength={200}
        value={question.label}
        wrong={wrong('label')}
        onChange={onLabel}
      />
      <div className="between">
        <Form.Group className="field" controlId={`${id}-kind`}>
          <Form.Label>{words.forms.kind}</Form.Label>
          <Form.Select
            value={question.kind}
            onChange={(event) => onChange(ofKind(question, event.target.value as Question['kind']))}
          >
            {Object.entries(words.forms.kinds).map(([kind, name]) => (
              <option key={kind} value={kind}>
                {name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Check
          id={`${id}-required`}
          className="beside-field"
          label={words.forms.required}
          checked={question.required}
          onChange={(event) => onChange({ required: event.target.checked })}
        />
      </div>
      <Bounds id={id} question={question} wrong={wrong} onChange={onChange} />
      <TextField
        id={`${id}-help`}
        label={words.forms.help}
        maxLength={500}
        value={question.help}
        wrong={wrong('help')}
        onChange={(help) => onChange({ help })}
      />
      <EditCondition
        filter={question.shownWhen}
        shape={condition?.shape ?? undefined}
        known={conditionFields(before, attributes)}
        said={words.forms.condition}
        wrong={wrong('shownWhen')}
        onChange={(shownWhen) => onChange({ shownWhen })}
      />
      {wrong('key') !== undefined && (
        <TextField
          id={`${id}-key`}
          label={words.forms.key}
          maxLength={40}
          value={question.key}
          wrong={wrong('key')}
          onChange={(key) => onChange({ key })}
        />
      )}
    </>
  );
}

function Bounds({
  id,
  question,
  wrong,
  onChange,
}: {
  id: string;
  question: Question;
  wrong: (part: string) => string | undefined;
  onChange: (change: Partial<Question>) => void;
}) {
  switch (question.kind) {
    case 'ONE_OF':
    case 'SEVERAL_OF':
      return <Choices id={id} question={question} wrong={wrong('choices')} onChange={onChange} />;
    case 'SHORT':
      return (
        <TextField
          id={`${id}-looks`}
          label={words.forms.looksLike}
          help={words.forms.looksLikeHelp}
          maxLength={100}
          value={question.looksLike}
          wrong={wrong('looksLike')}
          onChange={(looksLike) => onChange({ looksLike })}
        />
      );
    case 'NUMBER':
      return (
        <div className="between">
          <Limit
            id={`${id}-least`}
            label={words.forms.least}
            pattern={NUMBER}
            fault={words.forms.notNumber}
            value={question.least}
            wrong={wrong('least')}
            onChange={(least) => onChange({ least })}
          />
          <Limit
            id={`${id}-most`}
            label={words.forms.most}
            pattern={NUMBER}
            fault={words.forms.notNumber}
            value={question.most}
            onChange={(most) => onChange({ most })}
          />
        </div>
      );
    case 'DAY':
      return (
        <div className="between">
          <Limit
            id={`${id}-earliest`}
            label={words.forms.earliest}
            help={words.forms.daysHelp}
            pattern={DAYS}
            fault={words.forms.notDays}
            value={question.earliest === null ? null : String(question.earliest)}
            wrong={wrong('earliest')}
            onChange={(days) => onChange({ earliest: days === null ? null : Number(days) })}
          />
          <Limit
            id={`${id}-latest`}
            label={words.forms.latest}
            help={words.forms.daysHelp}
            pattern={DAYS}
            fault={words.forms.notDays}
            value={question.latest === null ? null : String(question.latest)}
            onChange={(days) => onChange({ latest: days === null ? null : Number(days) })}
          />
        </div>
      );
    case 'LONG':
    case 'YES_NO':
    case 'COLLEAGUE':
      return null;
  }
}

const NUMBER = /^-?\d{1,12}(\.\d{1,3})?$/;
const DAYS = /^-?\d{1,5}$/;

/** A limit as it is typed; while it cannot be read the one before counts, and nothing is sent. */
function Limit({
  id,
  label,
  help,
  pattern,
  fault,
  value,
  wrong,
  onChange,
}: {
  id: string;
  label: string;
  help?: string;
  pattern: RegExp;
  fault: string;
  value: string | null;
  wrong?: string;
  onChange: (value: string | null) => void;
}) {
  const [text, setText] = useState(value ?? '');
  const bare = text.trim();
  const bad = bare !== '' && !pattern.test(bare);
  return (
    <TextField
      id={id}
      label={label}
      help={bad ? fault : help}
      maxLength={20}
      value={text}
      wrong={wrong}
      data-unfinished={bad ? '' : undefined}
      onChange={(typed) => {
        setText(typed);
        const next = typed.trim();
        if (next === '' || pattern.test(next)) {
          onChange(next === '' ? null : next);
        }
      }}
    />
  );
}

/** One choice a line, as it is typed. */
function Choices({
  id,
  question,
  wrong,
  onChange,
}: {
  id: string;
  question: Question;
  wrong: string | undefined;
  onChange: (change: Partial<Question>) => void;
}) {
  const [text, setText] = useState(question.choices.join('\n'));
  return (
    <TextField
      id={`${id}-choices`}
      label={words.forms.choices}
      as="textarea"
      rows={4}
      value={text}
      wrong={wrong}
      onChange={(next) => {
        setText(next);
        onChange({
          choices: next
            .split('\n')
            .map((one) => one.trim())
            .filter((one) => one !== ''),
        });
      }}
    />
  );
}
