import { useSyncExternalStore } from 'react';

/** Since when what is shown is only a kept copy; undefined while the server answers. */
let keptAt: string | undefined;
const listeners = new Set<() => void>();

export function shownFromKept(at: string | undefined): void {
  if (at !== keptAt) {
    keptAt = at;
    for (const each of listeners) {
      each();
    }
  }
}

/** When the copy was made that is shown because there is no network. */
export function useKeptAt(): string | undefined {
  return useSyncExternalStore(
    (changed) => {
      listeners.add(changed);
      return () => listeners.delete(changed);
    },
    () => keptAt,
  );
}
