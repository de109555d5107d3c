import { TextField } from '../shell/TextField';

/** A day, or none. */
export function DayField({
  value,
  onChange,
  ...rest
}: {
  id: string;
  label: string;
  value: string | null;
  onChange: (day: string | null) => void;
  wrong?: string;
}) {
  return (
    <TextField
      {...rest}
      type="date"
      value={value ?? ''}
      onChange={(day) => onChange(day === '' ? null : day)}
    />
  );
}
