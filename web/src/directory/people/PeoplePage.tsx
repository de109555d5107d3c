import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import { useAddress } from '../../shell/addresses';
import { allRows, saveCsv } from '../../shell/download';
import { FindField } from '../../shell/FindField';
import { DeskLink, useDeskAddress, useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { type Column, RowsTable } from '../../shell/RowsTable';
import { useSession } from '../../shell/session';
import { Empty } from '../../shell/states';
import { tellDate } from '../../shell/times';
import { words } from '../../words/en';
import { DirectoryTabs } from '../Tabs';
import { StatusTag } from './PersonParts';

type Line = Schemas['PersonLine'];

const THERE = ['expected', 'active', 'paused'];

const COLUMNS: Column<Line>[] = [
  {
    key: 'name',
    label: words.people.columns.name,
    width: 'minmax(11rem, 2fr)',
    sort: 'name',
    cell: (person) => <DeskLink to={`/desk/people/${person.id}`}>{person.familyFirst}</DeskLink>,
  },
  {
    key: 'userName',
    label: words.people.columns.userName,
    width: 'minmax(8rem, 1.4fr)',
    cell: (person) => <span className="mono">{person.userName}</span>,
  },
  {
    key: 'unit',
    label: words.people.columns.unit,
    width: 'minmax(7rem, 1.2fr)',
    sort: 'unit',
    cell: (person) => person.unit,
  },
  {
    key: 'title',
    label: words.people.columns.title,
    width: 'minmax(7rem, 1.3fr)',
    sort: 'title',
    cell: (person) => person.title,
  },
  {
    key: 'site',
    label: words.people.columns.site,
    width: 'minmax(6rem, 1fr)',
    sort: 'site',
    cell: (person) => person.site,
  },
  {
    key: 'status',
    label: words.people.columns.status,
    width: '7rem',
    sort: 'status',
    cell: (person) => <StatusTag status={person.status} />,
  },
  {
    key: 'since',
    label: words.people.columns.since,
    width: '7.5rem',
    sort: 'since',
    cell: (person) => <span title={person.since}>{tellDate(person.since)}</span>,
  },
];

export function PeoplePage() {
  const [get, set] = useAddress();
  const { asOf } = useLens();
  const { has, signed } = useSession();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const find = useDeferredValue(get('find'));
  const sort = get('sort') || 'name';
  const descending = get('descending') === 'true';
  const status = get('status') === 'every' ? [] : get('status') === '' ? THERE : [get('status')];
  const query = {
    find,
    unit: get('unit') === '' ? [] : [get('unit')],
    site: get('site') === '' ? [] : [get('site')],
    status,
    sort,
    descending,
    asOf,
  };
  const ask = (offset: number, limit: number) =>
    answer(api.GET('/api/people', { params: { query: { ...query, offset, limit } } }));
  const page = async (offset: number, limit: number) => {
    const { total, lines } = await ask(offset, limit);
    return { total, rows: lines };
  };
  const head = useQuery({ queryKey: ['people-head', query], queryFn: () => ask(0, 1) });
  const filtered = get('find') !== '' || get('unit') !== '' || get('site') !== '';

  const facet = (name: 'unit' | 'site', any: string, label: string) => (
    <Form.Select
      aria-label={label}
      value={get(name)}
      onChange={(event) => set({ [name]: event.target.value })}
    >
      <option value="">{any}</option>
      {(head.data?.facets[name] ?? [])
        .filter((one) => one.value !== '')
        .map((one) => (
          <option key={one.value} value={one.value}>
            {one.value} ({words.count(one.count)})
          </option>
        ))}
    </Form.Select>
  );

  return (
    <>
      <DirectoryTabs />
      <header>
        <PageHeading>{words.people.title}</PageHeading>
        <span className="dim" role="status">
          {head.data !== undefined && words.people.total(head.data.total, head.data.of)}
        </span>
      </header>
      {signed.limited && <p className="dim small">{words.shell.limited}</p>}
      <search className="bar">
        <FindField label={words.people.find} className="broad" />
        {facet('unit', words.people.anyUnit, words.people.unit)}
        {facet('site', words.people.anySite, words.people.site)}
        <Form.Select
          aria-label={words.people.status}
          value={get('status')}
          onChange={(event) => set({ status: event.target.value })}
        >
          <option value="">{words.people.there}</option>
          {Object.entries(words.people.statuses).map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
          <option value="every">{words.people.everyStatus}</option>
        </Form.Select>
        <span className="grow" />
        <Button
          variant="outline-primary"
          onClick={() =>
            void allRows(page).then((rows) =>
              saveCsv('people', [
                COLUMNS.map((column) => column.label),
                ...rows.map((row) => [
                  row.familyFirst,
                  row.userName ?? '',
                  row.unit ?? '',
                  row.title ?? '',
                  row.site ?? '',
                  row.status,
                  row.since,
                ]),
              ]),
            )
          }
        >
          {words.shell.download}
        </Button>
      </search>
      <RowsTable
        label={words.people.title}
        columns={COLUMNS}
        queryKey={['people', query]}
        page={page}
        sort={sort}
        descending={descending}
        onSort={(wanted) =>
          set({ sort: wanted, descending: wanted === sort && !descending ? 'true' : '' })
        }
        onOpen={(person) => navigate(address(`/desk/people/${person.id}`))}
        empty={
          filtered || get('status') !== '' ? (
            <Empty
              title={words.people.nobody}
              action={
                <Button
                  variant="outline-primary"
                  onClick={() => set({ find: '', unit: '', site: '', status: '' })}
                >
                  {words.people.clear}
                </Button>
              }
            >
              {words.people.nobodyHelp}
            </Empty>
          ) : (
            <Empty
              title={words.people.empty}
              action={
                has('people.import') && (
                  <Button onClick={() => navigate('/desk/deliveries')}>
                    {words.people.emptyAct}
                  </Button>
                )
              }
            >
              {words.people.emptyHelp}
            </Empty>
          )
        }
      />
    </>
  );
}
