import type { Schemas } from '../api/client';
import { words } from '../words/portal';
import { type Tip, useOwnPortal } from './useOwnPortal';

const TIPS: Tip[] = ['TYPE', 'MENU', 'FORM'];

/** Up to three short tips for who is here first, one at a time; each is seen once. */
export function Tips({ own }: { own: Schemas['OwnView'] }) {
  const { seen } = useOwnPortal();
  const next = TIPS.find((tip) => !own.tips.includes(tip.toLowerCase()));
  return next === undefined ? null : (
    <aside className="tip" aria-label={words.portal.tip}>
      <span>{words.portal.tips[next]}</span>
      <button type="button" className="link" onClick={() => seen(next)}>
        {words.portal.tipSeen}
      </button>
    </aside>
  );
}
