import { useState } from 'react';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { Dialog } from '../shell/Dialog';
import { LongField } from '../shell/LongField';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/portal';

/** Tells who owns an application what is wrong with it. */
export function ComplaintDialog({
  tile,
  onClose,
}: {
  tile: Schemas['TileView'];
  onClose: () => void;
}) {
  const form = useUnsent(`complaint ${tile.id}`, { text: '' });
  const [key] = useState(repeatKey);
  const send = useAct(
    () =>
      answer(
        api.POST('/api/my/complaints', {
          params: { header: { 'Idempotency-Key': key } },
          body: { tile: tile.id, text: form.value.text },
        }),
      ),
    form.sent,
  );
  if (send.data !== undefined) {
    return (
      <Dialog title={words.complaints.sent} onClose={onClose}>
        <p>{words.complaints.sentTo(tile.whom.join(', '))}</p>
        {tile.contact !== '' && <p>{words.portal.call(tile.contact)}</p>}
      </Dialog>
    );
  }
  return (
    <Dialog
      title={words.complaints.title(tile.name)}
      act={words.complaints.send}
      disabled={send.isPending}
      error={send.error}
      fields={['text']}
      onAct={() => send.mutate()}
      onClose={onClose}
    >
      <LongField
        id="report-text"
        label={words.complaints.text}
        help={words.complaints.textHelp(tile.whom.join(', '))}
        value={form.value.text}
        onChange={(text) => form.set({ text })}
        wrong={send.error instanceof Problem ? send.error.field('text') : undefined}
      />
    </Dialog>
  );
}
