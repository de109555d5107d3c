import type { ComponentProps } from 'react';
import Form from 'react-bootstrap/Form';

type Control = Omit<ComponentProps<typeof Form.Control>, 'onChange' | 'isInvalid' | 'value' | 'id'>;

/** A field with its label, and what is wrong with what stands in it. */
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
  return (
    <Form.Group className="field" controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        {...control}
        value={value}
        isInvalid={wrong !== undefined}
        aria-describedby={help === undefined ? undefined : `${id}-help`}
        onChange={(event) => onChange(event.target.value)}
      />
      {help !== undefined && (
        <Form.Text id={`${id}-help`} className="dim">
          {help}
        </Form.Text>
      )}
      {wrong !== undefined && (
        <Form.Control.Feedback type="invalid" role="alert">
          {wrong}
        </Form.Control.Feedback>
      )}
    </Form.Group>
  );
}
