import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useNavigate, useParams } from 'react-router';
import { answer, api, Problem, repeatKey, type Schemas } from '../../api/client';
import { ActDialog } from '../../drafts/ActDialog';
import { Drafted } from '../../drafts/Drafted';
import { Foreseen, type Manner, useForesight } from '../../drafts/foresight';
import { placeOf, useOpenDraft } from '../../drafts/gathering';
import { type Figure, Head } from '../../shell/Head';
import { KeptNote } from '../../shell/KeptNote';
import { DeskLink, useDeskAddress, useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { type Column, RowsTable } from '../../shell/RowsTable';
import { useSession } from '../../shell/session';
import { useStale } from '../../shell/stale';
import { Failure, Loading, ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { tellDate, tellDay, UNREADABLE } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { useEdited, useTyped } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { EditOwners } from '../EditOwners';
import { FilterSaid } from '../filter/FilterSaid';
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
      <Head
        kind={words.groups.one}
        heading={<PageHeading>{group.name}</PageHeading>}
        lead={
          group.source === null
            ? words.groups.formLines[group.form]
            : words.groups.mirrored(group.source)
        }
        figures={figuresOf(group)}
      />
      <Drafted of={group.id} />
      <div className="split">
        <div className="column">
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

function figuresOf(group: Group): Figure[] {
  return [
    { n: words.count(group.people), of: words.groups.figures.people(group.people) },
    ...(group.departed > 0
      ? [{ n: words.count(group.departed), of: words.groups.figures.departed }]
      : []),
    ...(group.unreached > 0
      ? [{ n: words.count(group.unreached), of: words.groups.figures.unreached }]
      : []),
  ];
}

function FilterPart({ group, filter }: { group: Group; filter: string }) {
  const [editing, setEditing] = useState(false);
  return (
    <section className="part" aria-labelledby="group-filter">
      <h2 id="group-filter">{words.groups.filter}</h2>
      {editing ? (
        <FilterForm group={group} filter={filter} onClose={() => setEditing(false)} />
      ) : (
        <div className="bar flush">
          <FilterSaid said={group.filterWords ?? filter} filter={filter} />
          <span className="grow" />
          {group.mayEdit && (
            <Button variant="outline-primary" onClick={() => setEditing(true)}>
              {words.groups.edit}
            </Button>
          )}
        </div>
      )}
    </section>
  );
}

function FilterForm({
  group,
  filter,
  onClose,
}: {
  group: Group;
  filter: string;
  onClose: () => void;
}) {
  const edited = useEdited(`filter of ${group.id}`, { filter });
  const text = edited.wanted.filter;
  const setText = (next: string) => edited.setWanted({ filter: next });
  const [reason, setReason] = edited.typed('reason', '');
  const tried = useTriedFilter(text, group.id);
  const stale = useStale({
    now: { filter },
    wanted: edited.wanted,
    onChange: edited.setWanted,
    kept: edited,
    labels: { filter: words.groups.filter },
  });
  const base = stale.base.filter;
  const send = (wanted: string, manner: Manner) =>
    answer(
      api.PUT('/api/groups/{id}/filter', {
        params: { path: { id: group.id } },
        headers: manner,
        body: { base, filter: wanted, reason },
      }),
    );
  const wanted = useDeferredValue(text);
  const fits = tried !== undefined && tried.error === null && wanted !== base && !stale.blocked;
  const foresight = useForesight(
    ['filter', group.id, base, wanted],
    (manner) => send(wanted, manner),
    fits,
  );
  const change = useAct(
    () => send(text, foresight.agreed),
    () => {
      edited.sent();
      onClose();
    },
  );
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate();
      }}
    >
      {edited.fromBefore && <KeptNote onStartAgain={() => edited.sent()} />}
      {stale.note}
      <FilterField value={text} onChange={setText} group={group.id} />
      <TextField id="filter-reason" label={words.groups.why} value={reason} onChange={setReason} />
      {fits && <Foreseen of={foresight} />}
      <ProblemNote error={change.error} />
      <div className="bar flush">
        <Button
          type="submit"
          disabled={!fits || text !== wanted || !foresight.may || change.isPending}
        >
          {words.groups.filterSave(tried?.more ?? 0, tried?.fewer ?? 0)}
        </Button>
        <Button variant="outline-primary" onClick={onClose}>
          {words.shell.cancel}
        </Button>
      </div>
    </Form>
  );
}

