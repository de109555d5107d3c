import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { answer, api, Problem, type Schemas } from '../../api/client';
import { ActDialog } from '../../drafts/ActDialog';
import { type Manner, useForesight } from '../../drafts/foresight';
import { placeOf, useOpenDraft } from '../../drafts/gathering';
import { KeptNote } from '../../shell/KeptNote';
import { useStale } from '../../shell/stale';
import { ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { useAct } from '../../shell/useAct';
import { useEdited } from '../../shell/useUnsent';
import { words } from '../../words/en';

type Group = Schemas['GroupPage'];

export function RenameOrEnd({ group }: { group: Group }) {
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
