/**
 * Carrying things to another place, by pointer or by keys, before anything is done: which lists
 * there are, what is carried, and where it would be put down.
 */
export type Lists = readonly { readonly id: string; readonly items: readonly string[] }[];

export type Carried = {
  /** In the order in which they lie. */
  items: readonly string[];
  /** Where they were taken from. */
  from: string;
  /** Where they would be put down: behind how many of what is not carried. */
  list: string;
  index: number;
};

function rest(lists: Lists, list: string, carried: readonly string[], from: string): string[] {
  const found = lists.find((one) => one.id === list)?.items ?? [];
  // The same thing may lie in another list as well; only what is carried away from there is not.
  return list === from ? found.filter((item) => !carried.includes(item)) : [...found];
}

/** Takes things up where they lie. */
export function takeUp(lists: Lists, list: string, items: readonly string[]): Carried {
  const all = lists.find((one) => one.id === list)?.items ?? [];
  const inOrder = all.filter((item) => items.includes(item));
  const first = all.findIndex((item) => items.includes(item));
  return { items: inOrder, from: list, list, index: Math.max(0, first) };
}

export type Way = 'earlier' | 'later' | 'up' | 'down';

/** One step with the keys: among the things of a list, then into the list before or behind. */
export function step(lists: Lists, carried: Carried, way: Way): Carried {
  const at = lists.findIndex((one) => one.id === carried.list);
  const size = rest(lists, carried.list, carried.items, carried.from).length;
  const into = (index: number, end: boolean): Carried => {
    const list = lists[index];
    if (list === undefined) {
      return carried;
    }
    const there = rest(lists, list.id, carried.items, carried.from).length;
    return { ...carried, list: list.id, index: end ? there : 0 };
  };
  switch (way) {
    case 'earlier':
      return carried.index > 0 ? { ...carried, index: carried.index - 1 } : into(at - 1, true);
    case 'later':
      return carried.index < size ? { ...carried, index: carried.index + 1 } : into(at + 1, false);
    case 'up':
      return into(at - 1, true);
    case 'down':
      return into(at + 1, false);
  }
}

/** Over another thing: before it, or behind it where it is carried towards the end of its list. */
export function over(lists: Lists, carried: Carried, list: string, item: string | null): Carried {
  const others = rest(lists, list, carried.items, carried.from);
  if (item === null) {
    return { ...carried, list, index: others.length };
  }
  const index = others.indexOf(item);
  if (index < 0) {
    return carried;
  }
  const all = lists.find((one) => one.id === list)?.items ?? [];
  const wasBefore =
    list === carried.from && all.indexOf(carried.items[0] ?? '') < all.indexOf(item);
  return { ...carried, list, index: wasBefore ? index + 1 : index };
}

/** What stands in a list while something is carried; null where it would be put down. */
export function preview(lists: Lists, carried: Carried, list: string): (string | null)[] {
  const others: (string | null)[] = rest(lists, list, carried.items, carried.from);
  if (list === carried.list) {
    others.splice(carried.index, 0, null);
  }
  return others;
}

/** Behind which thing it would be put down; null for the first place. */
export function behind(lists: Lists, carried: Carried): string | null {
  const others = rest(lists, carried.list, carried.items, carried.from);
  return carried.index === 0 ? null : (others[carried.index - 1] ?? null);
}

/** Whether putting it down would leave all as it is. */
export function staysPut(lists: Lists, carried: Carried): boolean {
  if (carried.list !== carried.from) {
    return false;
  }
  const all = lists.find((one) => one.id === carried.from)?.items ?? [];
  const others = rest(lists, carried.from, carried.items, carried.from);
  const wanted = [
    ...others.slice(0, carried.index),
    ...carried.items,
    ...others.slice(carried.index),
  ];
  return wanted.every((item, index) => item === all[index]);
}
