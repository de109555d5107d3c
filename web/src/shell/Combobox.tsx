import { type ComponentProps, type ReactNode, useId, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { words } from '../words/portal';

export type Option = { key: string; title: string; line: string };

/**
 * A field that finds things: arrows move over what was found, Enter takes one, Escape leaves it. The
 * focus stays in the field.
 */
export function Combobox<Found extends Option>({
  label,
  text,
  onText,
  options,
  onTake,
  nothing,
  more,
  field = {},
}: {
  label: string;
  text: string;
  onText: (text: string) => void;
  options: Found[];
  onTake: (option: Found) => void;
  /** What is said where nothing is found; undefined while that is not known. */
  nothing?: string;
  more?: ReactNode;
  field?: Omit<ComponentProps<typeof Form.Control>, 'value' | 'onChange'>;
}) {
  const list = useId();
  const [at, setAt] = useState(0);
  const [left, setLeft] = useState(false);
  const open = options.length > 0 && !left;
  const place = Math.min(at, options.length - 1);
  const take = (option: Found | undefined) => {
    if (option !== undefined) {
      setAt(0);
      onTake(option);
    }
  };
  return (
    <div className="combobox">
      <Form.Control
        {...field}
        type="text"
        role="combobox"
        autoComplete="off"
        aria-expanded={open}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={open ? `${list}-${place}` : undefined}
        value={text}
        onChange={(event) => {
          onText(event.target.value);
          setAt(0);
          setLeft(false);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            setLeft(false);
            setAt(
              Math.max(
                0,
                Math.min(place + (event.key === 'ArrowDown' ? 1 : -1), options.length - 1),
              ),
            );
          } else if (event.key === 'Enter' && open) {
            event.preventDefault();
            take(options[place]);
          } else if (event.key === 'Escape' && open) {
            // One level: what is found goes, the form stays.
            event.stopPropagation();
            setLeft(true);
          }
        }}
      />
      <div id={list} role="listbox" aria-label={label} className="found" hidden={!open}>
        {options.map((option, index) => (
          <div
            key={option.key}
            id={`${list}-${index}`}
            role="option"
            tabIndex={-1}
            aria-selected={index === place}
            className={index === place ? 'on' : undefined}
            onMouseEnter={() => setAt(index)}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => take(option)}
            onKeyDown={() => undefined}
          >
            <b>{option.title}</b> <span className="dim small">{option.line}</span>
          </div>
        ))}
      </div>
      <div role="status" className="dim small">
        {open ? (
          <span className="visually-hidden">{words.shell.foundSome(options.length)}</span>
        ) : (
          nothing
        )}
        {more}
      </div>
    </div>
  );
}
