import type { Schemas } from '../api/client';
import { fitting } from '../shell/fitting';
import { seeking } from './seeking';

type Section = Schemas['SectionView'];

export type Whereabouts = {
  section: Section;
  /** Which tile of its section, from 1. */
  place: number;
  /** What to type so that it is the first that is found; undefined if nothing does. */
  type: string | undefined;
};

/** Where somebody finds a tile on their page. */
export function whereIs(sections: Section[], tile: string): Whereabouts | undefined {
  for (const section of sections) {
    const at = section.tiles.findIndex((one) => one.id === tile);
    if (at >= 0) {
      return { section, place: at + 1, type: shortest(sections, tile, section.tiles[at]?.name) };
    }
  }
  return undefined;
}

/** The fewest first letters of its name that bring it to the front. */
function shortest(sections: Section[], tile: string, name = ''): string | undefined {
  const index = seeking(sections);
  for (let length = 1; length <= name.length; length++) {
    const text = name.slice(0, length);
    if (text.trim() === text && fitting(index, text)[0]?.id === tile) {
      return text.toLowerCase();
    }
  }
  return undefined;
}
