import { useState } from 'react';
import { answer, api, Problem, type Schemas } from '../../api/client';
import type { Chosen } from '../../directory/groups/PickThings';
import { ActDialog } from '../../drafts/ActDialog';
import { type Manner, useForesight } from '../../drafts/foresight';
import { useStale } from '../../shell/stale';
import { TextField } from '../../shell/TextField';
import { useAct } from '../../shell/useAct';
import { useEdited } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { scopeName } from '../Scopes';
import { EditForm } from './EditForm';
import { type Edited, editedOf, shapeOf } from './form';
import { Tried } from './Tried';
import { useTried } from './useTried';

/** Changing what is asked, with what it would look like to somebody. */
export function FormDialog({ view, onClose }: { view: Schemas['FormView']; onClose: () => void }) {
  const { line } = view;
  const now = { set: line.set, form: editedOf(view.form) };
  const kept = useEdited(`form ${line.scope}`, now);
  const stale = useStale({
    now,
    wanted: kept.wanted,
    onChange: kept.setWanted,
    kept,
    labels: { form: words.forms.questions },
    tell: (_, value) => (typeof value === 'boolean' ? '' : told(value)),
  });
  const [person, setPerson] = useState<Chosen>();
  const [reason, setReason] = kept.typed('reason', '');
  const shape = shapeOf(kept.wanted.form);
  const tried = useTried(shape, person?.id);
  const problems = tried.data?.problems ?? [];
  const ready = tried.data !== undefined && problems.length === 0;
  const same = line.set && JSON.stringify(shape) === JSON.stringify(shapeOf(stale.base.form));
  const send = (because: string, manner: Manner) =>
    answer(
      api.PUT('/api/forms/{scope}', {
        params: { path: { scope: line.scope } },
        headers: manner,
        body: {
          base: stale.base.set ? shapeOf(stale.base.form) : null,
          wanted: shape,
          reason: because,
        },
      }),
    );
  const foresight = useForesight(
    ['form', line.scope, JSON.stringify(shape)],
    (manner) => send(words.access.ahead, manner),
    ready && !same && !tried.isPlaceholderData && !stale.blocked,
  );
  const save = useAct(
    () => send(reason, foresight.agreed),
    () => {
      kept.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    problems.find((problem) => problem.field === field)?.sentence ??
    (save.error instanceof Problem ? save.error.field(field) : undefined);
  return (
    <ActDialog
      gathers
      large
      title={words.forms.changeTitle(scopeName(line))}
      act={words.forms.save}
      stale={stale}
      kept={kept}
      foresight={foresight}
      disabled={!ready || same || save.isPending}
      error={save.error}
      fields={['reason', ...problems.map((problem) => problem.field)]}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <EditForm
        edited={kept.wanted.form}
        conditions={tried.data?.conditions ?? view.conditions}
        attributes={view.attributes}
        wrong={wrong}
        onChange={(form) => kept.setWanted({ ...kept.wanted, form })}
      />
      <Tried
        tried={tried.data}
        error={tried.error}
        again={() => tried.refetch()}
        person={person}
        onPerson={setPerson}
      />
      <TextField
        id="form-reason"
        label={words.groups.why}
        maxLength={500}
        value={reason}
        onChange={setReason}
        wrong={save.error instanceof Problem ? save.error.field('reason') : undefined}
      />
    </ActDialog>
  );
}

function told(form: Edited): string {
  return form.questions.map((one) => one.label).join(', ') || words.forms.none;
}
