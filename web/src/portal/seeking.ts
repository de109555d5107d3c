import type { Schemas } from '../api/client';
import { type Index, indexed } from '../shell/fitting';

type Tile = Schemas['TileView'];
type OwnLink = Schemas['OwnLinkView'];

/** What typing finds: a tile, or a link of one's own. */
export type Sought =
  | { id: string; tile: Tile; link?: undefined }
  | { id: string; link: OwnLink; tile?: undefined };

/** The tiles of a page, each once, by name, line, application and nicknames; then one's own links. */
export function seeking(sections: Schemas['SectionView'][], links: OwnLink[] = []): Index<Sought> {
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
  return indexed(
    [...all.values()],
    ({ tile, link }) => tile?.name ?? link?.name ?? '',
    ({ tile, link }) =>
      tile === undefined ? [link?.address ?? ''] : [tile.line, tile.app, ...tile.nicknames],
  );
}
