import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useNavigate, useParams } from 'react-router';
import { answer, api, Problem, repeatKey, type Schemas } from '../../api/client';
import { Drafted } from '../../drafts/Drafted';
import { placeOf, useOpenDraft } from '../../drafts/gathering';
import { DeskLink, useDeskAddress, useLens } from '../../shell/lens';
import { type Column, RowsTable } from '../../shell/RowsTable';
import { useSession } from '../../shell/session';
import { Failure, Loading, ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { tellDate } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { words } from '../../words/en';
import { EditOwners } from '../EditOwners';
import { StatusTag } from '../people/PersonParts';
import { DirectoryTabs } from '../Tabs';
import { FilterField, useTriedFilter } from './FilterField';
import { type Chosen, PickThings } from './PickThings';

type Group = Schemas['GroupPage'];

export function GroupPage() {
  const id = useParams().id ?? '';
  const { asOf } = useLens();
  const page = useQuery({
    queryKey: ['group', id, asOf],
    queryFn: () =>
      answer(api.GET('/api/groups/{id}', { params: { path: { id }, query: { asOf } } })),
  });
  return (
    <>
      <DirectoryTabs />
      {page.error ? (
        <Failure error={page.error} again={() => page.refetch()} />
      ) : page.data === undefined ? (
        <Loading what={words.groups.title} lines={12} />
      ) : (
        <Whole group={page.data} />
      )}
    </>
  );
}

function Whole({ group }: { group: Group }) {
  return (
    <>
      <header>
        <h1>{group.name}</h1>
        <span className="tag">{words.groups.forms[group.form]}</span>
        <span className="dim">
          {words.groups.inIt(group.people, group.departed)}
          {group.unreached > 0 && `; ${words.groups.unreached(group.unreached)}`}
        </span>
      </header>
      <Drafted of={group.id} />
      {group.source !== null && <p className="dim small">{words.groups.mirrored(group.source)}</p>}
      <div className="split">
        <div style={{ display: 'grid', gap: 14, alignContent: 'start', minWidth: 0 }}>
          {group.filter !== null && <FilterPart group={group} filter={group.filter} />}
          {group.mayFill && <AddMembers group={group} />}
          <Members group={group} />
        </div>
        <aside className="margin" aria-label={group.name}>
          <h3>{words.groups.nested}</h3>
          <NestedGroups group={group} />
          <h3>{words.groups.parents}</h3>
          {group.parents.length === 0 ? (
            <p className="dim">{words.groups.noParents}</p>
          ) : (
            <ul className="plain">
              {group.parents.map((parent) => (
                <li key={parent.id}>
                  <DeskLink to={`/desk/groups/${parent.id}`}>{parent.name}</DeskLink>
                </li>
              ))}
            </ul>
          )}
          <h3>{words.groups.owners}</h3>
          <EditOwners
            owners={group.owners}
            may={group.mayEdit}
            none={words.groups.noOwners}
            save={(base, owners) =>
              answer(
                api.PUT('/api/groups/{id}/owners', {
                  params: { path: { id: group.id } },
                  body: { base, owners },
                }),
              )
            }
          />
          {group.mandates.length > 0 && (
            <>
              <h3>{words.groups.leadsTo}</h3>
              <p>{group.mandates.join(', ')}</p>
            </>
          )}
          {group.mayEdit && <RenameOrEnd group={group} />}
        </aside>
      </div>
    </>
  );
}

function FilterPart({ group, filter }: { group: Group; filter: string }) {
  const [editing, setEditing] = useState<string>();
  const [reason, setReason] = useState('');
  const tried = useTriedFilter(editing ?? '', group.id);
  const change = useAct(
    () =>
      answer(
        api.PUT('/api/groups/{id}/filter', {
          params: { path: { id: group.id } },
          body: { base: filter, filter: editing ?? '', reason },
        }),
      ),
    () => setEditing(undefined),
  );
  return (
    <section className="sheet" aria-labelledby="group-filter">
      <h2 id="group-filter">{words.groups.filter}</h2>
      {editing === undefined ? (
        <div className="bar" style={{ margin: 0 }}>
          <code>{filter}</code>
          <span className="grow" />
          {group.mayEdit && (
            <Button variant="outline-primary" onClick={() => setEditing(filter)}>
              {words.groups.edit}
            </Button>
          )}
        </div>
      ) : (
        <Form
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate(undefined);
          }}
        >
          <FilterField value={editing} onChange={setEditing} group={group.id} />
          <TextField
            id="filter-reason"
            label={words.groups.why}
            value={reason}
            onChange={setReason}
          />
          <ProblemNote error={change.error} />
          <div className="bar" style={{ margin: 0 }}>
            <Button
              type="submit"
              disabled={
                tried === undefined ||
                tried.error !== null ||
                editing === filter ||
                change.isPending
              }
            >
              {words.groups.filterSave(tried?.more ?? 0, tried?.fewer ?? 0)}
            </Button>
            <Button variant="outline-primary" onClick={() => setEditing(undefined)}>
              {words.shell.cancel}
            </Button>
          </div>
        </Form>
      )}
    </section>
  );
}

