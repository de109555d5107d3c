import { useNavigate } from 'react-router';
import { answer, api } from '../api/client';
import { DeskLink, useDeskAddress } from '../shell/lens';
import { type Column, RowsTable } from '../shell/RowsTable';
import { Empty } from '../shell/states';
import { words } from '../words/en';
import { type Asked, type Shape, toldOf } from './asked';

/** The same as the map, as a table: one line for each cell that is not empty. */
export function CellsTable({ asked, shape }: { asked: Asked; shape: Shape }) {
  const told = toldOf(asked);
  const navigate = useNavigate();
  const address = useDeskAddress();
  const page = async (offset: number, limit: number) => {
    const { total, lines } = await answer(
      api.GET('/api/holdings/cells', {
        params: { query: { ...asked, ...shape, offset, limit } },
      }),
    );
    return {
      total,
      rows: lines.map((line) => ({ ...line, id: `${line.key}/${line.entitlement.id}` })),
    };
  };
  type Row = Awaited<ReturnType<typeof page>>['rows'][number];
  const number = (n: number) => (n <= 0 ? '–' : words.count(n));
  const columns: Column<Row>[] = [
    {
      key: 'row',
      label: words.holdings.row,
      width: 'minmax(9rem, 1.2fr)',
      cell: (row) => row.name || words.holdings.none,
    },
    {
      key: 'entitlement',
      label: words.access.entitlement,
      width: 'minmax(12rem, 2fr)',
      cell: (row) => (
        <DeskLink to={`/desk/entitlements/${row.entitlement.id}`}>{row.entitlement.title}</DeskLink>
      ),
    },
    {
      key: 'sensitivity',
      label: words.holdings.sensitivity,
      width: '6rem',
      cell: (row) => words.access.sensitivities[row.entitlement.sensitivity],
    },
    ...(told === 'moves'
      ? [
          {
            key: 'gained',
            label: words.holdings.gained,
            width: '7rem',
            numeric: true,
            cell: (row: Row) => number(row.count - row.lost),
          },
          {
            key: 'lost',
            label: words.holdings.lost,
            width: '7rem',
            numeric: true,
            cell: (row: Row) => number(row.lost),
          },
        ]
      : [
          {
            key: 'count',
            label: words.holdings.holders,
            width: '7rem',
            numeric: true,
            cell: (row: Row) =>
              told === 'span' ? number(row.count) : words.docket.of(row.count, row.of),
          },
        ]),
    ...(told === 'shares'
      ? [
          {
            key: 'unused',
            label: words.holdings.unusedColumn,
            width: '7rem',
            numeric: true,
            cell: (row: Row) => (row.unused < 0 ? words.holdings.unknown : number(row.unused)),
          },
          {
            key: 'conflicts',
            label: words.holdings.conflicts,
            width: '7rem',
            numeric: true,
            cell: (row: Row) => number(row.conflicts),
          },
        ]
      : []),
  ];
  return (
    <RowsTable<Row>
      label={words.holdings.title}
      columns={columns}
      queryKey={['holdings-cells', asked, shape]}
      page={page}
      onOpen={(row) => navigate(address(`/desk/entitlements/${row.entitlement.id}`))}
      empty={<Empty title={words.holdings.nothing}>{words.holdings.nothingHelp}</Empty>}
    />
  );
}
