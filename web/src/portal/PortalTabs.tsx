import { DeskNavLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { words } from '../words/en';

/** Which parts of the portal section are there for the reader. */
export function usePortalParts() {
  const { has, signed } = useSession();
  const arranges = has('portal.arrange') || signed.ownsCollections;
  return {
    arranges,
    looks: has('portal.brand'),
    finds: has('portal.preview'),
    any: arranges || has('portal.brand') || has('portal.preview'),
  };
}

/** The parts of the portal section. */
export function PortalTabs() {
  const { arranges, looks, finds } = usePortalParts();
  if ([arranges, looks, finds].filter(Boolean).length < 2) {
    return null;
  }
  return (
    <nav className="tabs" aria-label={words.shell.portal}>
      {arranges && (
        <DeskNavLink to="/desk/portal" end>
          {words.arrange.tabs.arrange}
        </DeskNavLink>
      )}
      {looks && <DeskNavLink to="/desk/portal/brand">{words.arrange.tabs.brand}</DeskNavLink>}
      {looks && <DeskNavLink to="/desk/portal/emails">{words.letters.title}</DeskNavLink>}
      {arranges && <DeskNavLink to="/desk/portal/use">{words.arrange.tabs.use}</DeskNavLink>}
      {finds && <DeskNavLink to="/desk/portal/where">{words.arrange.tabs.where}</DeskNavLink>}
    </nav>
  );
}
