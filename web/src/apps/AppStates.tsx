import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { type Manner, useForesight } from '../drafts/foresight';
import { useSettled } from '../shell/settled';
import { ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';

type Page = Schemas['AppPage'];

type State = Schemas['SetState']['state'];

const NEXT: Record<string, State[]> = {
  proposed: ['OPEN'],
  open: ['PAUSED', 'RETIRED'],
  paused: ['OPEN', 'RETIRED'],
  blocked: ['RETIRED'],
  retired: [],
};

export function States({ page }: { page: Page }) {
  const [wanted, setWanted] = useState<State>();
  const settled = useSettled();
  const kept = useTyped(`state of ${page.app.id}`);
  const [reason, setReason] = kept.typed('reason', '');
  const send = (state: State, manner: Manner) =>
    answer(
      api.PUT('/api/apps/{id}/state', {
        params: { path: { id: page.app.id } },
        headers: manner,
        body: { base: page.app.state.toUpperCase() as State, state, reason },
      }),
    );
  const foresight = useForesight(
    ['app-state', page.app.id, page.app.state, wanted],
    (manner) => send(wanted ?? 'OPEN', manner),
    wanted !== undefined,
  );
  const set = useAct(
    (state: State) => send(state, foresight.agreed),
    () => {
      kept.sent();
      setWanted(undefined);
    },
    words.apps.become[(wanted ?? 'OPEN').toLowerCase()],
  );
  // Nobody holds anything of what is not open yet.
  const first = page.app.state === 'proposed';
  return (
    <>
      {(NEXT[page.app.state] ?? []).map((state) => (
        <Button
          key={state}
          variant={state === 'OPEN' ? 'primary' : 'outline-danger'}
          disabled={!settled || set.isPending || (state === 'OPEN' && page.missing.length > 0)}
          onClick={() => (first && state === 'OPEN' ? set.mutate(state) : setWanted(state))}
        >
          {words.apps.become[state.toLowerCase()]}
        </Button>
      ))}
      {wanted === undefined && <ProblemNote error={set.error} />}
      {wanted !== undefined && (
        <ActDialog
          gathers
          danger={wanted !== 'OPEN'}
          foresight={foresight}
          title={`${words.apps.become[wanted.toLowerCase()]} “${page.app.name}”`}
          act={words.apps.become[wanted.toLowerCase()] ?? ''}
          disabled={set.isPending}
          error={set.error}
          onAct={() => set.mutate(wanted)}
          onClose={() => setWanted(undefined)}
        >
          <p>{words.apps.becomeHelp[wanted.toLowerCase()]}</p>
          <TextField
            id="state-reason"
            label={words.groups.why}
            value={reason}
            onChange={setReason}
          />
        </ActDialog>
      )}
    </>
  );
}
