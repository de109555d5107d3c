/** A cell of CSV (RFC 4180, section 2); what a spreadsheet would run is made plain text. */
export function csvCell(value: string): string {
  const safe = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

export function csv(rows: string[][]): string {
  return rows.map((row) => `${row.map(csvCell).join(',')}\r\n`).join('');
}

/** Gives a file to the person's browser. */
export function save(name: string, content: Blob): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}

/** Fetches all pages of a list, for a download of what is shown. */
export async function allRows<Row>(
  page: (offset: number, limit: number) => Promise<{ total: number; rows: Row[] }>,
): Promise<Row[]> {
  const rows: Row[] = [];
  for (;;) {
    const next = await page(rows.length, 500);
    rows.push(...next.rows);
    if (next.rows.length === 0 || rows.length >= next.total) {
      return rows;
    }
  }
}

export function saveCsv(name: string, rows: string[][]): void {
  save(`${name}.csv`, new Blob([csv(rows)], { type: 'text/csv;charset=utf-8' }));
}
