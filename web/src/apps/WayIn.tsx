import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, type Schemas } from '../api/client';
import { KeptNote } from '../shell/KeptNote';
import { useStale } from '../shell/stale';
import { ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';

type Page = Schemas['AppPage'];

export function WayIn({ page }: { page: Page }) {
  const [editing, setEditing] = useState(false);
  if (editing) {
    return <WayInForm page={page} onClose={() => setEditing(false)} />;
  }
  return (
    <>
      {page.address === null ? (
        <p className="dim">{words.apps.noWayIn}</p>
      ) : (
        <p>
          {words.apps.link}
          <br />
          <code>{page.address}</code>
        </p>
      )}
      {page.maySetWayIn && (
        <Button variant="outline-primary" size="sm" onClick={() => setEditing(true)}>
          {words.apps.setLink}
        </Button>
      )}
    </>
  );
}

function WayInForm({ page, onClose }: { page: Page; onClose: () => void }) {
  const now = { address: page.address };
  const edited = useEdited(`way in of ${page.app.id}`, now, {
    address: page.address ?? 'https://',
  });
  const address = edited.wanted.address ?? '';
  const setAddress = (next: string) => edited.setWanted({ address: next });
  const stale = useStale({
    now,
    wanted: edited.wanted,
    onChange: edited.setWanted,
    kept: edited,
    labels: { address: words.apps.address },
    tell: (_, value) => value ?? '',
  });
  const save = useAct(
    () =>
      answer(
        api.PUT('/api/apps/{id}/link', {
          params: { path: { id: page.app.id } },
          body: { base: stale.base.address, address },
        }),
      ),
    () => {
      edited.sent();
      onClose();
    },
  );
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      {edited.fromBefore && <KeptNote onStartAgain={() => edited.sent()} />}
      {stale.note}
      <TextField
        id="link-address"
        label={words.apps.address}
        type="url"
        value={address}
        onChange={setAddress}
        wrong={save.error instanceof Problem ? save.error.field('address') : undefined}
      />
      <ProblemNote error={save.error} fields={['address']} />
      <div className="bar">
        <Button type="submit" size="sm" disabled={stale.blocked || save.isPending}>
          {words.attributes.save}
        </Button>
        <Button variant="outline-primary" size="sm" onClick={onClose}>
          {words.shell.cancel}
        </Button>
      </div>
    </Form>
  );
}
