import { useState } from 'react';
import { answer, api, Problem, type Schemas } from '../../api/client';
import { ActDialog } from '../../drafts/ActDialog';
import { type Manner, useForesight } from '../../drafts/foresight';
import { useStale } from '../../shell/stale';
import { TextField } from '../../shell/TextField';
import { useAct } from '../../shell/useAct';
import { useEdited } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { conditionFields } from '../forms/form';
import { scopeName } from '../Scopes';
import { Drawn, type Example } from './Drawn';
import { EditSteps } from './EditSteps';
import { formsOf, stepsOf, told, whole } from './steps';

/** Changing the steps of a route, with what they would come to for somebody. */
export function RouteDialog({
  view,
  first,
  onClose,
}: {
  view: Schemas['RouteView'];
  first: Example;
  onClose: () => void;
}) {
  const { route: line, open } = view;
  const now = { set: line.set, steps: stepsOf(line.steps) };
  const kept = useEdited(`route ${line.scope}`, now);
  const stale = useStale({
    now,
    wanted: kept.wanted,
    onChange: kept.setWanted,
    kept,
    labels: { steps: words.routes.steps },
    tell: (_, value) => (typeof value === 'boolean' ? '' : told(value)),
  });
  const shapes = new Map(
    line.steps.flatMap(({ onlyIf, condition }) =>
      condition.shape === null ? [] : [[onlyIf, condition.shape] as const],
    ),
  );
  const [example, setExample] = useState(first);
  const [reason, setReason] = kept.typed('reason', '');
  const { steps } = kept.wanted;
  const same = line.set && JSON.stringify(steps) === JSON.stringify(stale.base.steps);
  const ready = whole(steps) && !same;
  const send = (because: string, manner: Manner) =>
    answer(
      api.PUT('/api/routes/{scope}', {
        params: { path: { scope: line.scope } },
        headers: manner,
        body: {
          base: stale.base.set ? formsOf(stale.base.steps) : null,
          steps: formsOf(steps),
          reason: because,
        },
      }),
    );
  const foresight = useForesight(
    ['route', line.scope, JSON.stringify(steps)],
    (manner) => send(words.access.ahead, manner),
    ready && !stale.blocked,
  );
  const save = useAct(
    () => send(reason, foresight.agreed),
    () => {
      kept.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      large
      title={words.routes.changeTitle(scopeName(line))}
      act={words.routes.save}
      stale={stale}
      kept={kept}
      foresight={foresight}
      disabled={!ready || save.isPending}
      error={save.error}
      fields={['reason', ...steps.map((_, at) => `steps.${at}.onlyIf`)]}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <EditSteps
        steps={steps}
        known={conditionFields(view.questions, view.attributes)}
        shapes={shapes}
        wrong={(at) => wrong(`steps.${at}.onlyIf`)}
        onChange={(next) => kept.setWanted({ ...kept.wanted, steps: next })}
      />
      <Drawn steps={steps} example={example} onExample={setExample} />
      {open > 0 && <p>{words.routes.keep(open)}</p>}
      <TextField
        id="route-reason"
        label={words.groups.why}
        maxLength={500}
        value={reason}
        onChange={setReason}
        wrong={wrong('reason')}
      />
    </ActDialog>
  );
}
