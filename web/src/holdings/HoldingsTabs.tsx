import { DeskNavLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { words } from '../words/en';

/** The parts of the holdings section. */
export function HoldingsTabs() {
  const { has, signed } = useSession();
  return (
    <nav className="tabs" aria-label={words.shell.holdings}>
      <DeskNavLink to="/desk/holdings" end>
        {words.holdings.tabs.map}
      </DeskNavLink>
      <DeskNavLink to="/desk/queries">{words.holdings.tabs.queries}</DeskNavLink>
      <DeskNavLink to="/desk/hints">{words.holdings.tabs.hints}</DeskNavLink>
      {(has('use.read') || signed.ownsApps) && (
        <DeskNavLink to="/desk/use">{words.holdings.tabs.use}</DeskNavLink>
      )}
    </nav>
  );
}
