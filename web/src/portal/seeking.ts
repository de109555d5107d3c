import type { Schemas } from '../api/client';
import { type Index, indexed } from '../shell/fitting';

type Tile = Schemas['TileView'];
type OwnLink = Schemas['OwnLinkView'];

const NO_LINKS: OwnLink[] = [];

/** What typing finds: a tile, or a link of one's own. */
export type Sought =
  | { id: string; tile: Tile; link?: undefined }
  | { id: string; link: OwnLink; tile?: undefined };

/** An index stays as long as the page that it is of. */
const made = new WeakMap<Schemas['SectionView'][], { links: OwnLink[]; index: Index<Sought> }>();

/** The tiles of a page, each once, by name, line, application and nicknames; then one's own links. */
export function seeking(
  sections: Schemas['SectionView'][],
  links: OwnLink[] = NO_LINKS,
): Index<Sought> {
  const known = made.get(sections);
  if (known?.links === links) {
    return known.index;
  }
  const all = new Map<string, Sought>();
  for (const section of sections) {
    for (const tile of section.tiles) {
      all.set(tile.id, all.get(tile.id) ?? { id: tile.id, tile });
    }
  }
  for (const link of links) {
    if (link.allowed) {
      all.set(link.id, { id: link.id, link });
    }
  }
  const index = indexed(
    [...all.values()],
    ({ tile, link }) => tile?.name ?? link?.name ?? '',
    ({ tile, link }) =>
      tile === undefined ? [link?.address ?? ''] : [tile.line, tile.app, ...tile.nicknames],
  );
  made.set(sections, { links, index });
  return index;
}
