import { DeskNavLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { words } from '../words/en';

/** The parts of the people section. */
export function DirectoryTabs() {
  const { has } = useSession();
  const reads = has('people.read');
  return (
    <nav className="tabs" aria-label={words.shell.people}>
      {reads && <DeskNavLink to="/desk/people">{words.people.tabs.people}</DeskNavLink>}
      <DeskNavLink to="/desk/groups">{words.people.tabs.groups}</DeskNavLink>
      {has('people.import') && (
        <DeskNavLink to="/desk/deliveries">{words.people.tabs.deliveries}</DeskNavLink>
      )}
      {reads && <DeskNavLink to="/desk/attributes">{words.people.tabs.attributes}</DeskNavLink>}
    </nav>
  );
}
