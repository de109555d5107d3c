import { type ReactNode, useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Problem } from '../api/client';
import { words } from '../words/portal';

/** What is seen before anybody is known; the page itself (index.html) begins with the same. */
export function FirstPaint() {
  return (
    <div className="portal" aria-busy="true">
      <div className="band first">
        <svg
          width="28"
          height="28"
          viewBox="0 0 24 24"
          fill="none"
          strokeLinecap="round"
          aria-hidden="true"
        >
          <path d="M17.5 5.2A9 9 0 1 0 21 12" stroke="#f2a900" strokeWidth="3" />
          <path d="M12 12 21 3" stroke="#fff" strokeWidth="2.4" />
        </svg>
        <p role="status">{words.shell.first}</p>
      </div>
      <main>
        <ul className="tiles" aria-hidden>
          {[1, 2, 3, 4, 5, 6, 7, 8].map((place) => (
            <li key={place} className="skeleton" />
          ))}
        </ul>
      </main>
    </div>
  );
}

/** The shape of what comes, and for screen readers what is being waited for. */
export function Loading({ what, lines = 6 }: { what: string; lines?: number }) {
  return (
    <div role="status" className="page" aria-busy="true">
      <span className="visually-hidden">{words.shell.loading(what)}</span>
      {Array.from({ length: lines }, (_, line) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: the lines are all alike
          key={line}
          className="skeleton"
          style={{ width: `${90 - ((line * 17) % 45)}%`, marginBottom: '0.9rem' }}
        />
      ))}
    </div>
  );
}

/** What could not be read, and what to do. */
export function Failure({ error, again }: { error: unknown; again?: () => unknown }) {
  const problem = error instanceof Problem ? error : undefined;
  const title =
    problem?.view.status === 403
      ? words.shell.refusedTitle
      : problem?.view.status === 404
        ? words.shell.absentTitle
        : words.shell.failedTitle;
  return (
    <div className="empty" role="alert" data-failure>
      <h2>{title}</h2>
      <p>{error instanceof Error ? error.message : String(error)}</p>
      {again !== undefined && problem?.view.status !== 403 && problem?.view.status !== 404 && (
        <Button variant="outline-primary" onClick={() => again()}>
          {words.shell.again}
        </Button>
      )}
    </div>
  );
}

export function Empty({
  title,
  children,
  action,
}: {
  title: string;
  children?: ReactNode;
  action?: ReactNode;
}) {
  return (
    <div className="empty">
      <h2>{title}</h2>
      {children !== undefined && <p>{children}</p>}
      {action}
    </div>
  );
}

/**
 * Everything a refused act told, beside what its fields show themselves. The first field that is
 * wrong gets the focus; where there are several, each is gone to from here.
 */
export function ProblemNote({ error, fields = [] }: { error: unknown; fields?: string[] }) {
  const place = useRef<HTMLDivElement>(null);
  const [wrong, setWrong] = useState<{ id: string; label: string }[]>([]);
  const refused = error !== null && error !== undefined;
  useEffect(() => {
    if (error === null || error === undefined) {
      setWrong([]);
      return;
    }
    const note = place.current;
    const form = note?.closest('form, [role=dialog], .decide');
    const found = [...(form?.querySelectorAll<HTMLElement>('[aria-invalid=true]') ?? [])];
    setWrong(
      found
        .filter((field) => field.id !== '')
        .map((field) => ({ id: field.id, label: labelOf(field) })),
    );
    const first = found[0];
    if (first !== undefined) {
      first.focus();
    } else if (note?.textContent !== '') {
      note?.focus({ preventScroll: true });
      note?.scrollIntoView?.({ block: 'nearest' });
    }
  }, [error]);
  const sentences = !refused
    ? []
    : error instanceof Problem
      ? error.besides(fields)
      : [error instanceof Error ? error.message : String(error)];
  const told = sentences.length > 0 || wrong.length > 1;
  return (
    <div ref={place} tabIndex={-1} className={told ? 'note loss' : undefined} role="alert">
      {sentences.map((sentence) => (
        <div key={sentence}>{sentence}</div>
      ))}
      {wrong.length > 1 && (
        <div>
          {words.shell.toCorrect(wrong.length)}{' '}
          {wrong.map((one, index) => (
            <span key={one.id}>
              {index > 0 && ', '}
              <a
                href={`#${one.id}`}
                onClick={(event) => {
                  event.preventDefault();
                  document.getElementById(one.id)?.focus();
                }}
              >
                {one.label}
              </a>
            </span>
          ))}
        </div>
      )}
    </div>
  );
}

function labelOf(field: HTMLElement): string {
  return (
    field.getAttribute('aria-label') ??
    field.closest('.choices')?.querySelector('legend')?.textContent ??
    document.querySelector(`label[for="${CSS.escape(field.id)}"]`)?.textContent ??
    field.id
  );
}
