import { useState } from 'react';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { Dialog } from '../shell/Dialog';
import { LongField } from '../shell/LongField';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/portal';

/** Tells who owns an application what is wrong with it. */
export function ReportDialog({
  tile,
  onClose,
}: {
  tile: Schemas['TileView'];
  onClose: () => void;
}) {
  const form = useUnsent(`report ${tile.id}`, { text: '' });
  const [key] = useState(repeatKey);
  const send = useAct(
    () =>
      answer(
        api.POST('/api/my/reports', {
          params: { header: { 'Idempotency-Key': key } },
          body: { tile: tile.id, text: form.value.text },
        }),
      ),
    form.sent,
  );
  if (send.data !== undefined) {
    return (
      <Dialog title={words.reports.sent} onClose={onClose}>
        <p>{words.reports.sentTo(tile.whom.join(', '))}</p>
        {tile.contact !== '' && <p>{words.portal.call(tile.contact)}</p>}
      </Dialog>
    );
  }
  return (
    <Dialog
      title={words.reports.title(tile.name)}
      act={words.reports.send}
      disabled={send.isPending}
      error={send.error}
      fields={['text']}
      onAct={() => send.mutate()}
      onClose={onClose}
    >
      <LongField
        id="report-text"
        label={words.reports.text}
        help={words.reports.textHelp(tile.whom.join(', '))}
        value={form.value.text}
        onChange={(text) => form.set({ text })}
        wrong={send.error instanceof Problem ? send.error.field('text') : undefined}
      />
    </Dialog>
  );
}
