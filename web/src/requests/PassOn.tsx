import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { Dialog } from '../shell/Dialog';
import { LongField } from '../shell/LongField';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';

/** Hands the step that waits to somebody who could decide it as well, with a word. */
export function PassOn({
  id,
  people,
  onClose,
}: {
  id: string;
  people: Schemas['Colleague'][];
  onClose: () => void;
}) {
  const form = useUnsent(`pass on ${id}`, { to: '', text: '' });
  const [key] = useState(repeatKey);
  const pass = useAct(
    () =>
      answer(
        api.POST('/api/requests/{id}/pass-on', {
          params: { path: { id }, header: { 'Idempotency-Key': key } },
          body: form.value,
        }),
      ),
    () => {
      form.sent();
      onClose();
    },
    words.thread.passOnDone,
  );
  const wrong = (field: string) =>
    pass.error instanceof Problem ? pass.error.field(field) : undefined;
  return (
    <Dialog
      title={words.thread.passOnTitle}
      act={words.thread.passOn}
      disabled={form.value.to === '' || form.value.text.trim() === '' || pass.isPending}
      error={pass.error}
      fields={['to', 'text']}
      onAct={() => pass.mutate()}
      onClose={onClose}
    >
      <p className="dim">{words.thread.passOnHelp}</p>
      <Form.Group controlId="pass-on-to" className="field">
        <Form.Label>{words.thread.passOnTo}</Form.Label>
        <Form.Select
          value={form.value.to}
          isInvalid={wrong('to') !== undefined}
          onChange={(event) => form.set({ to: event.target.value })}
        >
          <option value="">{words.thread.passOnChoose}</option>
          {people.map((one) => (
            <option key={one.id} value={one.id}>
              {[one.name, one.unit].filter(Boolean).join(' · ')}
            </option>
          ))}
        </Form.Select>
        <Form.Control.Feedback type="invalid">{wrong('to')}</Form.Control.Feedback>
      </Form.Group>
      <LongField
        id="pass-on-word"
        label={words.thread.passOnWord}
        rows={3}
        value={form.value.text}
        onChange={(text) => form.set({ text })}
        wrong={wrong('text')}
      />
    </Dialog>
  );
}
