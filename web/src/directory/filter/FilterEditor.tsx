import { useQuery } from '@tanstack/react-query';
import { useId } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api } from '../../api/client';
import { DateInput } from '../../shell/DateInput';
import { words } from '../../words/en';
import {
  type Attribute,
  begun,
  group,
  isWhole,
  SAYINGS,
  type Shape,
  saying,
  sayingOf,
  valuesOf,
} from './shape';

/** A filter as lines that read as a sentence: attribute, what is said of it, value. */
export function FilterEditor({
  shape,
  attributes,
  onChange,
  label = words.filter.everyone,
  needed = false,
}: {
  shape: Shape;
  attributes: Attribute[];
  onChange: (shape: Shape) => void;
  /** What the lines are for. */
  label?: string;
  /** Whether a condition without a value is unfinished even where it stands alone. */
  needed?: boolean;
}) {
  const whole = shape.kind === 'all' || shape.kind === 'any' ? shape : group('all', [shape]);
  return (
    <Several
      shape={whole}
      attributes={attributes}
      onChange={onChange}
      label={label}
      alone={!needed && whole.parts.length < 2}
    />
  );
}

function Several({
  shape,
  attributes,
  onChange,
  label,
  alone = false,
}: {
  shape: Shape;
  attributes: Attribute[];
  onChange: (shape: Shape) => void;
  label: string;
  /** Whether a condition without a value may stand here: there is no other yet. */
  alone?: boolean;
}) {
  const name = useId();
  const empty = begun(attributes);
  const add = (part: Shape) => onChange({ ...shape, parts: [...shape.parts, part] });
  const put = (at: number, part: Shape | undefined) =>
    onChange({
      ...shape,
      parts: shape.parts.flatMap((one, place) =>
        place !== at ? [one] : part === undefined ? [] : [part],
      ),
    });
  return (
    <fieldset className="conditions">
      <legend>
        {label}{' '}
        {shape.parts.length > 1 && (
          <Form.Select
            size="sm"
            aria-label={words.filter.how}
            value={shape.kind}
            onChange={(event) => onChange({ ...shape, kind: event.target.value })}
          >
            <option value="all">{words.filter.all}</option>
            <option value="any">{words.filter.any}</option>
          </Form.Select>
        )}
      </legend>
      {shape.parts.map((part, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place alone
        <div key={`${name}-${at}`} className="condition">
          <Part
            shape={part}
            attributes={attributes}
            onChange={(next) => put(at, next)}
            place={at + 1}
            within={shape.kind === 'any' ? 'any' : 'all'}
            alone={alone}
          />
          <Button
            variant="link"
            className="small"
            aria-label={words.filter.removeOne(at + 1)}
            onClick={() => put(at, undefined)}
          >
            {words.filter.remove}
          </Button>
        </div>
      ))}
      <div className="bar">
        <Button size="sm" variant="outline-primary" onClick={() => add(empty)}>
          {words.filter.add}
        </Button>
        <Button
          size="sm"
          variant="link"
          onClick={() => add(group('except', [group('any', [empty])]))}
        >
          {words.filter.addExcept}
        </Button>
        <Button
          size="sm"
          variant="link"
          onClick={() => add(group(shape.kind === 'all' ? 'any' : 'all', [empty]))}
        >
          {words.filter.addGroup}
        </Button>
      </div>
    </fieldset>
  );
}

