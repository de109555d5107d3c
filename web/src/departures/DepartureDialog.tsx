import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { answer, api, Problem, repeatKey } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { type Manner, useForesight } from '../drafts/foresight';
import { useDeskAddress } from '../shell/lens';
import { Failure, Loading } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';
import { SlipLines } from './SlipPage';

/** Ending all that one person has, after seeing what it comes to. */
export function DepartureDialog({
  id,
  name,
  onClose,
}: {
  id: string;
  name: string;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const address = useDeskAddress();
  const kept = useTyped(`departure ${id}`);
  const [reason, setReason] = kept.typed('reason', '');
  const [key] = useState(repeatKey);
  const preview = useQuery({
    queryKey: ['departure', id],
    queryFn: () => answer(api.GET('/api/people/{id}/departure', { params: { path: { id } } })),
  });
  const send = (why: string, manner: Manner) =>
    answer(
      api.POST('/api/people/{id}/departure', {
        params: { path: { id }, header: { 'Idempotency-Key': key } },
        headers: manner,
        body: { reason: why },
      }),
    );
  const foresight = useForesight(['departure', id], (manner) => send(words.access.ahead, manner));
  const run = useAct(
    () => send(reason, foresight.agreed),
    () => {
      kept.sent();
      navigate(address(`/desk/departures/${id}`));
    },
  );
  return (
    <ActDialog
      large
      danger
      title={words.departures.title(name)}
      act={words.departures.run(preview.data?.lost.length ?? 0)}
      foresight={foresight}
      disabled={preview.data === undefined || run.isPending}
      error={run.error}
      fields={['reason']}
      onAct={() => run.mutate()}
      onClose={onClose}
    >
      <p>{words.departures.help}</p>
      {preview.error ? (
        <Failure error={preview.error} again={() => preview.refetch()} />
      ) : preview.data === undefined ? (
        <Loading what={words.departures.slip} />
      ) : (
        <SlipLines slip={preview.data} heading="h3" ahead />
      )}
      <TextField
        id="departure-reason"
        label={words.groups.why}
        value={reason}
        onChange={setReason}
        wrong={run.error instanceof Problem ? run.error.field('reason') : undefined}
      />
    </ActDialog>
  );
}
