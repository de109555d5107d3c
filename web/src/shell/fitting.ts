import { nearness, slips } from './nearWords';

/** Without accents and case, as people type in a hurry. */
export function bare(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase()
    .replace(/ø/g, 'o')
    .replace(/đ/g, 'd')
    .replace(/ł/g, 'l')
    .replace(/æ/g, 'ae')
    .replace(/œ/g, 'oe')
    .replace(/ß/g, 'ss');
}

function wordsOf(text: string): string[] {
  return bare(text)
    .split(/[\s,.·/()-]+/)
    .filter(Boolean);
}

/** Where a word of a thing stands: what is in its name counts before all else. */
const NAME = 0;
const BESIDES = 1;

type Entry<T> = { thing: T; name: string; words: Map<string, number> };

/** Things with the words by which each is found, made once for many searches. */
export type Index<T> = { entries: Entry<T>[]; vocabulary: string[] };

export function indexed<T>(
  things: T[],
  name: (thing: T) => string,
  besides: (thing: T) => string[],
): Index<T> {
  const vocabulary = new Set<string>();
  const entries = things.map((thing) => {
    const words = new Map<string, number>();
    for (const word of wordsOf(besides(thing).join(' '))) {
      words.set(word, BESIDES);
    }
    for (const word of wordsOf(name(thing))) {
      words.set(word, NAME);
    }
    for (const word of words.keys()) {
      vocabulary.add(word);
    }
    return { thing, name: bare(name(thing)), words };
  });
  return { entries, vocabulary: [...vocabulary] };
}

/**
 * The words that a typed word fits, and how far off they are: those that it begins; or, where it
 * begins none at all, those nearest to it within the slips that its length allows.
 */
function fits(vocabulary: string[], typed: string): Map<string, number> {
  const found = new Map<string, number>();
  for (const word of vocabulary) {
    if (word.startsWith(typed)) {
      found.set(word, 0);
    }
  }
  let least = slips(typed);
  if (found.size > 0 || least === 0) {
    return found;
  }
  for (const word of vocabulary) {
    const distance = nearness(typed, word, least);
    if (distance < least) {
      found.clear();
      least = distance;
    }
    if (distance <= least) {
      found.set(word, distance);
    }
  }
  return found;
}

/**
 * The things in which every typed word fits a word. Those come first whose name begins with the
 * text, then those whose name has it, then the others, each in the given order. None where nothing
 * is typed.
 */
export function fitting<T>({ entries, vocabulary }: Index<T>, text: string): T[] {
  const typed = wordsOf(text);
  if (typed.length === 0) {
    return [];
  }
  const each = typed.map((word) => fits(vocabulary, word));
  const whole = bare(text).trim();
  const found: { thing: T; rank: number; at: number }[] = [];
  entries.forEach(({ thing, name, words }, at) => {
    let rank = 0;
    const all = each.every((fitted) => {
      let best: number | undefined;
      for (const [word, distance] of fitted) {
        const place = words.get(word);
        if (place !== undefined) {
          best = Math.min(best ?? Number.POSITIVE_INFINITY, place + 2 * distance);
        }
      }
      rank += best ?? 0;
      return best !== undefined;
    });
    if (all) {
      found.push({ thing, rank: name.startsWith(whole) ? -1 : rank, at });
    }
  });
  return found
    .sort((one, other) => one.rank - other.rank || one.at - other.at)
    .map(({ thing }) => thing);
}
