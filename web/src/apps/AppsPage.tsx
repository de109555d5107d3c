import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { SensitivityTag } from '../access/SensitivityTag';
import { answer, api, type Schemas } from '../api/client';
import { UNUSED_DAYS } from '../holdings/asked';
import { Picture } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import { Bars } from '../shell/Bars';
import { FindField } from '../shell/FindField';
import { type Figure, Figures } from '../shell/Head';
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

/** How many hold it, as a share of the app that most people hold, the unused part hatched. */
function Holders({ row, most }: { row: Row; most: number }) {
  const share = (n: number) => `${(100 * n) / Math.max(1, most)}%`;
  const unused = row.unused ?? 0;
  return (
    <span
      className="held-share"
      title={row.unused === null ? undefined : words.apps.unusedOf(unused, row.holders)}
    >
      <span className="track" aria-hidden="true">
        <i className="was" style={{ width: share(row.holders - unused) }} />
        <i className="unused" style={{ width: share(unused) }} />
      </span>
      <span className="n">{words.count(row.holders)}</span>
    </span>
  );
}

function columns(most: number, useSeen: boolean): Column<Row>[] {
  return [
    {
      key: 'name',
      label: words.apps.columns.name,
      width: 'minmax(14rem, 2fr)',
      sort: 'name',
      cell: ({ app, line }) => (
        <span className="pictured">
          <Picture name={app.picture} hue={app.hue} size={26} />
          <DeskLink to={`/desk/apps/${app.id}`}>{app.name}</DeskLink>
          <span className="dim small cut" title={line}>
            {line}
          </span>
        </span>
      ),
    },
    {
      key: 'state',
      label: words.apps.columns.state,
      width: '5.4rem',
      cell: ({ app }) => <StateTag state={app.state} />,
    },
    {
      key: 'sensitivity',
      label: words.apps.columns.sensitivity,
      width: '7rem',
      sort: 'sensitivity',
      cell: ({ sensitivity }) => <SensitivityTag sensitivity={sensitivity} />,
    },
    {
      key: 'owners',
      label: words.apps.columns.owners,
      width: 'minmax(12.5rem, 1fr)',
      cell: ({ owners }) =>
        owners.length === 0 ? (
          <span className="tag loss">{words.apps.noOwner}</span>
        ) : (
          <span className="cut" title={owners.join(', ')}>
            {owners.join(', ')}
          </span>
        ),
    },
    {
      key: 'entitlements',
      label: words.apps.columns.entitlements,
      width: '6.6rem',
      numeric: true,
      cell: ({ entitlements }) => words.count(entitlements),
    },
    {
      key: 'holders',
      label: words.apps.columns.holders,
      width: '11.5rem',
      sort: 'holders',
      cell: (row) => <Holders row={row} most={most} />,
    },
    ...(useSeen
      ? ([
          {
            key: 'unused',
            label: words.apps.columns.unused,
            width: '5.6rem',
            numeric: true,
            sort: 'unused',
            cell: ({ unused }) =>
              unused === null || unused === 0 ? (
                <span className="dim">{unused === null ? '–' : words.count(0)}</span>
              ) : (
                words.count(unused)
              ),
          },
          {
            key: 'openings',
            label: words.apps.columns.uses,
            width: '8rem',
            sort: 'openings',
            cell: ({ openings }) =>
              openings === null ? (
                <span className="dim">–</span>
              ) : (
                <Bars values={openings} label={words.apps.uses(openings)} />
              ),
          },
        ] satisfies Column<Row>[])
      : []),
  ];
}

/** All applications. */
export function AppsPage() {
  const [get, set] = useAddress();
  const { asOf } = useLens();
  const { has } = useSession();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const find = useDeferredValue(get('find'));
  const state = get('state');
  const sort = get('sort') || 'name';
  const descending = get('descending') === 'true';
  const query = { find, state: state === '' ? [] : [state], sort, descending, asOf };
  const ask = (offset: number, limit: number) =>
    answer(api.GET('/api/apps', { params: { query: { ...query, offset, limit } } }));
  const head = useQuery({
    queryKey: ['apps-head', query],
    queryFn: () => ask(0, 1),
    placeholderData: (before) => before,
  });
  const useSeen = (head.data?.weeks.length ?? 0) > 0;
  return (
    <>
      <AppsTabs />
      <header>
        <div className="grow">
          <PageHeading>{words.apps.title}</PageHeading>
          <div className="dim" role="status">
            {head.data !== undefined && words.apps.total(head.data.total, head.data.of)}
          </div>
        </div>
        {head.data !== undefined && <Figures figures={figuresOf(head.data)} />}
        {has('apps.edit') && asOf === undefined && (
          <DeskLink className="btn btn-primary" to="/desk/apps/new">
            {words.apps.addApp}
          </DeskLink>
        )}
      </header>
      <search className="bar">
        <FindField label={words.apps.find} className="broad" />
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
        <span className="grow" />
        {head.data !== undefined && head.data.most > 0 && (
          <span className="key small">
            <span>
              <i className="swatch was" /> {words.apps.holdersKey(head.data.most)}
            </span>
            {useSeen && (
              <>
                <span>
                  <i className="swatch unused" /> {words.apps.unusedKey(UNUSED_DAYS)}
                </span>
                <span>{words.apps.usesKey}</span>
              </>
            )}
          </span>
        )}
      </search>
      <RowsTable<Row>
        label={words.apps.title}
        columns={columns(head.data?.most ?? 0, useSeen)}
        queryKey={['apps', query]}
        page={async (offset, limit) => {
          const { total, lines } = await ask(offset, limit);
          return { total, rows: lines.map((line) => ({ ...line, id: line.app.id })) };
        }}
        sort={sort}
        descending={descending}
        onSort={(wanted) =>
          // What is compared is looked at from the most.
          set({
            sort: wanted,
            descending: (wanted === sort ? !descending : wanted !== 'name') ? 'true' : '',
          })
        }
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

function figuresOf(head: Schemas['AppsPage']): Figure[] {
  const figures: Figure[] = [{ n: words.count(head.open), of: words.apps.listFigures.open }];
  if (head.proposed > 0) {
    figures.push({
      n: words.count(head.proposed),
      of: words.apps.listFigures.proposed,
      tone: 'wait',
    });
  }
  if (head.ownerless > 0) {
    figures.push({
      n: words.count(head.ownerless),
      of: words.apps.listFigures.ownerless(head.ownerless),
      tone: 'loss',
    });
  }
  return figures;
}