function AddMembers({ group }: { group: Group }) {
  const [open, setOpen] = useState(false);
  const { typed, sent } = useTyped(`members of ${group.id}`);
  const [chosen, setChosen] = typed<Chosen[]>('chosen', []);
  const [until, setUntil] = typed('until', '');
  const [reason, setReason] = typed('reason', '');
  const [key, setKey] = useState(repeatKey);
  const form = {
    people: chosen.filter((one) => one.kind === 'person').map((one) => one.id),
    groups: chosen.filter((one) => one.kind === 'group').map((one) => one.id),
    until: until === '' ? null : until,
  };
  const send = (manner: Manner) =>
    answer(
      api.POST('/api/groups/{id}/members', {
        params: { path: { id: group.id }, header: { 'Idempotency-Key': key } },
        headers: manner,
        body: { ...form, reason },
      }),
    );
  const foresight = useForesight(
    ['members-add', group.id, form],
    send,
    chosen.length > 0 && until !== UNREADABLE,
  );
  const add = useAct(
    () => send(foresight.agreed),
    () => {
      setOpen(false);
      sent();
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
    <section className="part" aria-labelledby="group-add">
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
          className="middling"
          value={until}
          onChange={setUntil}
          wrong={wrong}
        />
        <TextField id="add-reason" label={words.groups.why} value={reason} onChange={setReason} />
        {chosen.length > 0 && <Foreseen of={foresight} />}
        <ProblemNote error={add.error} fields={['until']} />
        <div className="bar flush">
          <Button type="submit" disabled={chosen.length === 0 || !foresight.may || add.isPending}>
            {words.groups.addChosen(chosen.length)}
            {`, ${until === '' ? words.shell.noEnd : words.shell.until(tellDay(until))}`}
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
  const [taking, setTaking] = useState<Leaving>();
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
                  aria-label={words.groups.take(row.person.displayed)}
                  onClick={() =>
                    setTaking({ kind: 'person', id: row.person.id, name: row.person.displayed })
                  }
                >
                  {words.groups.takeOut}
                </Button>
              ) : null,
          },
        ]
      : []),
  ];
  return (
    <section aria-labelledby="group-members" className="may-shrink">
      <div className="bar">
        <h2 id="group-members" className="flush">
          {words.groups.members}
        </h2>
        <Form.Control
          type="text"
          aria-label={words.people.find}
          placeholder={words.people.find}
          className="broad"
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
      {taking !== undefined && (
        <TakeOutDialog group={group} member={taking} onClose={() => setTaking(undefined)} />
      )}
    </section>
  );
}

type Leaving = { kind: 'person' | 'group'; id: string; name: string };

/** Taking a member out, after seeing what that ends. */
function TakeOutDialog({
  group,
  member,
  onClose,
}: {
  group: Group;
  member: Leaving;
  onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const send = (manner: Manner) =>
    answer(
      api.DELETE('/api/groups/{id}/members/{kind}/{member}', {
        params: {
          path: { id: group.id, kind: member.kind, member: member.id },
          query: { reason: reason === '' ? undefined : reason },
        },
        headers: manner,
      }),
    );
  const foresight = useForesight(['take-out', group.id, member.id], send);
  const take = useAct(() => send(foresight.agreed), onClose);
  return (
    <ActDialog
      gathers
      danger
      title={words.groups.takeTitle(member.name, group.name)}
      act={words.groups.takeOut}
      foresight={foresight}
      disabled={take.isPending}
      error={take.error}
      onAct={() => take.mutate()}
      onClose={onClose}
    >
      <TextField
        id="take-out-reason"
        label={words.groups.why}
        value={reason}
        onChange={setReason}
      />
    </ActDialog>
  );
}

function NestedGroups({ group }: { group: Group }) {
  const [taking, setTaking] = useState<Leaving>();
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
                onClick={() => setTaking({ kind: 'group', id: nested.id, name: nested.name })}
              >
                {words.groups.takeOut}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {taking !== undefined && (
        <TakeOutDialog group={group} member={taking} onClose={() => setTaking(undefined)} />
      )}
    </>
  );
}

function RenameOrEnd({ group }: { group: Group }) {
  const navigate = useNavigate();
  const draft = useOpenDraft();
  const [renaming, setRenaming] = useState(false);
  const [ending, setEnding] = useState(false);
  const send = (manner: Manner) =>
    answer(api.DELETE('/api/groups/{id}', { params: { path: { id: group.id } }, headers: manner }));
  const foresight = useForesight(['end-group', group.id], send, ending);
  const end = useAct(
    () => send(foresight.agreed),
    (receipt) => navigate(placeOf(receipt, draft?.id, '/desk/groups')),
  );
  return (
    <>
      <h3>{words.groups.edit}</h3>
      {renaming ? (
        <RenameForm group={group} onClose={() => setRenaming(false)} />
      ) : (
        <div className="bar">
          <Button variant="outline-primary" onClick={() => setRenaming(true)}>
            {words.groups.rename}
          </Button>
          {group.source === null && (
            <Button variant="outline-danger" onClick={() => setEnding(true)}>
              {words.groups.end}
            </Button>
          )}
        </div>
      )}
      {ending && (
        <ActDialog
          gathers
          danger
          title={words.groups.endTitle(group.name)}
          act={words.groups.endReally(
            group.name,
            group.form === 'filter' ? group.groups.length : group.direct + group.groups.length,
          )}
          foresight={foresight}
          disabled={end.isPending}
          error={end.error}
          onAct={() => end.mutate()}
          onClose={() => setEnding(false)}
        >
          <p>{words.groups.inIt(group.people, group.departed)}</p>
        </ActDialog>
      )}
    </>
  );
}

function RenameForm({ group, onClose }: { group: Group; onClose: () => void }) {
  const edited = useEdited(`name of ${group.id}`, { name: group.name });
  const { name } = edited.wanted;
  const setName = (next: string) => edited.setWanted({ name: next });
  const stale = useStale({
    now: { name: group.name },
    wanted: edited.wanted,
    onChange: edited.setWanted,
    kept: edited,
    labels: { name: words.groups.name },
  });
  const rename = useAct(
    () =>
      answer(
        api.PUT('/api/groups/{id}/name', {
          params: { path: { id: group.id } },
          body: { base: stale.base.name, name },
        }),
      ),
    () => {
      edited.sent();
      onClose();
    },
  );
  const wrong = rename.error instanceof Problem ? rename.error.field('name') : undefined;
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        rename.mutate();
      }}
    >
      {edited.fromBefore && <KeptNote onStartAgain={() => edited.sent()} />}
      {stale.note}
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
        <Button type="submit" disabled={stale.blocked || rename.isPending}>
          {words.groups.rename}
        </Button>
        <Button variant="outline-primary" onClick={onClose}>
          {words.shell.cancel}
        </Button>
      </div>
    </Form>
  );
}
