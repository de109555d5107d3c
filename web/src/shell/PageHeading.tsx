import { type ComponentProps, createContext, useContext, useEffect, useRef } from 'react';
import { useLocation } from 'react-router';
import { words } from '../words/portal';

/** The address at which the page was loaded; there the focus stays where the browser puts it. */
let shownAt: string | undefined;

/** Whether a page is shown within another, as a case on the docket is: it has the title then. */
export const Within = createContext(false);

/** What a page is about: its heading, the document's title, and where the focus goes when it opens. */
export function PageHeading({
  title,
  children,
  ...rest
}: {
  /** The document's title, where the heading alone does not tell one page from another. */
  title?: string;
} & ComponentProps<'h1'>) {
  const heading = useRef<HTMLHeadingElement>(null);
  const { pathname } = useLocation();
  const opened = useRef(pathname);
  const within = useContext(Within);
  useEffect(() => {
    if (within) {
      return;
    }
    const told = title ?? heading.current?.textContent ?? '';
    const whole = told === '' ? words.product : `${told.trim()} · ${words.product}`;
    if (document.title !== whole) {
      document.title = whole;
    }
  });
  useEffect(() => {
    if (within) {
      return;
    }
    const before = shownAt;
    shownAt = opened.current;
    if (before === undefined || before === opened.current) {
      return;
    }
    const at = document.activeElement;
    // Whoever has gone on already, into a field or an open dialog, is left there.
    if (at === null || at.closest('main, [role=dialog]') === null) {
      heading.current?.focus({ preventScroll: true });
    }
  }, [within]);
  const Heading = within ? 'h2' : 'h1';
  return (
    <Heading tabIndex={-1} {...rest} ref={heading}>
      {children}
    </Heading>
  );
}
