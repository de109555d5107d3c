import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { SensitivityTag } from '../access/SensitivityTag';
import { answer, api, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import { FindField } from '../shell/FindField';
import { DeskLink, useDeskAddress, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { type Column, RowsTable } from '../shell/RowsTable';
import { useSession } from '../shell/session';
import { Empty } from '../shell/states';
import { words } from '../words/en';
import { AppsTabs } from './AppsTabs';

type Row = Schemas['AppLine'] & { id: string };

const TONES: Record<string, string> = {
  open: 'calm',
  proposed: 'wait',
  paused: 'wait',
  blocked: 'loss',
};

export function StateTag({ state }: { state: string }) {
  return <span className={`tag ${TONES[state] ?? ''}`}>{words.apps.states[state] ?? state}</span>;
}

const COLUMNS: Column<Row>[] = [
  {
    key: 'name',
    label: words.apps.columns.name,
    width: 'minmax(14rem, 2fr)',
    cell: ({ app, line }) => (
      <span className="pictured">
        <Picture name={app.picture} hue={app.hue} size={26} />
        <DeskLink to={`/desk/apps/${app.id}`}>{app.name}</DeskLink>
        <span className="dim small cut">{line}</span>
      </span>
    ),
  },
  {
    key: 'state',
    label: words.apps.columns.state,
    width: '6.5rem',
    cell: ({ app }) => <StateTag state={app.state} />,
  },
  {
    key: 'sensitivity',
    label: words.apps.columns.sensitivity,
    width: '6.5rem',
    cell: ({ sensitivity }) => <SensitivityTag sensitivity={sensitivity} />,
  },
  {
    key: 'owners',
    label: words.apps.columns.owners,
    width: 'minmax(8rem, 1.2fr)',
    cell: ({ owners }) =>
      owners.length === 0 ? (
        <span className="tag loss">{words.apps.noOwner}</span>
      ) : (
        owners.join(', ')
      ),
  },
  {
    key: 'entitlements',
    label: words.apps.columns.entitlements,
    width: '7rem',
    numeric: true,
    cell: ({ entitlements }) => words.count(entitlements),
  },
  {
    key: 'holders',
    label: words.apps.columns.holders,
    width: '6rem',
    numeric: true,
    cell: ({ holders }) => words.count(holders),
  },
];

/** All applications. */
export function AppsPage() {
  const [get, set] = useAddress();
  const { asOf } = useLens();
  const { has } = useSession();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const find = useDeferredValue(get('find'));
  const state = get('state');
  const query = { find, state: state === '' ? [] : [state], asOf };
  const ask = (offset: number, limit: number) =>
    answer(api.GET('/api/apps', { params: { query: { ...query, offset, limit } } }));
  const head = useQuery({ queryKey: ['apps-head', query], queryFn: () => ask(0, 1) });
  return (
    <>
      <AppsTabs />
      <header>
        <PageHeading>{words.apps.title}</PageHeading>
        <span className="dim" role="status">
          {head.data !== undefined && words.apps.total(head.data.total, head.data.of)}
        </span>
        <span className="grow" />
        {has('apps.edit') && asOf === undefined && (
          <DeskLink className="btn btn-primary" to="/desk/apps/new">
            {words.apps.addApp}
          </DeskLink>
        )}
      </header>
      <search className="bar">
        <FindField label={words.apps.find} style={{ width: '18rem' }} />
        <Form.Select
          aria-label={words.apps.columns.state}
          value={state}
          onChange={(event) => set({ state: event.target.value })}
        >
          <option value="">{words.apps.everyState}</option>
          {Object.entries(words.apps.states).map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </Form.Select>
      </search>
      <RowsTable<Row>
        label={words.apps.title}
        columns={COLUMNS}
        queryKey={['apps', query]}
        page={async (offset, limit) => {
          const { total, lines } = await ask(offset, limit);
          return { total, rows: lines.map((line) => ({ ...line, id: line.app.id })) };
        }}
        onOpen={(row) => navigate(address(`/desk/apps/${row.id}`))}
        empty={
          <Empty title={find === '' && state === '' ? words.apps.empty : words.apps.nothing}>
            {words.apps.emptyHelp}
          </Empty>
        }
      />
    </>
  );
}
