import { DeskNavLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { words } from '../words/en';

/** The parts of the applications section. */
export function AppsTabs() {
  const { has, signed } = useSession();
  const rules = has('access.rules') || has('access.except') || has('access.read');
  if (!rules) {
    return null;
  }
  return (
    <nav className="tabs" aria-label={words.shell.apps}>
      {(has('apps.read') || signed.ownsApps) && (
        <DeskNavLink to="/desk/apps">{words.shell.apps}</DeskNavLink>
      )}
      <DeskNavLink to="/desk/rules">{words.rules.title}</DeskNavLink>
    </nav>
  );
}
