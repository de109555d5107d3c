import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';

const EVERY = ['never', 'week', 'month', 'quarter'] as const;

/** Keeps a query under a name: for oneself or for all, and to be sent on its days. */
export function SaveQuery({
  query,
  spec,
  onClose,
  onSaved,
}: {
  query: Schemas['QueryView'] | undefined;
  spec: Schemas['SpecForm'];
  onClose: () => void;
  onSaved: (id: string) => void;
}) {
  const mine = query?.mine === true ? query : undefined;
  const kept = useTyped(mine === undefined ? 'new query' : `query ${mine.id} ${mine.version}`);
  const { typed } = kept;
  const [name, setName] = typed('name', mine?.name ?? '');
  const [why, setWhy] = typed('why', mine?.why ?? '');
  const [shared, setShared] = typed('shared', mine?.shared ?? false);
  const [every, setEvery] = typed('every', mine?.every ?? 'never');
  const [key] = useState(repeatKey);
  const save = useAct(
    () => {
      const body = { name, why, spec, shared, every, version: mine?.version ?? null };
      return answer(
        mine === undefined
          ? api.POST('/api/queries', {
              params: { header: { 'Idempotency-Key': key } },
              body,
            })
          : api.PUT('/api/queries/{id}', { params: { path: { id: mine.id } }, body }),
      );
    },
    (receipt) => {
      kept.sent();
      onClose();
      onSaved(receipt.result);
    },
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  return (
    <ActDialog
      title={mine === undefined ? words.queries.saveTitle : words.queries.changeTitle}
      act={mine === undefined ? words.queries.save : words.queries.change}
      kept={kept}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'why']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <TextField
        id="query-name"
        required
        label={words.queries.name}
        value={name}
        onChange={setName}
        wrong={wrong('name')}
      />
      <TextField
        id="query-why"
        label={words.queries.why}
        value={why}
        onChange={setWhy}
        wrong={wrong('why')}
      />
      <Form.Check
        id="query-shared"
        label={words.queries.share}
        checked={shared}
        onChange={(event) => setShared(event.target.checked)}
      />
      <Form.Group controlId="query-every" className="field">
        <Form.Label>{words.queries.send}</Form.Label>
        <Form.Select value={every} onChange={(event) => setEvery(event.target.value)}>
          {EVERY.map((one) => (
            <option key={one} value={one}>
              {words.queries.every[one]}
            </option>
          ))}
        </Form.Select>
        <Form.Text>{words.queries.sendHelp}</Form.Text>
      </Form.Group>
    </ActDialog>
  );
}