function AddMembers({ group }: { group: Group }) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<Chosen[]>([]);
  const [until, setUntil] = useState('');
  const [reason, setReason] = useState('');
  const [key, setKey] = useState(repeatKey);
  const add = useAct(
    () =>
      answer(
        api.POST('/api/groups/{id}/members', {
          params: { path: { id: group.id }, header: { 'Idempotency-Key': key } },
          body: {
            people: chosen.filter((one) => one.kind === 'person').map((one) => one.id),
            groups: chosen.filter((one) => one.kind === 'group').map((one) => one.id),
            until: until === '' ? null : until,
            reason,
          },
        }),
      ),
    () => {
      setOpen(false);
      setChosen([]);
      setReason('');
      setUntil('');
      setKey(repeatKey());
    },
  );
  const wrong = add.error instanceof Problem ? add.error.field('until') : undefined;
  if (!open) {
    return (
      <div>
        <Button variant="outline-primary" onClick={() => setOpen(true)}>
          {words.groups.add}
        </Button>
      </div>
    );
  }
  return (
    <section className="sheet" aria-labelledby="group-add">
      <h2 id="group-add">{words.groups.add}</h2>
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(undefined);
        }}
      >
        <PickThings label={words.groups.addFind} chosen={chosen} onChange={setChosen} groups />
        <TextField
          id="add-until"
          label={words.groups.untilLabel}
          type="date"
          style={{ width: '12rem' }}
          value={until}
          onChange={setUntil}
          wrong={wrong}
        />
        <TextField id="add-reason" label={words.groups.why} value={reason} onChange={setReason} />
        <ProblemNote error={add.error} fields={['until']} />
        <div className="bar" style={{ margin: 0 }}>
          <Button type="submit" disabled={chosen.length === 0 || add.isPending}>
            {words.groups.addChosen(chosen.length)}
          </Button>
          <Button variant="outline-primary" onClick={() => setOpen(false)}>
            {words.shell.cancel}
          </Button>
        </div>
      </Form>
    </section>
  );
}

type MemberRow = Schemas['MemberLine'] & { id: string };

function Members({ group }: { group: Group }) {
  const { asOf } = useLens();
  const [text, setText] = useState('');
  const find = useDeferredValue(text);
  const [departed, setDeparted] = useState(false);
  const { has } = useSession();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const take = useAct((member: { kind: string; id: string }) =>
    answer(
      api.DELETE('/api/groups/{id}/members/{kind}/{member}', {
        params: { path: { id: group.id, kind: member.kind, member: member.id } },
      }),
    ),
  );
  const columns: Column<MemberRow>[] = [
    {
      key: 'name',
      label: words.groups.member,
      width: 'minmax(10rem, 1.6fr)',
      cell: (row) =>
        has('people.read') ? (
          <DeskLink to={`/desk/people/${row.person.id}`}>{row.person.familyFirst}</DeskLink>
        ) : (
          <span>{row.person.familyFirst}</span>
        ),
    },
    {
      key: 'unit',
      label: words.people.columns.unit,
      width: 'minmax(8rem, 1fr)',
      cell: (row) => row.person.unit,
    },
    {
      key: 'status',
      label: words.people.columns.status,
      width: '7rem',
      cell: (row) => <StatusTag status={row.person.status} />,
    },
    {
      key: 'through',
      label: words.groups.through,
      width: 'minmax(10rem, 1.6fr)',
      cell: (row) => (
        <span>
          {row.direct ? words.groups.direct : row.chain.map((step) => step.name).join(' → ')}
          {row.until !== null && ` ${words.groups.until(tellDate(row.until))}`}
        </span>
      ),
    },
    ...(group.mayFill && group.direct > 0
      ? [
          {
            key: 'out',
            label: words.groups.takeOut,
            width: '7rem',
            cell: (row: MemberRow) =>
              row.direct ? (
                <Button
                  variant="link"
                  disabled={take.isPending}
                  aria-label={words.groups.take(row.person.displayed)}
                  onClick={() => take.mutate({ kind: 'person', id: row.person.id })}
                >
                  {words.groups.takeOut}
                </Button>
              ) : null,
          },
        ]
      : []),
  ];
  return (
    <section aria-labelledby="group-members" style={{ minWidth: 0 }}>
      <div className="bar">
        <h2 id="group-members" style={{ margin: 0 }}>
          {words.groups.members}
        </h2>
        <Form.Control
          type="text"
          aria-label={words.people.find}
          placeholder={words.people.find}
          style={{ width: '18rem' }}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {group.departed > 0 && (
          <Form.Check
            id="members-departed"
            label={words.groups.showDeparted(group.departed)}
            checked={departed}
            onChange={(event) => setDeparted(event.target.checked)}
          />
        )}
      </div>
      <ProblemNote error={take.error} />
      <RowsTable
        label={words.groups.members}
        columns={columns}
        queryKey={['members', group.id, asOf, find, departed]}
        page={async (offset, limit) => {
          const { total, lines } = await answer(
            api.GET('/api/groups/{id}/members', {
              params: { path: { id: group.id }, query: { find, departed, offset, limit, asOf } },
            }),
          );
          return { total, rows: lines.map((line) => ({ ...line, id: line.person.id })) };
        }}
        onOpen={(row) => {
          if (has('people.read')) {
            navigate(address(`/desk/people/${row.person.id}`));
          }
        }}
        empty={<p className="dim">{words.groups.noMembers}</p>}
      />
    </section>
  );
}

