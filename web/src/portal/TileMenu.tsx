import { useNavigate } from 'react-router';
import type { Schemas } from '../api/client';
import { type Item, Menu } from '../shell/Menu';
import { words } from '../words/portal';
import { useOwnPortal } from './useOwnPortal';

/** What opens over the page for a tile. */
export type About = 'why' | 'report' | 'hand back';

/** What a person can do with one tile. */
export function TileMenu({
  tile,
  close,
  inClose,
  anchor,
  onAbout,
  onClose,
}: {
  tile: Schemas['TileView'];
  /** What is pinned, in its order. */
  close: string[];
  /** Whether it was opened among what is pinned. */
  inClose: boolean;
  anchor: HTMLElement;
  onAbout: (about: About) => void;
  onClose: () => void;
}) {
  const portal = useOwnPortal();
  const navigate = useNavigate();
  const at = close.indexOf(tile.id);
  const ask = tile.offered;
  const whom = tile.whom[0] ?? tile.contact;
  const items: (Item | false)[] = [
    ask !== null && { name: words.portal.askFor(tile.name), act: () => navigate(`/ask/${ask}`) },
    ask === null &&
      (at < 0
        ? { name: words.portal.pin, act: () => portal.keep(tile.id, close.at(-1) ?? null) }
        : { name: words.portal.unpin, act: () => portal.letGo(tile.id) }),
    inClose &&
      at > 0 && {
        name: words.portal.sooner,
        act: () => portal.keep(tile.id, close[at - 2] ?? null),
      },
    inClose &&
      at >= 0 &&
      at < close.length - 1 && {
        name: words.portal.later,
        act: () => portal.keep(tile.id, close[at + 1] ?? null),
      },
    ask === null && { name: words.portal.why, act: () => onAbout('why') },
    whom !== '' && { name: words.portal.whomItem(whom), act: () => onAbout('why') },
    ask === null && { name: words.portal.report, act: () => onAbout('report') },
    ask === null && { name: words.portal.handBack, act: () => onAbout('hand back'), apart: true },
  ];
  return (
    <Menu
      label={words.portal.moreOf(tile.name)}
      anchor={anchor}
      items={items.filter((item) => item !== false)}
      onClose={onClose}
    />
  );
}

/** What a person can do with one section. */
export function SectionMenu({
  section,
  anchor,
  onHide,
  onClose,
}: {
  section: Schemas['SectionView'];
  anchor: HTMLElement;
  onHide: (collection: string) => void;
  onClose: () => void;
}) {
  return (
    <Menu
      label={words.portal.moreOfSection(section.name)}
      anchor={anchor}
      items={[{ name: words.portal.hide, act: () => onHide(section.id ?? '') }]}
      onClose={onClose}
    />
  );
}
