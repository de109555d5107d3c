import { useState } from 'react';
import { answer, api, Problem, repeatKey } from '../../api/client';
import { ActDialog } from '../../drafts/ActDialog';
import { useSession } from '../../shell/session';
import { TextField } from '../../shell/TextField';
import { addDays, dayIn } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { useTyped } from '../../shell/useUnsent';
import { words } from '../../words/en';

/** One breach of a separation rule, with names. */
export type Pair = {
  rule: string;
  ruleName: string;
  person: { id: string; displayed: string };
  one: string;
  oneTitle: string;
  other: string;
  otherTitle: string;
};

/** Accepting that one person holds one pair, until a day. */
export function AcceptDialog({ pair, onClose }: { pair: Pair; onClose: () => void }) {
  const { zone } = useSession();
  const today = dayIn(zone, new Date());
  const kept = useTyped(`accept ${pair.rule} ${pair.person.id}`);
  const [until, setUntil] = kept.typed('until', addDays(today, 30));
  const [reason, setReason] = kept.typed('reason', '');
  const [key] = useState(repeatKey);
  const accept = useAct(
    () =>
      answer(
        api.POST('/api/rules/{id}/exceptions', {
          params: { path: { id: pair.rule }, header: { 'Idempotency-Key': key } },
          body: { person: pair.person.id, one: pair.one, other: pair.other, until, reason },
        }),
      ),
    () => {
      kept.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    accept.error instanceof Problem ? accept.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      title={words.rules.acceptTitle(pair.person.displayed)}
      act={words.rules.accept}
      kept={kept}
      disabled={until === '' || accept.isPending}
      error={accept.error}
      fields={['until', 'reason']}
      onAct={() => accept.mutate()}
      onClose={onClose}
    >
      <p>
        {words.rules.pair(pair.oneTitle, pair.otherTitle)} {words.rules.keepsApart(pair.ruleName)}
      </p>
      <TextField
        id="accept-until"
        type="date"
        label={words.rules.until}
        min={today}
        max={addDays(today, 366)}
        value={until}
        onChange={setUntil}
        wrong={wrong('until')}
      />
      <TextField
        id="accept-reason"
        label={words.groups.why}
        maxLength={500}
        value={reason}
        onChange={setReason}
        wrong={wrong('reason')}
      />
    </ActDialog>
  );
}
