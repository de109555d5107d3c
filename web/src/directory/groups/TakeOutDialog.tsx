import { useState } from 'react';
import { answer, api, type Schemas } from '../../api/client';
import { ActDialog } from '../../drafts/ActDialog';
import { type Manner, useForesight } from '../../drafts/foresight';
import { TextField } from '../../shell/TextField';
import { useAct } from '../../shell/useAct';
import { words } from '../../words/en';

type Group = Schemas['GroupPage'];

export type Leaving = { kind: 'person' | 'group'; id: string; name: string };

/** Taking a member out, after seeing what that ends. */
export function TakeOutDialog({
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
