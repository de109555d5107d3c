import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Dropdown from 'react-bootstrap/Dropdown';
import { useNavigate, useParams } from 'react-router';
import { answer, api, raw, type Schemas } from '../api/client';
import { useTriedFilter } from '../directory/groups/FilterField';
import { useAddress } from '../shell/addresses';
import { save } from '../shell/download';
import { DeskLink, useDeskAddress, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { type Column, RowsTable } from '../shell/RowsTable';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { isDay, tellAsOf, tellDay, tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { AskedBar } from './Asking';
import { type Asked, addressOf, UNUSED_DAYS, useAsked } from './asked';
import { HoldingsTabs } from './HoldingsTabs';
import { SaveQuery } from './SaveQuery';

type Spec = Schemas['SpecForm'];

/** One query: what it asks, its answer, and what can be made of it. */
export function QueryPage() {
  const id = useParams().id ?? 'new';
  const query = useQuery({
    queryKey: ['query', id],
    queryFn: () => answer(api.GET('/api/queries/{id}', { params: { path: { id } } })),
    enabled: id !== 'new',
  });
  if (query.error) {
    return <Failure error={query.error} again={() => query.refetch()} />;
  }
  if (id !== 'new' && query.data === undefined) {
    return <Loading what={words.queries.title} lines={12} />;
  }
  return <Whole key={id} query={query.data} />;
}

/** What is not given, as the server takes it. */
function full(asked: Asked): Spec['asked'] {
  return {
    apps: asked.apps ?? null,
    entitlements: asked.entitlements ?? null,
    sensitivities: asked.sensitivities ?? null,
    where: asked.where ?? null,
    only: asked.only ?? null,
    days: asked.days ?? null,
    endsBefore: asked.endsBefore ?? null,
    asOf: asked.asOf ?? null,
    against: asked.against ?? null,
    from: asked.from ?? null,
    until: asked.until ?? null,
  };
}

function Whole({ query }: { query: Schemas['QueryView'] | undefined }) {
  const [get, set] = useAddress();
  const { zone } = useSession();
  const { asOf } = useLens();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const inAddress = useAsked();
  const [saving, setSaving] = useState(false);
  const [choosing, setChoosing] = useState(false);
  const where = useTriedFilter(query?.spec.asked.where ?? '');
  const own = get('columns') === '' ? undefined : get('columns').split(',');
  // What a kept query asks stands in it; what a new one asks, in the address.
  const kept: Spec =
    query === undefined
      ? {
          asked: full(inAddress),
          during: null,
          since: null,
          ends: null,
          leavers: null,
          columns: own ?? null,
        }
      : { ...query.spec, columns: own ?? query.spec.columns };
  const spec: Spec = {
    ...kept,
    asked: { ...kept.asked, asOf: kept.asked.asOf ?? asOf ?? null },
  };
  const first = useQuery({
    queryKey: ['answer', spec, 0],
    queryFn: () => ask(spec, 0, 100),
    retry: false,
  });
  const drop = useAct(
    () => answer(api.POST('/api/queries/{id}/drop', { params: { path: { id: query?.id ?? '' } } })),
    () => navigate(address('/desk/queries')),
  );
  const name = query?.name ?? words.queries.new;
  const worked = first.data?.asked;
  const onMap = addressOf(
    '/desk/holdings',
    worked === undefined
      ? inAddress
      : {
          apps: worked.apps ?? undefined,
          entitlements: worked.entitlements ?? undefined,
          sensitivities: worked.sensitivities ?? undefined,
          where: worked.where ?? undefined,
          only: worked.only?.filter((mark) => mark !== 'both'),
          days: worked.days ?? undefined,
          endsBefore: worked.endsBefore ?? undefined,
          against: worked.against ?? undefined,
          from: worked.from ?? undefined,
          until: worked.until ?? undefined,
        },
    zone,
  );
  return (
    <>
      <HoldingsTabs />
      <header>
        <PageHeading>{name}</PageHeading>
        {first.data !== undefined && (
          <span className="dim" role="status" title={first.data.at}>
            {words.queries.lines(first.data.total)},{' '}
            {words.queries.asOf(tellAsOf(zone, first.data.at))}
            {first.data.asked.against !== null &&
              `, ${words.queries.comparedWith(tellAsOf(zone, first.data.asked.against))}`}
          </span>
        )}
        <span className="grow" />
        {query?.mine && (
          <Button variant="outline-danger" disabled={drop.isPending} onClick={() => drop.mutate()}>
            {words.queries.drop}
          </Button>
        )}
        <Button variant="outline-primary" onClick={() => setSaving(true)}>
          {query?.mine ? words.queries.change : words.queries.save}
        </Button>
        <TakeOut spec={spec} name={name} total={first.data?.total ?? 0} />
      </header>
      <ProblemNote error={drop.error} />
      {query !== undefined && query.why !== '' && <p className="dim">{query.why}</p>}
      <div className="no-print">
        {query === undefined && <AskedBar />}
        <div className="bar">
          {query !== undefined && (
            <span>{words.queries.asks(tellSpec(query.spec, where?.words))}</span>
          )}
          {query !== undefined && (
            <Button
              variant="link"
              onClick={() =>
                navigate(address(onMap.replace('/desk/holdings', '/desk/queries/new')))
              }
            >
              {words.queries.vary}
            </Button>
          )}
          <span className="grow" />
          <Button variant="link" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
            {words.queries.columns}
          </Button>
          {query?.spec.leavers == null && <DeskLink to={onMap}>{words.queries.onMap}</DeskLink>}
        </div>
        {choosing && (
          <Columns
            chosen={(first.data?.columns ?? []).map((one) => one.name)}
            onChoose={(columns) => set({ columns: columns.join(',') })}
          />
        )}
      </div>
      {first.error && <Failure error={first.error} again={() => first.refetch()} />}
      {first.isPending && <Loading what={name} lines={12} />}
      {first.data !== undefined && (
        <div className="split answer">
          <Lines spec={spec} first={first.data} name={name} />
          <aside className="margin" aria-label={words.queries.byUnit}>
            <h2>{words.queries.byUnit}</h2>
            <ByUnit bars={first.data.bars} />
            <h2>{words.queries.stands}</h2>
            <p className="small">
              {words.queries.asOf(tellAsOf(zone, first.data.at))}
              <br />
              {words.queries.position(first.data.position)}
            </p>
            <p className="small dim">{words.queries.standsHelp}</p>
          </aside>
        </div>
      )}
      {saving && (
        <SaveQuery
          query={query}
          spec={kept}
          onClose={() => setSaving(false)}
          onSaved={(saved) => navigate(address(`/desk/queries/${saved}`))}
        />
      )}
    </>
  );
}

function ask(spec: Spec, offset: number, limit: number) {
  return answer(api.POST('/api/queries/answer', { body: { spec, offset, limit } }));
}

/** What a query asks, in a few words. */
function tellSpec(spec: Spec, where: string | null | undefined): string {
  const { asked } = spec;
  return (
    [
      spec.leavers != null && words.queries.leavers,
      spec.since != null && words.queries.changesOf(words.queries.periods[spec.since] ?? ''),
      spec.during != null && words.queries.anyTimeOf(words.queries.periods[spec.during] ?? ''),
      spec.ends != null && words.queries.endsBy(words.queries.periods[spec.ends] ?? ''),
      asked.sensitivities?.length &&
        words.queries.ofSensitivity(
          asked.sensitivities.map((one) => words.access.sensitivities[one] ?? one),
        ),
      asked.only?.length &&
        asked.only
          .map((one) =>
            one === 'unused'
              ? words.holdings.unusedFor(asked.days ?? UNUSED_DAYS)
              : (words.holdings.marks[one] ?? one),
          )
          .join(', '),
      where ?? asked.where,
      asked.apps?.length && words.queries.apps(asked.apps.length),
      asked.entitlements?.length && words.holdings.someColumns(asked.entitlements.length),
      asked.against && words.holdings.since(tellTime(asked.against)),
      asked.from && asked.until && words.holdings.span(tellDay(asked.from), tellDay(asked.until)),
      asked.asOf && words.queries.asOf(tellTime(asked.asOf)),
    ]
      .filter((one) => typeof one === 'string' && one !== '')
      .join('; ') || words.queries.everything
  );
}

function Lines({ spec, first, name }: { spec: Spec; first: Schemas['AnswerView']; name: string }) {
  const navigate = useNavigate();
  const address = useDeskAddress();
  const page = async (offset: number, limit: number) => {
    const answered = offset === 0 ? first : await ask(spec, offset, limit);
    return {
      total: answered.total,
      rows: answered.rows.map((row) => ({ ...row, id: `${row.person}/${row.entitlement}` })),
    };
  };
  type Row = Awaited<ReturnType<typeof page>>['rows'][number];
  const columns: Column<Row>[] = first.columns.map((column, index) => ({
    key: column.name,
    label: column.label,
    width: WIDTHS[column.name] ?? 'minmax(6.6rem, 1fr)',
    cell: (row) => {
      const value = row.values[index] ?? '';
      if (column.name === 'person') {
        return (
          <DeskLink to={`/desk/people/${row.person}/holdings?holding=${row.entitlement}`}>
            {value}
          </DeskLink>
        );
      }
      if (column.name === 'role') {
        return <DeskLink to={`/desk/entitlements/${row.entitlement}`}>{value}</DeskLink>;
      }
      if (column.name === 'grounds' || column.name === 'through') {
        // Why somebody holds it stands in full where their holding does.
        return (
          <DeskLink to={`/desk/people/${row.person}/holdings?holding=${row.entitlement}`}>
            {column.name === 'grounds' ? tellGrounds(value) : value}
          </DeskLink>
        );
      }
      // A day as the reader writes it; what comes after it stays.
      const said = isDay(value.slice(0, 10))
        ? tellDay(value.slice(0, 10)) + value.slice(10)
        : value;
      return <span title={value}>{said}</span>;
    },
  }));
  return (
    <RowsTable<Row>
      label={name}
      columns={columns}
      queryKey={['answer-lines', spec, first.at]}
      page={page}
      onOpen={(row) =>
        navigate(address(`/desk/people/${row.person}/holdings?holding=${row.entitlement}`))
      }
      empty={<Empty title={words.queries.none}>{words.queries.noneHelp}</Empty>}
    />
  );
}

const WIDTHS: Record<string, string> = {
  grounds: 'minmax(9rem, 1.4fr)',
  person: 'minmax(8.6rem, 1.5fr)',
  since: '6.9rem',
  until: '6.9rem',
  lastUsed: '6.9rem',
  stated: '6.9rem',
  change: '5rem',
  sensitivity: '5rem',
  held: 'minmax(14rem, 2fr)',
  clashes: 'minmax(12rem, 2fr)',
  through: 'minmax(10rem, 2fr)',
};

/** "person/hand group/request" as it is read. */
function tellGrounds(value: string): string {
  return value
    .split(' ')
    .filter((one) => one !== '')
    .map((one) => {
      const [by = '', source = ''] = one.split('/');
      const way = words.queries.by[by] ?? by;
      // What an administrator granted is what most is, and goes without saying.
      return source === 'hand' ? way : `${way}, ${words.access.sources[source] ?? source}`;
    })
    .join(' + ');
}

function ByUnit({ bars }: { bars: Schemas['Bar'][] }) {
  const most = Math.max(1, ...bars.map((one) => one.value));
  return (
    <ul className="plain">
      {bars.map((one) => (
        <li key={one.name} className="unit">
          <span>{one.name || words.docket.noUnit}</span>
          <span className="mono">{words.count(one.value)}</span>
          <span className="share-bar" aria-hidden>
            <i style={{ width: `${(100 * one.value) / most}%` }} />
          </span>
        </li>
      ))}
    </ul>
  );
}

function Columns({
  chosen,
  onChoose,
}: {
  chosen: string[];
  onChoose: (columns: string[]) => void;
}) {
  const all = useQuery({
    queryKey: ['query-columns'],
    queryFn: () => answer(api.GET('/api/queries/columns')),
  });
  return (
    <fieldset className="sheet columns">
      <legend className="visually-hidden">{words.queries.columns}</legend>
      {(all.data ?? []).map((one) => (
        <label key={one.name} className="small">
          <input
            type="checkbox"
            checked={chosen.includes(one.name)}
            onChange={(event) =>
              onChoose(
                event.target.checked
                  ? [...chosen, one.name]
                  : chosen.filter((name) => name !== one.name),
              )
            }
          />{' '}
          {one.label}
        </label>
      ))}
    </fieldset>
  );
}

/** The answer as a file; each download is recorded in the ledger. */
function TakeOut({ spec, name, total }: { spec: Spec; name: string; total: number }) {
  const take = useAct(async (format: 'csv' | 'jsonl' | 'pdf') => {
    const response = await raw('/api/reports-made', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: name.slice(0, 120), spec, format }),
    });
    const number = response.headers.get('Report-Number') ?? '';
    save(`report-${number}.${format}`, await response.blob());
    return { number, format };
  });
  // A table has no place for where it comes from, so that stands in a file beside it.
  const beside = useMutation({
    mutationFn: async (number: string) => {
      const made = await answer(api.GET('/api/reports-made'));
      const one = made.find((each) => String(each.number) === number);
      if (one !== undefined) {
        save(`report-${number}.txt`, new Blob([words.queries.beside(one)]));
      }
    },
  });
  return (
    <>
      <Dropdown>
        <Dropdown.Toggle disabled={take.isPending || total === 0}>
          {take.isPending ? words.queries.taking : words.queries.take}
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {(['csv', 'jsonl', 'pdf'] as const).map((format) => (
            <Dropdown.Item as="button" key={format} onClick={() => take.mutate(format)}>
              {words.queries.formats[format]}
            </Dropdown.Item>
          ))}
          <Dropdown.Item as="button" onClick={() => window.print()}>
            {words.queries.print}
          </Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      {take.data !== undefined && (
        <span className="small" role="status">
          {words.queries.taken(take.data.number)}
          {take.data.format === 'csv' && (
            <>
              {' '}
              <Button variant="link" onClick={() => beside.mutate(take.data.number)}>
                {words.queries.besideFile}
              </Button>
            </>
          )}
        </span>
      )}
      <ProblemNote error={take.error ?? beside.error} />
    </>
  );
}
