import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../../api/client';
import { Foreseen, type Manner, useForesight } from '../../drafts/foresight';
import { KeptNote } from '../../shell/KeptNote';
import { useStale } from '../../shell/stale';
import { ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { useAct } from '../../shell/useAct';
import { useEdited } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { FilterSaid } from '../filter/FilterSaid';
import { FilterField, useTriedFilter } from './FilterField';

type Group = Schemas['GroupPage'];

export function FilterPart({ group, filter }: { group: Group; filter: string }) {
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
