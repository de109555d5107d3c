/** The tiles of a page in their order, as the arrows go through them. */
function tilesOf(place: HTMLElement): HTMLElement[] {
  return [...place.querySelectorAll<HTMLElement>('.tiles .tile')].filter(
    (tile) => tile.offsetParent !== null,
  );
}

type Box = { left: number; right: number; top: number; bottom: number };

/**
 * Where an arrow leads: left and right in the order of the tiles, up and down to the nearest one in
 * the next row that there is.
 *
 * @param at which of them has the focus; -1 for none, and then any arrow leads to the first
 * @returns -1 where it leads nowhere
 */
export function arrowTo(key: string, boxes: Box[], at: number): number {
  if (key === 'Home') {
    return boxes.length > 0 ? 0 : -1;
  }
  if (key === 'End') {
    return boxes.length - 1;
  }
  const from = boxes[at];
  if (from === undefined) {
    return boxes.length > 0 ? 0 : -1;
  }
  if (key === 'ArrowLeft') {
    return at - 1;
  }
  if (key === 'ArrowRight') {
    return at + 1 < boxes.length ? at + 1 : -1;
  }
  const down = key === 'ArrowDown';
  const middle = (from.left + from.right) / 2;
  let best = -1;
  let row = 0;
  let off = 0;
  boxes.forEach((box, index) => {
    const beyond = down ? box.top >= from.bottom : box.bottom <= from.top;
    if (!beyond) {
      return;
    }
    const far = down ? box.top - from.bottom : from.top - box.bottom;
    const aside = Math.abs((box.left + box.right) / 2 - middle);
    if (best < 0 || far < row - 1 || (Math.abs(far - row) <= 1 && aside < off)) {
      best = index;
      row = far;
      off = aside;
    }
  });
  return best;
}

const ARROWS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End'];

/**
 * Moves the focus among the tiles by an arrow.
 *
 * @returns whether it was one that led somewhere
 */
export function steer(key: string, place: HTMLElement): boolean {
  if (!ARROWS.includes(key)) {
    return false;
  }
  const tiles = tilesOf(place);
  const at = tiles.findIndex(
    (tile) =>
      tile === document.activeElement || tile.parentElement?.contains(document.activeElement),
  );
  const to =
    tiles[
      arrowTo(
        key,
        tiles.map((tile) => tile.getBoundingClientRect()),
        at,
      )
    ];
  to?.focus();
  to?.scrollIntoView({ block: 'nearest' });
  return to !== undefined;
}
