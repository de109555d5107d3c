import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { type Foresight, type Manner, useForesight } from '../drafts/foresight';
import { useSession } from '../shell/session';
import { useStale } from '../shell/stale';
import { TextField } from '../shell/TextField';
import { dayIn, lastDay, tellDay, UNREADABLE } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';

/** Ending a whole grant now, or moving the day after which it ends by itself. */
export function EndGrantDialog({
  grant,
  title,
  moves = false,
  onClose,
}: {
  grant: Schemas['GrantLine'];
  title: string;
  /** Whether its last day is what is to be changed. */
  moves?: boolean;
  onClose: () => void;
}) {
  const { zone } = useSession();
  const ends = grant.until === null ? '' : lastDay(zone, grant.until);
  const [now, setNow] = useState(!moves);
  const edited = useEdited(`end of ${grant.id}`, { until: ends });
  const { until } = edited.wanted;
  const setUntil = (day: string) => edited.setWanted({ until: day });
  const stale = useStale({
    now: { until: ends },
    wanted: edited.wanted,
    onChange: edited.setWanted,
    kept: edited,
    labels: { until: words.access.lastDay },
    tell: (_, day) => (day === '' ? words.access.noEnd : tellDay(day)),
  });
  const base = stale.base.until;
  const [reason, setReason] = edited.typed('reason', '');
  const [key] = useState(repeatKey);
  const send = (why: string, manner: Manner) =>
    now
      ? answer(
          api.POST('/api/grants/end', {
            params: { header: { 'Idempotency-Key': key } },
            headers: manner,
            body: { grants: [grant.id], memberships: [], reason: why },
          }),
        )
      : answer(
          api.PUT('/api/grants/{id}/until', {
            params: { path: { id: grant.id } },
            headers: manner,
            body: {
              base: base === '' ? null : base,
              until: until === '' ? null : until,
              reason: why,
            },
          }),
        );
  const foresight = useForesight(
    ['end-grant', grant.id, now, until],
    (manner) => send(words.access.ahead, manner),
    now || (until !== base && until !== UNREADABLE),
  );
  const end = useAct(
    () => send(reason, foresight.agreed),
    () => {
      edited.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    end.error instanceof Problem ? end.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      danger
      title={words.access.endGrantTitle(title, grant.subject.name)}
      act={
        now
          ? words.access.endGrant(losers(foresight))
          : words.access.setEnd(until === '' ? null : tellDay(until))
      }
      foresight={foresight}
      kept={edited}
      stale={now ? undefined : stale}
      disabled={(!now && until === base) || end.isPending}
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
      {!now && (
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

function losers(foresight: Foresight): number {
  const now = foresight.seen?.moments.find((moment) => moment.publishing);
  return now?.counts.lose ?? 0;
}
