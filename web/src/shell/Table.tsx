import { type ComponentProps, useEffect, useRef } from 'react';

/** A table whose rows stand one below the other on a phone, each cell with its column's name. */
export function Table({ className = '', children, ...rest }: ComponentProps<'table'>) {
  const table = useRef<HTMLTableElement>(null);
  useEffect(() => {
    const heads = [...(table.current?.tHead?.rows[0]?.cells ?? [])].map((head) =>
      (head.textContent ?? '').trim(),
    );
    for (const row of table.current?.tBodies[0]?.rows ?? []) {
      [...row.cells].forEach((cell, column) => {
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
