/** How many slips a typed word may have: none below four letters, two from eight on. */
export function slips(word: string): number {
  const letters = [...word].length;
  return letters < 4 ? 0 : letters < 8 ? 1 : 2;
}

/**
 * The least Damerau–Levenshtein distance (letters left out, put in, changed, or two neighbours
 * changed over) between a typed word and any beginning of another, so that a word is found while it
 * is typed; `most + 1` where it is more than `most`.
 */
export function nearness(typed: string, word: string, most: number): number {
  const a = [...typed];
  // What is longer than the typed word by more than that cannot come nearer.
  const b = [...word].slice(0, a.length + most);
  if (a.length - b.length > most) {
    return most + 1;
  }
  const far = a.length + b.length;
  const lastRow = new Map<string, number>();
  const rows: number[][] = [];
  // Row and column 0 stand for "before anything", so that a swap at the beginning has a place.
  rows.push(new Array<number>(b.length + 2).fill(far));
  rows.push([far, ...Array.from({ length: b.length + 1 }, (_, j) => j)]);
  for (let i = 1; i <= a.length; i += 1) {
    const row = [far, i];
    let lastColumn = 0;
    for (let j = 1; j <= b.length; j += 1) {
      const swapRow = lastRow.get(b[j - 1] ?? '') ?? 0;
      const swapColumn = lastColumn;
      const same = a[i - 1] === b[j - 1];
      if (same) {
        lastColumn = j;
      }
      const above = rows[i] as number[];
      const swapped =
        ((rows[swapRow] as number[])[swapColumn] ?? far) +
        (i - swapRow - 1) +
        1 +
        (j - swapColumn - 1);
      row.push(
        Math.min(
          (above[j] ?? far) + (same ? 0 : 1),
          (above[j + 1] ?? far) + 1,
          (row[j] ?? far) + 1,
          swapped,
        ),
      );
    }
    lastRow.set(a[i - 1] ?? '', i);
    rows.push(row);
  }
  const last = rows[a.length + 1] as number[];
  return Math.min(most + 1, ...last.slice(1));
}
