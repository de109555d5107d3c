import Form from 'react-bootstrap/Form';

/** A day, or none. */
export function DayField({
  id,
  label,
  value,
  onChange,
  wrong,
}: {
  id: string;
  label: string;
  value: string | null;
  onChange: (day: string | null) => void;
  wrong?: string;
}) {
  return (
    <Form.Group className="field" controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        type="date"
        value={value ?? ''}
        isInvalid={wrong !== undefined}
        onChange={(event) => onChange(event.target.value === '' ? null : event.target.value)}
      />
      {wrong !== undefined && (
        <div className="invalid-feedback" role="alert">
          {wrong}
        </div>
      )}
    </Form.Group>
  );
}
