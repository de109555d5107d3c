import { useEffect, useRef, useState } from 'react';
import { words } from '../words/portal';

const SAID = 'said';

/** Says something to whoever listens to the page, wherever they are on it. */
export function say(text: string): void {
  window.dispatchEvent(new CustomEvent(SAID, { detail: text }));
}

/** The one place from which the page speaks. */
export function Said() {
  const [text, setText] = useState('');
  useEffect(() => {
    const hear = (event: Event) => {
      // The same again is said again.
      const wanted = String((event as CustomEvent).detail);
      setText((before) => (before === wanted ? `${wanted} ` : wanted));
    };
    window.addEventListener(SAID, hear);
    return () => window.removeEventListener(SAID, hear);
  }, []);
  return (
    <div role="status" className="visually-hidden" data-said>
      {text}
    </div>
  );
}

/** For a form that goes away when its act is done: says then what was done. */
export function useSaysDone(act: string, error: unknown): () => void {
  const sent = useRef<string>(undefined);
  useEffect(() => {
    if (error !== null && error !== undefined) {
      sent.current = undefined;
    }
  }, [error]);
  useEffect(
    () => () => {
      if (sent.current !== undefined) {
        say(words.shell.done(sent.current));
      }
    },
    [],
  );
  return () => {
    sent.current = act;
  };
}
