import type { ComponentProps } from 'react';
import { TextField } from './TextField';

/** A field for some sentences. */
export function LongField(props: ComponentProps<typeof TextField>) {
  return <TextField {...props} as="textarea" rows={4} dir="auto" />;
}