function NestedGroups({ group }: { group: Group }) {
  const take = useAct((id: string) =>
    answer(
      api.DELETE('/api/groups/{id}/members/{kind}/{member}', {
        params: { path: { id: group.id, kind: 'group', member: id } },
      }),
    ),
  );
  if (group.groups.length === 0) {
    return <p className="dim">{words.groups.noNested}</p>;
  }
  return (
    <>
      <ul className="plain">
        {group.groups.map((nested) => (
          <li key={nested.id}>
            <DeskLink to={`/desk/groups/${nested.id}`}>{nested.name}</DeskLink>{' '}
            <span className="dim small">
              {words.groups.people(nested.people)}, {words.groups.forms[nested.form]}
            </span>{' '}
            {group.mayFill && (
              <Button
                variant="link"
                className="small"
                aria-label={words.groups.take(nested.name)}
                onClick={() => take.mutate(nested.id)}
              >
                {words.groups.takeOut}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <ProblemNote error={take.error} />
    </>
  );
}

function RenameOrEnd({ group }: { group: Group }) {
  const navigate = useNavigate();
  const draft = useOpenDraft();
  const [name, setName] = useState<string>();
  const [ending, setEnding] = useState(false);
  const rename = useAct(
    () =>
      answer(
        api.PUT('/api/groups/{id}/name', {
          params: { path: { id: group.id } },
          body: { base: group.name, name: name ?? '' },
        }),
      ),
    () => setName(undefined),
  );
  const end = useAct(
    () => answer(api.DELETE('/api/groups/{id}', { params: { path: { id: group.id } } })),
    (receipt) => navigate(placeOf(receipt, draft?.id, '/desk/groups')),
  );
  const wrong = rename.error instanceof Problem ? rename.error.field('name') : undefined;
  return (
    <>
      <h3>{words.groups.edit}</h3>
      {name === undefined ? (
        <div className="bar">
          <Button variant="outline-primary" onClick={() => setName(group.name)}>
            {words.groups.rename}
          </Button>
          {group.source === null && (
            <Button variant="outline-danger" onClick={() => setEnding(true)}>
              {words.groups.end}
            </Button>
          )}
        </div>
      ) : (
        <Form
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            rename.mutate(undefined);
          }}
        >
          <TextField
            id="rename"
            label={words.groups.name}
            autoFocus
            value={name}
            onChange={setName}
            wrong={wrong}
          />
          <ProblemNote error={rename.error} fields={['name']} />
          <div className="bar">
            <Button type="submit" disabled={rename.isPending}>
              {words.groups.rename}
            </Button>
            <Button variant="outline-primary" onClick={() => setName(undefined)}>
              {words.shell.cancel}
            </Button>
          </div>
        </Form>
      )}
      <Modal show={ending} onHide={() => setEnding(false)} aria-labelledby="end-group">
        <Modal.Body>
          <h2 id="end-group">{words.groups.end}</h2>
          <p>{words.groups.inIt(group.people, group.departed)}</p>
          <ProblemNote error={end.error} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-primary" onClick={() => setEnding(false)}>
            {words.shell.cancel}
          </Button>
          <Button
            variant="outline-danger"
            disabled={end.isPending}
            onClick={() => end.mutate(undefined)}
          >
            {words.groups.endReally(
              group.name,
              group.form === 'filter' ? group.groups.length : group.direct + group.groups.length,
            )}
          </Button>
        </Modal.Footer>
      </Modal>
    </>
  );
}
