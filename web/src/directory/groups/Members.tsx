import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import { DeskLink, useDeskAddress, useLens } from '../../shell/lens';
import { type Column, RowsTable } from '../../shell/RowsTable';
import { useSession } from '../../shell/session';
import { tellDate } from '../../shell/times';
import { words } from '../../words/en';
import { StatusTag } from '../people/PersonParts';
import { type Leaving, TakeOutDialog } from './TakeOutDialog';

type Group = Schemas['GroupPage'];

type MemberRow = Schemas['MemberLine'] & { id: string };

export function Members({ group }: { group: Group }) {
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
