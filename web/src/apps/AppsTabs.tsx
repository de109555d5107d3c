import { DeskNavLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { words } from '../words/en';

/** The parts of the applications section. */
export function AppsTabs() {
  const { has, signed } = useSession();
  const rules = has('access.rules') || has('access.except') || has('access.read');
  const apps = has('apps.read') || signed.ownsApps;
  const suggestions = has('apps.read') || signed.ownsListings;
  const routes = has('requests.configure');
  if ([rules, apps, suggestions, routes].filter(Boolean).length < 2) {
    return null;
  }
  return (
    <nav className="tabs" aria-label={words.shell.apps}>
      {apps && <DeskNavLink to="/desk/apps">{words.shell.apps}</DeskNavLink>}
      {suggestions && <DeskNavLink to="/desk/suggestions">{words.suggestions.title}</DeskNavLink>}
      {routes && <DeskNavLink to="/desk/routes">{words.routes.title}</DeskNavLink>}
      {routes && <DeskNavLink to="/desk/forms">{words.forms.title}</DeskNavLink>}
      {rules && <DeskNavLink to="/desk/rules">{words.rules.title}</DeskNavLink>}
    </nav>
  );
}