function Part({
  shape,
  attributes,
  onChange,
  place,
  within,
  alone,
}: {
  shape: Shape;
  attributes: Attribute[];
  onChange: (shape: Shape) => void;
  place: number;
  /** How it is bound to those beside it. */
  within: 'all' | 'any';
  alone: boolean;
}) {
  const said = sayingOf(shape);
  if (said === undefined) {
    const inner = shape.kind === 'except' ? shape.parts[0] : shape;
    if (inner === undefined) {
      return null;
    }
    return (
      <Several
        shape={inner.kind === 'all' || inner.kind === 'any' ? inner : group('any', [inner])}
        attributes={attributes}
        label={
          shape.kind !== 'except'
            ? words.filter.grouped[within]
            : within === 'any'
              ? words.filter.exceptAny
              : words.filter.except
        }
        onChange={(next) => onChange(shape.kind === 'except' ? group('except', [next]) : next)}
      />
    );
  }
  const typeOf = (name: string) => attributes.find((one) => one.name === name)?.type ?? 'text';
  const first = (name: string) => SAYINGS[typeOf(name)]?.[0] ?? 'eq';
  const type = typeOf(said.attribute);
  const sayings = SAYINGS[type] ?? [];
  const values = valuesOf(shape);
  const bare = said.saying === 'present' || said.saying === 'empty';
  const unfinished = !alone && !bare && !isWhole(saying(said.attribute, said.saying, values));
  return (
    <div className="bar">
      <Form.Select
        aria-label={words.filter.attribute(place)}
        value={said.attribute}
        onChange={(event) => onChange(saying(event.target.value, first(event.target.value), []))}
      >
        {attributes.map((one) => (
          <option key={one.name} value={one.name}>
            {one.label}
          </option>
        ))}
      </Form.Select>
      <Form.Select
        aria-label={words.filter.what(place)}
        value={said.saying}
        onChange={(event) => onChange(saying(said.attribute, event.target.value, values))}
      >
        {[...new Set([...sayings, said.saying])].map((one) => (
          <option key={one} value={one}>
            {words.filter.sayings[type === 'day' ? `day-${one}` : one] ?? words.filter.sayings[one]}
          </option>
        ))}
      </Form.Select>
      {!bare && (
        <Values
          attribute={said.attribute}
          known={attributes.find((one) => one.name === said.attribute)?.options}
          type={type}
          several={said.saying === 'eq' || said.saying === 'not-eq'}
          place={place}
          values={values}
          unfinished={unfinished}
          onChange={(next) => onChange(saying(said.attribute, said.saying, next))}
        />
      )}
      {unfinished && <span className="invalid-feedback">{words.filter.unfinished}</span>}
    </div>
  );
}

function Values({
  attribute,
  known,
  type,
  several,
  place,
  values,
  unfinished,
  onChange,
}: {
  attribute: string;
  known: string[] | undefined;
  type: string;
  several: boolean;
  place: number;
  values: string[];
  unfinished: boolean;
  onChange: (values: string[]) => void;
}) {
  const mark = { 'data-unfinished': unfinished ? '' : undefined };
  const label = words.filter.value(place);
  const list = useId();
  const found = useQuery({
    queryKey: ['attribute-values', attribute],
    queryFn: () =>
      answer(api.GET('/api/attributes/{name}/values', { params: { path: { name: attribute } } })),
    enabled: known === undefined && type === 'text' && attribute !== '',
  });
  if (type === 'yesno') {
    return (
      <Form.Select
        {...mark}
        aria-label={label}
        value={values[0] ?? ''}
        onChange={(event) => onChange(event.target.value === '' ? [] : [event.target.value])}
      >
        <option value="">{words.filter.choose}</option>
        <option value="true">{words.yesNo(true)}</option>
        <option value="false">{words.yesNo(false)}</option>
      </Form.Select>
    );
  }
  if (type === 'day') {
    return (
      <DateInput
        named={label}
        aria-label={label}
        value={values[0] ?? ''}
        onChange={(day) => onChange(day === '' ? [] : [day])}
      />
    );
  }
  const shown = values.length === 0 ? [''] : values;
  const options: { value: string; people?: number }[] =
    known?.map((one) => ({ value: one })) ?? found.data ?? [];
  return (
    <>
      {shown.map((value, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a value is known by its place alone
        <span key={at} className="value">
          {at > 0 && <span className="dim">{words.filter.or} </span>}
          <Form.Control
            {...(value === '' ? mark : {})}
            aria-label={at === 0 ? label : words.filter.otherValue(place, at + 1)}
            list={list}
            type={type === 'number' ? 'number' : 'text'}
            placeholder={words.filter.choose}
            value={value}
            onChange={(event) => {
              const next = [...shown];
              next[at] = event.target.value;
              onChange(next.filter((one, index) => one !== '' || index === at));
            }}
          />
        </span>
      ))}
      {several && shown.every((one) => one !== '') && (
        <Button
          size="sm"
          variant="link"
          aria-label={words.filter.orAnotherOf(place)}
          onClick={() => onChange([...shown, ''])}
        >
          {words.filter.orAnother}
        </Button>
      )}
      <datalist id={list}>
        {options.map((one) => (
          <option key={one.value} value={one.value}>
            {one.people === undefined ? undefined : words.groups.people(one.people)}
          </option>
        ))}
      </datalist>
    </>
  );
}
