import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { ActDialog } from '../shell/ActDialog';
import { useSession } from '../shell/session';
import { TextField } from '../shell/TextField';
import { dayIn, lastDay } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { EffectsNote } from './EffectsNote';

/** Ending a whole grant now, or moving the day after which it ends by itself. */
export function EndGrantDialog({
  grant,
  title,
  onClose,
}: {
  grant: Schemas['GrantLine'];
  title: string;
  onClose: () => void;
}) {
  const { zone } = useSession();
  const base = grant.until === null ? '' : lastDay(zone, grant.until);
  const [now, setNow] = useState(true);
  const [until, setUntil] = useState(base);
  const [reason, setReason] = useState('');
  const [key] = useState(repeatKey);
  const body = { grants: [grant.id], memberships: [] };
  const preview = useQuery({
    queryKey: ['end', grant.id],
    queryFn: () =>
      answer(
        api.POST('/api/grants/end/preview', { body: { ...body, reason: words.access.ahead } }),
      ),
  });
  const end = useAct(
    () =>
      now
        ? answer(
            api.POST('/api/grants/end', {
              params: { header: { 'Idempotency-Key': key } },
              body: { ...body, reason, digest: preview.data?.digest ?? null },
            }),
          )
        : answer(
            api.PUT('/api/grants/{id}/until', {
              params: { path: { id: grant.id } },
              body: {
                base: base === '' ? null : base,
                until: until === '' ? null : until,
                reason,
              },
            }),
          ),
    onClose,
  );
  const wrong = (field: string) =>
    end.error instanceof Problem ? end.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      danger
      title={words.access.endGrantTitle(title, grant.subject.name)}
      act={now ? words.access.endGrant(losers(preview.data)) : words.access.setEnd}
      disabled={(now && preview.data === undefined) || end.isPending}
      error={end.error}
      fields={['reason', 'until']}
      onAct={() => end.mutate()}
      onClose={onClose}
    >
      <Form.Check
        type="radio"
        name="when"
        id="end-now"
        label={words.access.endNow}
        checked={now}
        onChange={() => setNow(true)}
      />
      <Form.Check
        type="radio"
        name="when"
        id="end-on"
        label={words.access.moveEnd}
        checked={!now}
        onChange={() => setNow(false)}
      />
      {now ? (
        <EffectsNote effects={preview.data} />
      ) : (
        <TextField
          id="end-until"
          label={words.access.lastDay}
          type="date"
          min={dayIn(zone, new Date())}
          value={until}
          onChange={setUntil}
          wrong={wrong('until')}
        />
      )}
      <TextField
        id="end-grant-reason"
        label={words.groups.why}
        value={reason}
        onChange={setReason}
        wrong={wrong('reason')}
      />
    </ActDialog>
  );
}

function losers(effects: Schemas['EffectsView'] | undefined): number {
  return (effects?.loss ?? []).reduce((sum, line) => sum + line.people, 0);
}
