import { useSyncExternalStore } from 'react';

const QUIET = 1000;

let settled = true;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function tell(now: boolean): void {
  settled = now;
  for (const listener of listeners) {
    listener();
  }
}

/** Something was done: what stands in its place for the next moment may be another thing. */
export function noteAct(): void {
  clearTimeout(timer);
  timer = setTimeout(() => tell(true), QUIET);
  tell(false);
}

/** Forgets the last act, where the next page has nothing to do with it. */
export function forgetAct(): void {
  clearTimeout(timer);
  tell(true);
}

/**
 * Whether the page has stood still for a second since the last act, so that a second press of the
 * same place is not taken for a decision on whatever stands there now.
 */
export function useSettled(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => settled,
  );
}
