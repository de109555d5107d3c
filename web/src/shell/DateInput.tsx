import { type ComponentProps, useEffect, useId, useRef, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { words } from '../words/portal';
import { tellDay, UNREADABLE } from './times';

type Control = Omit<ComponentProps<typeof Form.Control>, 'onChange' | 'value' | 'type'>;

/**
 * A day, as ISO 8601, or empty for none. A day that is half typed or outside the range is neither:
 * the first is {@link UNREADABLE}, which no server takes, and no form that holds either is sent.
 */
export function DateInput({
  value,
  onChange,
  min,
  max,
  isInvalid,
  'aria-describedby': describedBy,
  ...control
}: {
  value: string;
  onChange: (day: string) => void;
  min?: string;
  max?: string;
} & Control) {
  const id = useId();
  const [wrong, setWrong] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  // Another day was set from outside: what was half typed goes with what was said of it.
  useEffect(() => {
    const typed = field.current;
    if (value !== UNREADABLE && typed !== null) {
      if (value === '' && typed.validity.badInput) {
        typed.value = '';
      }
      const { badInput, rangeUnderflow, rangeOverflow } = typed.validity;
      if (!badInput && !rangeUnderflow && !rangeOverflow) {
        setWrong(undefined);
      }
    }
  }, [value]);
  const look = (field: HTMLInputElement, left: boolean) => {
    const { badInput, rangeUnderflow, rangeOverflow } = field.validity;
    const day = badInput ? UNREADABLE : field.value;
    if (day !== value) {
      onChange(day);
    }
    // While somebody is typing, nothing is wrong yet.
    if (left || wrong !== undefined || !badInput) {
      setWrong(
        badInput
          ? words.shell.dayUnreadable
          : rangeUnderflow && min !== undefined
            ? words.shell.dayFrom(tellDay(min))
            : rangeOverflow && max !== undefined
              ? words.shell.dayUpTo(tellDay(max))
              : undefined,
      );
    }
  };
  const unreadable = value === UNREADABLE;
  return (
    <>
      <Form.Control
        {...control}
        ref={field}
        type="date"
        min={min}
        max={max}
        value={unreadable ? '' : value}
        isInvalid={isInvalid || wrong !== undefined}
        aria-invalid={isInvalid || wrong !== undefined}
        aria-describedby={
          [describedBy, wrong === undefined ? undefined : `${id}-wrong`]
            .filter(Boolean)
            .join(' ') || undefined
        }
        data-unfinished={unreadable || wrong !== undefined ? '' : undefined}
        onChange={(event) => look(event.target as HTMLInputElement, false)}
        onKeyUp={(event) => look(event.target as HTMLInputElement, false)}
        onBlur={(event) => look(event.target as HTMLInputElement, true)}
      />
      {wrong !== undefined && (
        <div id={`${id}-wrong`} className="invalid-feedback" role="alert">
          {wrong}
        </div>
      )}
    </>
  );
}
