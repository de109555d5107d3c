import type { Schemas } from '../../api/client';
import { words } from '../../words/en';

/** A step as it is edited: who decides it, and how many days they have, as typed. */
export type Step = {
  seat: Schemas['StepShape']['seat'];
  of: string;
  name: string;
  days: string;
  /** A filter over answers and the requester's attributes; empty for always. */
  onlyIf: string;
};

export const LONGEST = 60;
export const MOST_STEPS = 6;

export const fresh: Step = { seat: 'OWNER', of: '', name: '', days: '14', onlyIf: '' };

export function stepsOf(shapes: Schemas['StepShape'][]): Step[] {
  return shapes.map((shape) => ({
    seat: shape.seat,
    of: shape.of ?? '',
    name: shape.name ?? '',
    days: String(shape.days),
    onlyIf: shape.onlyIf,
  }));
}

/** As they are sent; a step that says no number of days has none, and is refused. */
export function formsOf(steps: Step[]): (Schemas['StepForm'] & { days: number })[] {
  return steps.map((step) => ({
    seat: step.seat,
    of: step.of === '' ? null : step.of,
    days: /^\d{1,3}$/.test(step.days.trim()) ? Number(step.days) : 0,
    onlyIf: step.onlyIf,
  }));
}

/** Whether something is missing that only whoever types can say. */
export function whole(steps: Step[]): boolean {
  return (
    steps.some((step) => step.onlyIf === '') &&
    formsOf(steps).every((step) => step.days >= 1 && step.days <= LONGEST) &&
    steps.every((step) => !picks(step) || step.of !== '')
  );
}

/** Whether a step names somebody. */
export function picks(step: Step): boolean {
  return step.seat === 'NAMED' || step.seat === 'ANY_OF';
}

export function who(step: { seat: Step['seat']; name: string | null }): string {
  if (step.seat === 'ANY_OF') {
    return words.routes.anyOf(step.name ?? '');
  }
  return step.seat === 'NAMED' ? (step.name ?? '') : words.routes.seats[step.seat];
}

/** All of it in one line. */
export function told(
  steps: { seat: Step['seat']; name: string | null; condition?: { words: string } }[],
): string {
  const line = steps
    .map((step) =>
      (step.condition?.words ?? '') === ''
        ? who(step)
        : words.routes.onlyIfTold(who(step), step.condition?.words ?? ''),
    )
    .join(words.routes.next);
  return line.charAt(0).toLocaleUpperCase() + line.slice(1);
}
