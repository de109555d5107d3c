import type { ReactNode } from 'react';
import { Uploaded } from '../pictures/Picture';
import { useSessionQuery } from '../shell/session';
import { words } from '../words/portal';

/**
 * Where people come in: what they do on one side, the organisation's picture on the other, and its
 * colour where it has none.
 *
 * @param below what may stand under it all
 */
export function Door({ children, below }: { children: ReactNode; below?: ReactNode }) {
  const session = useSessionQuery();
  const brand = session.data?.brand;
  return (
    <div className="door">
      <div className="door-in">
        <header className="org">
          {brand !== undefined && brand.mark !== '' && <Uploaded word={brand.mark} size={40} />}
          {session.data?.organisation ?? words.product}
        </header>
        <main>
          {brand !== undefined && brand.welcome !== '' && (
            <p className="welcome" dir="auto">
              {brand.welcome}
            </p>
          )}
          {children}
          {brand !== undefined && brand.help !== '' && (
            <p className="small dim" dir="auto">
              {words.portal.help} {brand.help}
            </p>
          )}
        </main>
        {below}
      </div>
      <div className="door-picture" style={{ background: brand?.band }}>
        {brand !== undefined && brand.door !== '' && <Uploaded word={brand.door} size={960} />}
      </div>
    </div>
  );
}
