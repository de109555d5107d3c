import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { words } from '../words/en';
import { Table } from './Table';

/** What a form was opened on, and what to do where somebody else has changed that since. */
export type Stale<T> = {
  /** What the reader saw when they began; sent with the act, so that nothing is overwritten. */
  base: T;
  /** Theirs and yours side by side; null while nobody has changed it. */
  note: ReactNode;
  /** Whether that must be answered first. */
  blocked: boolean;
};

function same(one: unknown, other: unknown): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}

function keys<T extends object>(of: T): (keyof T)[] {
  return Object.keys(of) as (keyof T)[];
}

/** Mine where I have changed it, theirs elsewhere. */
export function keepingMine<T extends object>(base: T, theirs: T, mine: T): T {
  const found = { ...mine };
  for (const key of keys(mine)) {
    if (same(mine[key], base[key])) {
      found[key] = theirs[key];
    }
  }
  return found;
}

/** Theirs where they have changed it, mine elsewhere. */
export function takingTheirs<T extends object>(base: T, theirs: T, mine: T): T {
  const found = { ...mine };
  for (const key of keys(mine)) {
    if (!same(theirs[key], base[key])) {
      found[key] = theirs[key];
    }
  }
  return found;
}

/**
 * Watches a form's thing while it is open.
 *
 * @param now what stands there now, part by part
 * @param wanted what is typed
 * @param labels what the parts are called; parts without a label are not told
 * @param tell a part's value in words
 */
export function useStale<T extends object>({
  now,
  wanted,
  onChange,
  kept,
  labels,
  tell = (_, value) => String(value),
}: {
  now: T;
  wanted: T;
  onChange: (wanted: T) => void;
  /** What stood there when the form was opened, where that is kept with what is typed. */
  kept?: { base: T; setBase: (base: T) => void };
  labels: Partial<Record<keyof T, string>>;
  tell?: <K extends keyof T>(part: K, value: T[K]) => string;
}): Stale<T> {
  const [opened, setOpened] = useState(now);
  const base = kept?.base ?? opened;
  const setBase = kept?.setBase ?? setOpened;
  const moved = keys(now).filter((part) => !same(now[part], base[part]));
  if (moved.length === 0) {
    return { base, note: null, blocked: false };
  }
  if (moved.every((part) => same(now[part], wanted[part]))) {
    // It is now what is typed here, by whomever: there is nothing to choose.
    setBase(now);
    return { base: now, note: null, blocked: false };
  }
  const go = (next: T) => {
    onChange(next);
    setBase(now);
  };
  return {
    base,
    blocked: true,
    note: (
      <section className="note wait stale" role="alert" aria-label={words.stale.title}>
        <b>{words.stale.title}</b>
        <Table>
          <thead>
            <tr>
              <th scope="col">
                <span className="visually-hidden">{words.stale.part}</span>
              </th>
              <th scope="col">{words.stale.theirs}</th>
              <th scope="col">{words.stale.yours}</th>
            </tr>
          </thead>
          <tbody>
            {moved.map((part) => (
              <tr key={String(part)}>
                <th scope="row">{labels[part] ?? String(part)}</th>
                <td>{tell(part, now[part]) || words.stale.empty}</td>
                <td>
                  {same(wanted[part], base[part])
                    ? words.stale.untouched
                    : tell(part, wanted[part]) || words.stale.empty}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
        <div className="bar">
          <Button
            variant="outline-primary"
            size="sm"
            onClick={() => go(takingTheirs(base, now, wanted))}
          >
            {words.stale.take}
          </Button>
          <Button
            variant="outline-primary"
            size="sm"
            onClick={() => go(keepingMine(base, now, wanted))}
          >
            {words.stale.keep}
          </Button>
        </div>
      </section>
    ),
  };
}
