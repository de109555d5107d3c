import type { Schemas } from '../api/client';
import { words } from '../words/portal';
import { type Hint, useOwnPortal } from './useOwnPortal';

const HINTS: Hint[] = ['TYPE', 'MENU', 'FORM'];

/** Up to three short tips for who is here first, one at a time; each is seen once. */
export function Tips({ own }: { own: Schemas['OwnView'] }) {
  const { seen } = useOwnPortal();
  const next = HINTS.find((hint) => !own.hints.includes(hint.toLowerCase()));
  return next === undefined ? null : (
    <aside className="hint" aria-label={words.portal.hint}>
      <span>{words.portal.hints[next]}</span>
      <button type="button" className="link" onClick={() => seen(next)}>
        {words.portal.hintSeen}
      </button>
    </aside>
  );
}
