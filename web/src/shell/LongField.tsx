import type { ComponentProps } from 'react';
import { TextField } from './TextField';

/** A field for some sentences. */
export function LongField({ rows = 4, ...props }: ComponentProps<typeof TextField>) {
  return <TextField {...props} as="textarea" rows={rows} dir="auto" />;
}
