import type { Schemas } from '../api/client';
import { addDays, dayIn, lastDay } from '../shell/times';

export type Fold = Schemas['FoldView'];
export type Span = 'today' | 'week' | 'later';

/** What was decided last, while it can still be taken back. */
export type Decided = { ids: string[]; sentence: string; until: number };

/** The folds by when they must be decided: until tonight, within a week, after that. */
export function bySpan(folds: Fold[], zone: string, now: Date): [Span, Fold[]][] {
  const today = dayIn(zone, now);
  const week = addDays(today, 7);
  const span = (fold: Fold): Span => {
    const day = lastDay(zone, fold.due);
    return day <= today ? 'today' : day <= week ? 'week' : 'later';
  };
  return (['today', 'week', 'later'] as const)
    .map((one): [Span, Fold[]] => [one, folds.filter((fold) => span(fold) === one)])
    .filter(([, found]) => found.length > 0);
}

/** A kind as addresses have it. */
export function wordOf(kind: Schemas['CaseLine']['kind']): string {
  return kind.toLowerCase();
}

/** The address of a fold; it is found again by any of its cases. */
export function addressOf(fold: Fold): string {
  const first = fold.cases[0];
  return first === undefined ? '/desk/docket' : `/desk/docket/${wordOf(first.kind)}/${first.id}`;
}

/** The one after a fold, or the one before where it is the last. */
export function neighbour(folds: Fold[], at: Fold | undefined, step: 1 | -1): Fold | undefined {
  const index = at === undefined ? -1 : folds.indexOf(at);
  return index < 0 ? folds[0] : folds[index + step];
}
