import type { Schemas } from '../../api/client';
import { tellDay } from '../../shell/times';
import { words } from '../../words/en';

export type Collection = Schemas['CollectionView'];
export type Tile = Schemas['CuratedTile'];

export function days({ from, until }: { from: string | null; until: string | null }): string {
  return words.arrange.shownDays(
    from === null ? null : tellDay(from),
    until === null ? null : tellDay(until),
  );
}

/** What is wrong with a tile. */
export function Flags({ tile }: { tile: Tile }) {
  return tile.flags.map((flag) => (
    <span key={flag} className="tag wait" title={words.arrange.flagsLong[flag]?.(tile.app.name)}>
      {words.arrange.flags[flag] ?? flag}
    </span>
  ));
}
