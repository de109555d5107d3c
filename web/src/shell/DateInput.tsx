import {
  type ComponentProps,
  lazy,
  type ReactNode,
  type RefObject,
  Suspense,
  useEffect,
  useId,
  useLayoutEffect,
  useRef,
  useState,
} from 'react';
import Form from 'react-bootstrap/Form';
import { Sign } from '../pictures/Picture';
import { words } from '../words/portal';
import { readDay, readTime } from './readTime';
import { useZone } from './session';
import { dayIn, isDay, tellDay, UNREADABLE } from './times';

// Only who opens it waits for it.
const Calendar = lazy(() => import('./Calendar'));

type Control = Omit<ComponentProps<typeof Form.Control>, 'onChange' | 'value' | 'type'>;

/**
 * Text that is read as something else while it is typed, and told in full once it is left. What
 * cannot be read is {@link UNREADABLE}, which no server takes; no form that holds it, or something
 * outside the range, is sent.
 */
function ReadInput({
  value,
  onChange,
  read,
  tell,
  fault,
  field,
  beside,
  isInvalid,
  'aria-describedby': describedBy,
  className,
  ...control
}: {
  value: string;
  onChange: (value: string) => void;
  read: (text: string) => string;
  tell: (value: string) => string;
  /** What is wrong with a value, if anything is. */
  fault: (value: string) => string | undefined;
  field: RefObject<HTMLInputElement | null>;
  beside?: ReactNode;
} & Control) {
  const id = useId();
  const told = (one: string) => (one === '' || one === UNREADABLE ? '' : tell(one));
  const [typed, setTyped] = useState(told(value));
  const [known, setKnown] = useState(value);
  const [left, setLeft] = useState(false);
  // Another value was set from outside: what was half typed goes with what was said of it.
  if (value !== known) {
    setKnown(value);
    if (read(typed) !== value) {
      setTyped(told(value));
      setLeft(false);
    }
  }
  const found = fault(value);
  const wrong = left ? found : undefined;
  return (
    <>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: it only watches the focus leave */}
      <span
        className={`read-field ${isInvalid || wrong !== undefined ? 'is-invalid' : ''}`}
        onBlur={(event) => {
          const to = event.relatedTarget;
          if (!(to instanceof Node && event.currentTarget.contains(to))) {
            setLeft(true);
            if (value !== UNREADABLE) {
              setTyped(told(value));
            }
          }
        }}
      >
        <Form.Control
          {...control}
          ref={field}
          type="text"
          autoComplete="off"
          className={className}
          value={typed}
          isInvalid={isInvalid || wrong !== undefined}
          aria-invalid={isInvalid || wrong !== undefined}
          aria-describedby={
            [describedBy, wrong === undefined ? undefined : `${id}-wrong`]
              .filter(Boolean)
              .join(' ') || undefined
          }
          data-unfinished={found === undefined ? undefined : ''}
          onChange={(event) => {
            const next = read(event.target.value);
            setTyped(event.target.value);
            setKnown(next);
            if (next !== value) {
              onChange(next);
            }
            // While somebody is typing, nothing is wrong yet; what was said goes once it is right.
            if (fault(next) === undefined) {
              setLeft(false);
            }
          }}
        />
        {beside}
      </span>
      {wrong !== undefined && (
        <div id={`${id}-wrong`} className="invalid-feedback" role="alert">
          {wrong}
        </div>
      )}
    </>
  );
}

