import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useNavigate, useParams } from 'react-router';
import { answer, api, type Schemas } from '../api/client';
import { FilterSaid } from '../directory/filter/FilterSaid';
import { Drafted } from '../drafts/Drafted';
import { Pick } from '../holdings/Asking';
import { Picture } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import { allRows, saveCsv } from '../shell/download';
import { FindField } from '../shell/FindField';
import { DeskLink, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { type Column, RowsTable } from '../shell/RowsTable';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { Table } from '../shell/Table';
import { lastDay, months, tellDate, tellDay } from '../shell/times';
import { words } from '../words/en';
import { EndGrantDialog } from './EndGrantDialog';
import { GiveDialog } from './GiveDialog';
import { GroundSign, NamedGrounds, SignKey, tellSign } from './Grounds';
import { HoldingMargin } from './PersonHoldings';
import { SensitivityTag } from './SensitivityTag';

/** Who holds an entitlement and by which grants; giving and ending it. */
export function EntitlementPage() {
  const id = useParams().id ?? '';
  const { asOf } = useLens();
  const page = useQuery({
    queryKey: ['entitlement', id, asOf],
    queryFn: () =>
      answer(api.GET('/api/entitlements/{id}', { params: { path: { id }, query: { asOf } } })),
  });
  if (page.error) {
    return <Failure error={page.error} again={() => page.refetch()} />;
  }
  if (page.data === undefined) {
    return <Loading what={words.access.entitlement} lines={12} />;
  }
  return <Whole page={page.data} />;
}

function Whole({ page }: { page: Schemas['EntitlementPage'] }) {
  const { entitlement } = page;
  const { has } = useSession();
  const [get, set] = useAddress();
  const [giving, setGiving] = useState(false);
  const chosen = get('person');
  return (
    <>
      <header>
        <Picture name={entitlement.app.picture} hue={entitlement.app.hue} size={34} />
        <PageHeading>{entitlement.title}</PageHeading>
        <SensitivityTag sensitivity={entitlement.sensitivity} />
        {entitlement.app.state !== 'open' && (
          <span className="tag wait">{words.apps.states[entitlement.app.state]}</span>
        )}
        <span className="dim">{entitlement.line}</span>
        <span className="dim">
          {page.requestable ? words.access.requestable : words.access.notRequestable}
        </span>
        <DeskLink className="small" to={`/desk/apps/${entitlement.app.id}`}>
          {entitlement.app.name}
        </DeskLink>
        {has('requests.configure') && (
          <>
            <DeskLink className="small" to={`/desk/routes/entitlement:${entitlement.id}`}>
              {words.routes.one}
            </DeskLink>
            <DeskLink className="small" to={`/desk/forms/entitlement:${entitlement.id}`}>
              {words.forms.one}
            </DeskLink>
          </>
        )}
        <span className="grow" />
        {page.mayGive && <Button onClick={() => setGiving(true)}>{words.access.giveOpen}</Button>}
      </header>
      <Drafted of={entitlement.id} />
      <div className="split">
        <div className="column">
          <Holders page={page} onChoose={(person) => set({ person })} chosen={chosen} />
          <Grants page={page} />
        </div>
        <aside className="margin" aria-label={words.access.why}>
          {chosen === '' ? (
            <>
              <p className="dim small">{words.access.choosePerson}</p>
              <Units units={page.units} />
            </>
          ) : (
            <>
              <Button variant="link" onClick={() => set({ person: '' })}>
                {words.access.closePerson}
              </Button>
              <HoldingMargin person={chosen} entitlement={entitlement.id} of="entitlement" />
            </>
          )}
        </aside>
      </div>
      {giving && (
        <GiveDialog
          id={entitlement.id}
          title={entitlement.title}
          onClose={() => setGiving(false)}
        />
      )}
    </>
  );
}

function Holders({
  page,
  chosen,
  onChoose,
}: {
  page: Schemas['EntitlementPage'];
  chosen: string;
  onChoose: (person: string) => void;
}) {
  const { entitlement } = page;
  const { zone, begins } = useSession();
  const { asOf, day } = useLens();
  const navigate = useNavigate();
  const [get, set] = useAddress();
  const find = useDeferredValue(get('find'));
  const unit = get('unit');
  const query = { find, unit, asOf };
  const rows = async (offset: number, limit: number) => {
    const { total, lines } = await answer(
      api.GET('/api/entitlements/{id}/holders', {
        params: { path: { id: entitlement.id }, query: { ...query, offset, limit } },
      }),
    );
    return { total, rows: lines.map((line) => ({ ...line, id: line.person.id })) };
  };
  type Row = Schemas['HolderLine'] & { id: string };
  const columns: Column<Row>[] = [
    {
      key: 'name',
      label: words.people.columns.name,
      width: 'minmax(10rem, 1.6fr)',
      cell: (row) => (
        <button
          type="button"
          className="choose"
          aria-pressed={row.id === chosen}
          onClick={() => onChoose(row.id)}
        >
          {row.person.familyFirst}
        </button>
      ),
    },
    {
      key: 'unit',
      label: words.people.columns.unit,
      width: 'minmax(8rem, 1.2fr)',
      cell: (row) => [row.person.unit, row.person.site].filter(Boolean).join(', '),
    },
    {
      key: 'grounds',
      label: words.access.columns.through,
      width: 'minmax(9rem, 1.6fr)',
      cell: (row) => <NamedGrounds signs={row.signs} />,
    },
    {
      key: 'until',
      label: words.access.columns.until,
      width: '7rem',
      cell: (row) => (row.until === null ? words.access.noEnd : tellDay(lastDay(zone, row.until))),
    },
    {
      key: 'opened',
      label: words.access.columns.opened,
      width: '7rem',
      cell: (row) => (row.lastOpened === null ? '–' : tellDate(row.lastOpened)),
    },
  ];
  return (
    <section aria-labelledby="holders">
      <div className="bar">
        <h2 id="holders" className="flush">
          {words.access.holders(page.holders)}
        </h2>
        {page.without > 0 && (
          <span className="dim small">{words.access.without(page.without)}</span>
        )}
        <Pick
          label={words.access.held}
          value=""
          choices={[
            ['', day === undefined ? words.shell.now : tellDay(day)],
            ...months(begins, zone).map(([first, last, name]): [string, string] => [
              `from=${first}&until=${last}`,
              words.access.anyTime(name),
            ]),
          ]}
          onPick={(span) => navigate(`/desk/queries/new?entitlements=${entitlement.id}&${span}`)}
        />
        <DeskLink className="small" to={`/desk/queries/new?entitlements=${entitlement.id}`}>
          {words.access.asAnswer}
        </DeskLink>
        <span className="grow" />
        <FindField label={words.access.findHolder} />
        <Form.Select
          aria-label={words.people.unit}
          value={unit}
          onChange={(event) => set({ unit: event.target.value })}
        >
          <option value="">{words.people.anyUnit}</option>
          {page.units.map((one) => (
            <option key={one.unit} value={one.unit}>
              {one.unit} ({words.count(one.holders)})
            </option>
          ))}
        </Form.Select>
        <Button
          variant="outline-primary"
          onClick={() =>
            void allRows(rows).then((all) =>
              saveCsv('holders', [
                columns.map((column) => column.label),
                ...all.map((row) => [
                  row.person.familyFirst,
                  [row.person.unit, row.person.site].filter(Boolean).join(', '),
                  row.signs.map((sign) => tellSign(sign.by, sign.source)).join('; '),
                  row.until === null ? '' : lastDay(zone, row.until),
                  row.lastOpened ?? '',
                ]),
              ]),
            )
          }
        >
          {words.shell.download}
        </Button>
      </div>
      <RowsTable<Row>
        label={words.access.holders(page.holders)}
        columns={columns}
        queryKey={['holders', entitlement.id, query]}
        page={rows}
        onOpen={(row) => onChoose(row.id)}
        empty={<Empty title={words.access.nobodyHolds} />}
      />
    </section>
  );
}

function Grants({ page }: { page: Schemas['EntitlementPage'] }) {
  const { zone } = useSession();
  const [ending, setEnding] = useState<Schemas['GrantLine']>();
  const [moves, setMoves] = useState(false);
  const [all, setAll] = useState(false);
  if (page.grants.length === 0) {
    return null;
  }
  const shown = all ? page.grants : page.grants.slice(0, 40);
  return (
    <section aria-labelledby="grants">
      <h2 id="grants">{words.access.grants(page.grants.length)}</h2>
      <div className="scroll">
        <Table>
          <thead>
            <tr>
              <th>{words.access.columns.to}</th>
              <th>{words.access.columns.from}</th>
              <th>{words.access.columns.until}</th>
              <th>{words.access.columns.reason}</th>
              <th>
                <span className="visually-hidden">{words.access.end}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((grant) => (
              <tr key={grant.id}>
                <td>
                  <GroundSign by={grant.subject.kind} source={grant.source} />{' '}
                  {grant.subject.kind === 'group' ? (
                    <DeskLink to={`/desk/groups/${grant.subject.id}`}>
                      {grant.subject.name}
                    </DeskLink>
                  ) : grant.subject.kind === 'filter' ? (
                    <FilterSaid said={grant.subject.name} filter={grant.subject.filter} />
                  ) : (
                    <DeskLink to={`/desk/people/${grant.subject.id}/holdings`}>
                      {grant.subject.name}
                    </DeskLink>
                  )}
                  {grant.subject.kind !== 'person' && (
                    <span className="dim small"> {words.access.covers(grant.subject.people)}</span>
                  )}
                </td>
                <td className="nowrap" title={grant.from}>
                  {tellDate(grant.from)}
                </td>
                <td className="nowrap">
                  {grant.until === null ? words.access.noEnd : tellDay(lastDay(zone, grant.until))}{' '}
                  {page.mayEnd && (
                    <Button
                      variant="link"
                      className="small"
                      aria-label={words.access.changeEndOf(grant.subject.name)}
                      onClick={() => {
                        setMoves(true);
                        setEnding(grant);
                      }}
                    >
                      {words.access.changeEnd}
                    </Button>
                  )}
                </td>
                <td>
                  {grant.request !== null && <span className="mono">{grant.request} </span>}
                  {grant.reason}
                  {grant.givenBy !== null && (
                    <span className="dim small"> {words.access.by(grant.givenBy)}</span>
                  )}
                </td>
                <td>
                  {page.mayEnd && (
                    <Button
                      variant="link"
                      aria-label={words.access.endOf(grant.subject.name)}
                      onClick={() => {
                        setMoves(false);
                        setEnding(grant);
                      }}
                    >
                      {words.access.endShort}
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
      <SignKey signs={shown.map((grant) => ({ by: grant.subject.kind, source: grant.source }))} />
      {shown.length < page.grants.length && (
        <Button variant="outline-primary" onClick={() => setAll(true)}>
          {words.requests.more(page.grants.length - shown.length)}
        </Button>
      )}
      {ending !== undefined && (
        <EndGrantDialog
          moves={moves}
          grant={page.grants.find((one) => one.id === ending.id) ?? ending}
          title={page.entitlement.title}
          onClose={() => setEnding(undefined)}
        />
      )}
    </section>
  );
}

function Units({ units }: { units: Schemas['UnitShare'][] }) {
  return (
    <>
      <h3>{words.access.byUnit}</h3>
      <ul className="plain">
        {units.slice(0, 14).map((one) => (
          <li key={one.unit} className="unit">
            <span>{one.unit || words.docket.noUnit}</span>
            <span className="mono">{words.docket.of(one.holders, one.people)}</span>
            <span className="share-bar" aria-hidden>
              <i style={{ width: `${(100 * one.holders) / Math.max(1, one.people)}%` }} />
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
