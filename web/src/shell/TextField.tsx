import { type ComponentProps, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { DateInput, TimeInput } from './DateInput';

type Control = Omit<ComponentProps<typeof Form.Control>, 'onChange' | 'isInvalid' | 'value' | 'id'>;

/** A field with its label, and what is wrong with what stands in it until that is changed. */
export function TextField({
  id,
  label,
  value,
  onChange,
  wrong,
  help,
  ...control
}: {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  wrong?: string;
  help?: string;
} & Control) {
  // What is wrong is told until the field is changed, and anew with the next answer.
  const [corrected, setCorrected] = useState<string>();
  if (wrong === undefined && corrected !== undefined) {
    setCorrected(undefined);
  }
  const told = wrong === corrected ? undefined : wrong;
  const change = (next: string) => {
    setCorrected(wrong);
    onChange(next);
  };
  const common = {
    ...control,
    value,
    isInvalid: told !== undefined,
    'aria-invalid': told !== undefined,
    'aria-describedby':
      [
        help === undefined ? undefined : `${id}-help`,
        told === undefined ? undefined : `${id}-wrong`,
      ]
        .filter(Boolean)
        .join(' ') || undefined,
  };
  return (
    <Form.Group className="field" controlId={id}>
      <Form.Label>{label}</Form.Label>
      {control.type === 'date' ? (
        <DateInput
          {...common}
          named={label}
          min={control.min === undefined ? undefined : String(control.min)}
          max={control.max === undefined ? undefined : String(control.max)}
          onChange={change}
        />
      ) : control.type === 'time' ? (
        <TimeInput {...common} onChange={change} />
      ) : (
        <Form.Control {...common} onChange={(event) => change(event.target.value)} />
      )}
      {help !== undefined && (
        <Form.Text id={`${id}-help`} className="dim">
          {help}
        </Form.Text>
      )}
      {told !== undefined && (
        <Form.Control.Feedback id={`${id}-wrong`} type="invalid">
          {told}
        </Form.Control.Feedback>
      )}
    </Form.Group>
  );
}
