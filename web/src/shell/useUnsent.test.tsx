import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, test } from 'vitest';
import { draw, problem, serve } from '../testing/page';
import { KeptNote } from './KeptNote';
import { useStale } from './stale';
import { useEdited, useTyped } from './useUnsent';

/** A server that keeps forms, as the real one does, while somebody is signed in. */
function keeping(signedIn: () => boolean = () => true) {
  const kept: Record<string, string> = {};
  const asked = serve({
    'GET /api/my/unsent/group': () => ({ body: { fields: { ...kept } } }),
    'PUT /api/my/unsent/group': (body) => {
      if (!signedIn()) {
        return { status: 401, body: problem('signed-out', 'Sign in to go on.', 401) };
      }
      Object.assign(kept, (body as { fields: Record<string, string> }).fields);
      return { body: { fields: kept } };
    },
    'DELETE /api/my/unsent/group': () => {
      for (const field of Object.keys(kept)) {
        delete kept[field];
      }
      return { body: { fields: {} } };
    },
  });
  return { kept, asked };
}

function Form() {
  const { typed, sent, fromBefore } = useTyped('group');
  const [name, setName] = typed('name', '');
  const [members, setMembers] = typed<string[]>('members', []);
  return (
    <>
      {fromBefore && <KeptNote onStartAgain={sent} />}
      <input aria-label="Name" value={name} onChange={(event) => setName(event.target.value)} />
      <button
        type="button"
        onClick={() => {
          setMembers([...members, 'Oda']);
          setName('Counter');
        }}
      >
        Both at once
      </button>
      <output>{members.join(', ')}</output>
    </>
  );
}

const nameField = () => screen.getByLabelText<HTMLInputElement>('Name');

test('what is typed is kept at once where the page goes away', async () => {
  const { kept, asked } = keeping();
  draw(<Form />);
  fireEvent.change(nameField(), { target: { value: 'Refund desk' } });
  expect(asked.filter((one) => one.what.startsWith('PUT'))).toHaveLength(0);
  window.dispatchEvent(new Event('pagehide'));
  await waitFor(() => expect(kept.name).toBe('"Refund desk"'), { timeout: 400 });
});

test('what is typed is there again when the page comes back, and can be thrown away', async () => {
  const { kept } = keeping();
  draw(<Form />);
  await userEvent.type(nameField(), 'Refund desk');
  await waitFor(() => expect(kept.name).toBe('"Refund desk"'));
  cleanup();
  draw(<Form />);
  expect(await screen.findByText('What you typed earlier is still here.')).toBeTruthy();
  expect(nameField().value).toBe('Refund desk');
  await userEvent.click(screen.getByRole('button', { name: 'Start again' }));
  await waitFor(() => expect(nameField().value).toBe(''));
  expect(kept).toEqual({});
});

test('two changes at once are both kept', async () => {
  keeping();
  draw(<Form />);
  await userEvent.click(screen.getByRole('button', { name: 'Both at once' }));
  expect(nameField().value).toBe('Counter');
  expect(screen.getByText('Oda')).toBeTruthy();
});

test('a session that ended in the meantime loses nothing', async () => {
  let signedIn = false;
  const { kept, asked } = keeping(() => signedIn);
  draw(<Form />);
  await userEvent.type(nameField(), 'Night');
  await waitFor(() => expect(asked.some((one) => one.what.startsWith('PUT'))).toBe(true));
  expect(kept).toEqual({});
  expect(nameField().value).toBe('Night');
  signedIn = true;
  await userEvent.type(nameField(), ' watch');
  await waitFor(() => expect(kept.name).toBe('"Night watch"'));
});

function Edit({ now }: { now: { name: string } }) {
  const edited = useEdited('group', now);
  const stale = useStale({
    now,
    wanted: edited.wanted,
    onChange: edited.setWanted,
    kept: edited,
    labels: { name: 'Name' },
  });
  return (
    <>
      {stale.note}
      <input
        aria-label="Name"
        value={edited.wanted.name}
        onChange={(event) => edited.setWanted({ name: event.target.value })}
      />
    </>
  );
}

test('a form that comes back later still knows what it was opened on', async () => {
  const { kept } = keeping();
  draw(<Edit now={{ name: 'Till' }} />);
  await userEvent.type(nameField(), 's');
  await waitFor(() => expect(kept.base).toBe('{"name":"Till"}'));
  cleanup();
  // Meanwhile somebody else has renamed it: that stands beside what was typed.
  draw(<Edit now={{ name: 'Farebox' }} />);
  expect(await screen.findByRole('row', { name: 'Name Farebox Tills' })).toBeTruthy();
  expect(nameField().value).toBe('Tills');
});
