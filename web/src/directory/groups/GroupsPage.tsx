import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useNavigate } from 'react-router';
import { answer, api, Problem, repeatKey, type Schemas } from '../../api/client';
import { placeOf, useOpenDraft } from '../../drafts/gathering';
import { useAddress } from '../../shell/addresses';
import { allRows, saveCsv } from '../../shell/download';
import { FindField } from '../../shell/FindField';
import { KeptNote } from '../../shell/KeptNote';
import { DeskLink, useDeskAddress, useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { type Column, RowsTable } from '../../shell/RowsTable';
import { useSession } from '../../shell/session';
import { Empty, ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { useTyped } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { DirectoryTabs } from '../Tabs';
import { FilterField } from './FilterField';

type Line = Schemas['GroupLine'];

const COLUMNS: Column<Line>[] = [
  {
    key: 'name',
    label: words.groups.columns.name,
    width: 'minmax(12rem, 2fr)',
    sort: 'name',
    cell: (group) => <DeskLink to={`/desk/groups/${group.id}`}>{group.name}</DeskLink>,
  },
  {
    key: 'form',
    label: words.groups.columns.form,
    width: 'minmax(9rem, 1.2fr)',
    sort: 'form',
    cell: (group) =>
      group.source === null
        ? words.groups.forms[group.form]
        : `${words.groups.forms[group.form]}, ${words.people.from(group.source)}`,
  },
  {
    key: 'people',
    label: words.groups.columns.people,
    width: '6rem',
    sort: 'people',
    numeric: true,
    cell: (group) => <span className="mono">{words.count(group.people)}</span>,
  },
  {
    key: 'groups',
    label: words.groups.columns.groups,
    width: '7rem',
    numeric: true,
    cell: (group) => <span className="mono">{group.groups === 0 ? '' : group.groups}</span>,
  },
  {
    key: 'owners',
    label: words.groups.columns.owners,
    width: 'minmax(8rem, 1.4fr)',
    cell: (group) => group.owners.join(', '),
  },
];

export function GroupsPage() {
  const [get, set] = useAddress();
  const { asOf, day } = useLens();
  const { has } = useSession();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const [making, setMaking] = useState(false);
  const find = useDeferredValue(get('find'));
  const sort = get('sort') || 'name';
  const descending = get('descending') === 'true';
  const query = { find, form: get('form') === '' ? [] : [get('form')], sort, descending, asOf };
  const ask = (offset: number, limit: number) =>
    answer(api.GET('/api/groups', { params: { query: { ...query, offset, limit } } }));
  const page = async (offset: number, limit: number) => {
    const { total, lines } = await ask(offset, limit);
    return { total, rows: lines };
  };
  const head = useQuery({ queryKey: ['groups-head', query], queryFn: () => ask(0, 1) });
  const make = has('groups.edit') && day === undefined && (
    <Button onClick={() => setMaking(true)}>{words.groups.make}</Button>
  );
  return (
    <>
      <DirectoryTabs />
      <header>
        <PageHeading>{words.groups.title}</PageHeading>
        <span className="dim" role="status">
          {head.data !== undefined && words.groups.total(head.data.total, head.data.of)}
        </span>
      </header>
      <search className="bar">
        <FindField label={words.groups.find} className="middling" />
        <Form.Select
          aria-label={words.groups.form}
          value={get('form')}
          onChange={(event) => set({ form: event.target.value })}
        >
          <option value="">{words.groups.anyForm}</option>
          {Object.entries(words.groups.forms).map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </Form.Select>
        <span className="grow" />
        <Button
          variant="outline-primary"
          onClick={() =>
            void allRows(page).then((rows) =>
              saveCsv('groups', [
                COLUMNS.map((column) => column.label),
                ...rows.map((row) => [
                  row.name,
                  row.form,
                  String(row.people),
                  String(row.groups),
                  row.owners.join('; '),
                ]),
              ]),
            )
          }
        >
          {words.shell.download}
        </Button>
        {make}
      </search>
      <RowsTable
        label={words.groups.title}
        columns={COLUMNS}
        queryKey={['groups', query]}
        page={page}
        sort={sort}
        descending={descending}
        onSort={(wanted) =>
          set({ sort: wanted, descending: wanted === sort && !descending ? 'true' : '' })
        }
        onOpen={(group) => navigate(address(`/desk/groups/${group.id}`))}
        empty={
          get('find') === '' && get('form') === '' ? (
            <Empty title={words.groups.empty} action={make}>
              {words.groups.emptyHelp}
            </Empty>
          ) : (
            <Empty title={words.groups.nothing} />
          )
        }
      />
      <MakeGroup show={making} onClose={() => setMaking(false)} />
    </>
  );
}

function MakeGroup({ show, onClose }: { show: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const draft = useOpenDraft();
  const navigate = useNavigate();
  const { typed, sent, fromBefore } = useTyped('new group');
  const [name, setName] = typed('name', '');
  const [byFilter, setByFilter] = typed('byFilter', false);
  const [filter, setFilter] = typed('filter', '');
  const [reason, setReason] = typed('reason', '');
  const [key] = useState(repeatKey);
  const make = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/groups', {
          params: { header: { 'Idempotency-Key': key } },
          body: { name, filter: byFilter ? filter : null, reason },
        }),
      ),
    onSuccess: async (receipt) => {
      sent();
      await queries.invalidateQueries();
      navigate(placeOf(receipt, draft?.id, `/desk/groups/${receipt.result}`));
    },
  });
  const wrong = make.error instanceof Problem ? make.error.field('name') : undefined;
  return (
    <Modal show={show} onHide={onClose} aria-labelledby="make-group" size="lg">
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate();
        }}
      >
        <Modal.Body>
          <h2 id="make-group">{words.groups.make}</h2>
          {fromBefore && <KeptNote onStartAgain={sent} />}
          <TextField
            id="group-name"
            required
            label={words.groups.name}
            autoFocus
            value={name}
            onChange={setName}
            wrong={wrong}
          />
          <fieldset className="field">
            <legend>{words.groups.kind}</legend>
            <Form.Check
              type="radio"
              id="group-listed"
              name="group-kind"
              label={words.groups.makeListed}
              checked={!byFilter}
              onChange={() => setByFilter(false)}
            />
            <Form.Check
              type="radio"
              id="group-filter"
              name="group-kind"
              label={words.groups.makeFilter}
              checked={byFilter}
              onChange={() => setByFilter(true)}
            />
          </fieldset>
          {byFilter && <FilterField value={filter} onChange={setFilter} />}
          <TextField
            id="group-reason"
            label={words.groups.why}
            value={reason}
            onChange={setReason}
          />
          <ProblemNote error={make.error} fields={['name', 'filter']} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-primary" onClick={onClose}>
            {words.shell.cancel}
          </Button>
          <Button type="submit" disabled={make.isPending}>
            {words.groups.made}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
