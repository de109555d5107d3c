import { describe, expect, it } from 'vitest';
import { allRows, csv, csvCell } from './download';

describe('CSV going out', () => {
  it('quotes what needs it', () => {
    expect(csv([['a', 'b,c', 'd"e', 'f\ng']])).toBe('a,"b,c","d""e","f\ng"\r\n');
  });

  it('never lets a spreadsheet run a cell', () => {
    for (const evil of ['=1+1', '+1', '-1', '@x', '\tx', '\rx']) {
      expect(csvCell(evil).replaceAll('"', '')).toBe(`'${evil}`);
    }
    expect(csvCell('Brekke, Oda')).toBe('"Brekke, Oda"');
  });

  it('fetches all pages, and stops when a list shrinks meanwhile', async () => {
    const all = Array.from({ length: 1200 }, (_, index) => index);
    const rows = await allRows(async (offset, limit) => ({
      total: 1200,
      rows: all.slice(offset, offset + limit),
    }));
    expect(rows).toEqual(all);
    expect(await allRows(async () => ({ total: 5, rows: [] }))).toEqual([]);
  });
});
