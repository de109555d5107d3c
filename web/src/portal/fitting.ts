import type { Schemas } from '../api/client';

type Section = Schemas['SectionView'];

/** Without accents and case, as people type in a hurry. */
export function bare(text: string): string {
  return text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/ø/g, 'o')
    .replace(/æ/g, 'ae')
    .replace(/ß/g, 'ss');
}

/**
 * The sections with those tiles whose name or line has every typed word at the beginning of one of
 * its own; names that begin with the text stand first, and no tile stands twice.
 */
export function fitting(sections: Section[], text: string): Section[] {
  const wanted = bare(text).split(/\s+/).filter(Boolean);
  if (wanted.length === 0) {
    return sections;
  }
  const seen = new Set<string>();
  const found: Section[] = [];
  for (const section of sections) {
    const tiles = section.tiles.filter((tile) => {
      const own = bare(`${tile.name} ${tile.line}`).split(/[\s,.·-]+/);
      const fits = wanted.every((word) => own.some((one) => one.startsWith(word)));
      return fits && !seen.has(tile.id) && seen.add(tile.id);
    });
    if (tiles.length > 0) {
      found.push({ ...section, tiles });
    }
  }
  const begins = (section: Section) =>
    section.tiles.some((tile) => bare(tile.name).startsWith(wanted[0] ?? ''));
  return [
    ...found.filter(begins).map((section) => ({
      ...section,
      tiles: [...section.tiles].sort(
        (one, other) =>
          Number(bare(other.name).startsWith(wanted[0] ?? '')) -
          Number(bare(one.name).startsWith(wanted[0] ?? '')),
      ),
    })),
    ...found.filter((section) => !begins(section)),
  ];
}
