import type { Schemas } from '../api/client';
import { words } from '../words/en';

type Counts = Schemas['Counts'];

/** Numbers of people, side by side and never added: who gains, who loses, who only sees more. */
export function CountsLine({ counts, since }: { counts: Counts; since?: string }) {
  const parts: [keyof Counts, string][] = [
    ['gain', 'gain'],
    ['lose', 'loss'],
    ['ends', 'loss'],
    ['back', 'gain'],
    ['more', 'see'],
    ['less', 'see'],
    ['moved', 'see'],
    ['met', 'see'],
    ['conflicts', 'wait'],
    ['settled', 'see'],
  ];
  const told = parts.filter(([key]) => counts[key] > 0);
  return told.map(([key, look]) => (
    <b key={key} className={look}>
      {words.drafts.counts[key](counts[key])}
      {since !== undefined && ` ${words.drafts.fromDay(since)}`}
    </b>
  ));
}

export function isNothing(counts: Counts): boolean {
  return Object.values(counts).every((count) => count === 0);
}
