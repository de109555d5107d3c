import type { Schemas } from '../api/client';

/**
 * What stays in this browser of a person, and only where they have said that the device is theirs
 * alone: the front page as it was last, for when there is no network. Signing out takes it away.
 */
const OWNER = 'eleutheria-owner';
const KEPT = 'eleutheria-front';

/** What the browser has under a name; nothing where it keeps nothing at all. */
function read(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
}

/** Puts something under a name, or takes it away; whether that could be done. */
function write(name: string, text: string | null): boolean {
  try {
    if (text === null) {
      localStorage.removeItem(name);
    } else {
      localStorage.setItem(name, text);
    }
    return true;
  } catch {
    return false;
  }
}

export type KeptFront = { at: string; view: Schemas['FrontView'] };

export function isOwn(person: string): boolean {
  return read(OWNER) === person;
}

/** The person says that this device is theirs, or no longer. */
export function setOwn(person: string, own: boolean): void {
  forget();
  if (own) {
    write(OWNER, person);
  }
}

/** Nothing of anybody stays. */
export function forget(): void {
  write(OWNER, null);
  write(KEPT, null);
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
  const text = JSON.stringify({ at: at.toISOString(), view } satisfies KeptFront);
  if (!write(KEPT, text)) {
    // No room for it: then there is none without network, rather than an old one.
    write(KEPT, null);
  }
}

/** The front page as it was last, if this is somebody's own device. */
export function keptFront(): KeptFront | undefined {
  const owner = read(OWNER);
  const text = read(KEPT);
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