/** A day, as ISO 8601, or empty for none: typed as a person writes one, or chosen from a month. */
export function DateInput({
  named,
  min,
  max,
  ...rest
}: {
  /** The field's label, which names its calendar too. */
  named: string;
  value: string;
  onChange: (day: string) => void;
  min?: string;
  max?: string;
} & Control) {
  const field = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState(false);
  // A range whose own end is not readable yet bounds nothing.
  const bounds = {
    min: min !== undefined && isDay(min) ? min : undefined,
    max: max !== undefined && isDay(max) ? max : undefined,
  };
  const today = dayIn(useZone(), new Date());
  const close = () => {
    setOpen(false);
    field.current?.focus({ preventScroll: true });
  };
  return (
    <ReadInput
      {...rest}
      field={field}
      className="mono"
      placeholder={words.shell.dayLike(tellDay(`${today.slice(0, 4)}-12-31`))}
      read={readDay}
      tell={tellDay}
      fault={(day) =>
        day === UNREADABLE
          ? words.shell.dayUnreadable(tellDay(today))
          : day !== '' && bounds.min !== undefined && day < bounds.min
            ? words.shell.dayFrom(tellDay(bounds.min))
            : day !== '' && bounds.max !== undefined && day > bounds.max
              ? words.shell.dayUpTo(tellDay(bounds.max))
              : undefined
      }
      beside={
        <>
          <button
            type="button"
            aria-label={words.shell.calendarFor(named)}
            aria-expanded={open}
            disabled={rest.disabled}
            onClick={() => setOpen(!open)}
          >
            <Sign name="day" size={18} />
          </button>
          {open && (
            <Months field={field} onClose={close}>
              <Calendar
                {...bounds}
                value={isDay(rest.value) ? rest.value : undefined}
                today={today}
                onChoose={(day) => {
                  rest.onChange(day);
                  close();
                }}
              />
            </Months>
          )}
        </>
      }
    />
  );
}

/** What opens at a field, below it where there is room. */
function Months({
  field,
  onClose,
  children,
}: {
  field: RefObject<HTMLInputElement | null>;
  onClose: () => void;
  children: ReactNode;
}) {
  const own = useRef<HTMLDialogElement>(null);
  const [place, setPlace] = useState<{ left: number; top: number }>();
  useLayoutEffect(() => {
    const put = () => {
      const by = field.current?.getBoundingClientRect();
      const { offsetWidth = 0, offsetHeight = 0 } = own.current ?? {};
      if (by !== undefined) {
        const below = by.bottom + 4;
        setPlace({
          left: Math.max(8, Math.min(by.left, innerWidth - offsetWidth - 8)),
          top:
            below + offsetHeight + 8 <= innerHeight
              ? below
              : Math.max(8, by.top - offsetHeight - 4),
        });
      }
    };
    put();
    const watch = new ResizeObserver(put);
    if (own.current !== null) {
      watch.observe(own.current);
    }
    window.addEventListener('scroll', put, true);
    window.addEventListener('resize', put);
    return () => {
      watch.disconnect();
      window.removeEventListener('scroll', put, true);
      window.removeEventListener('resize', put);
    };
  }, [field]);
  const leave = useRef(onClose);
  leave.current = onClose;
  useEffect(() => {
    const away = (event: Event) => {
      if (event.target instanceof Node && !own.current?.parentElement?.contains(event.target)) {
        leave.current();
      }
    };
    document.addEventListener('pointerdown', away);
    return () => document.removeEventListener('pointerdown', away);
  }, []);
  return (
    <dialog
      ref={own}
      open
      className="months"
      aria-label={words.shell.calendar}
      style={place ?? { visibility: 'hidden', left: 0, top: 0 }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') {
          event.preventDefault();
          event.stopPropagation();
          onClose();
        }
      }}
    >
      <Suspense fallback={<div className="skeleton" />}>{children}</Suspense>
    </dialog>
  );
}

/** A time of day, as "18:30", or empty for none. */
export function TimeInput(props: { value: string; onChange: (time: string) => void } & Control) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <ReadInput
      {...props}
      field={field}
      className="mono time"
      placeholder={words.shell.dayLike('18:30')}
      read={readTime}
      tell={(time) => time}
      fault={(time) => (time === UNREADABLE ? words.shell.timeUnreadable : undefined)}
    />
  );
}
