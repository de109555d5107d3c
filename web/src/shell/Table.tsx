import { type ComponentProps, useEffect, useRef } from 'react';

/** A table whose rows stand one below the other on a phone, each cell with its column's name. */
export function Table({ className = '', children, ...rest }: ComponentProps<'table'>) {
  const table = useRef<HTMLTableElement>(null);
  useEffect(() => {
    const cells = (row: Element | null | undefined) =>
      row === null || row === undefined ? [] : [...row.querySelectorAll<HTMLElement>('th, td')];
    const heads = cells(table.current?.querySelector('thead tr')).map((head) =>
      (head.textContent ?? '').trim(),
    );
    for (const row of table.current?.querySelectorAll('tbody tr') ?? []) {
      cells(row).forEach((cell, column) => {
        cell.dataset.head = heads[column] ?? '';
      });
    }
  });
  return (
    <table {...rest} ref={table} className={`plain ${className}`.trim()}>
      {children}
    </table>
  );
}
