import type { Schemas } from '../api/client';

/**
 * What stays in this browser of a person, and only where they have said that the device is theirs
 * alone: the front page as it was last, for when there is no network. Signing out takes it away.
 */
const OWNER = 'eleutheria-owner';
const KEPT = 'eleutheria-front';

export type KeptFront = { at: string; view: Schemas['FrontView'] };

export function isOwn(person: string): boolean {
  return localStorage.getItem(OWNER) === person;
}

/** The person says that this device is theirs, or no longer. */
export function setOwn(person: string, own: boolean): void {
  forget();
  if (own) {
    localStorage.setItem(OWNER, person);
  }
}

/** Nothing of anybody stays. */
export function forget(): void {
  localStorage.removeItem(OWNER);
  localStorage.removeItem(KEPT);
}

/** Keeps a front page, if it is that of the person whose device this is. */
export function keepFront(view: Schemas['FrontView'], at: Date): void {
  const person = view.session.signed?.person;
  if (person === undefined) {
    return;
  }
  if (!isOwn(person)) {
    // Somebody else has signed in here: the device is not one person's alone.
    forget();
    return;
  }
  try {
    localStorage.setItem(KEPT, JSON.stringify({ at: at.toISOString(), view } satisfies KeptFront));
  } catch {
    // No room for it: then there is none without network.
    localStorage.removeItem(KEPT);
  }
}

/** The front page as it was last, if this is somebody's own device. */
export function keptFront(): KeptFront | undefined {
  const owner = localStorage.getItem(OWNER);
  const text = localStorage.getItem(KEPT);
  if (owner === null || text === null) {
    return undefined;
  }
  try {
    const kept = JSON.parse(text) as KeptFront;
    return kept.view.session.signed?.person === owner ? kept : undefined;
  } catch {
    return undefined;
  }
}
