import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, type Schemas } from '../api/client';
import { ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { words } from '../words/portal';

/** Name and password; where one mail address has two accounts, which one. */
export function SignInForm({
  onDone,
  filled,
  own,
}: {
  onDone: (session: Schemas['SessionView']) => unknown;
  filled?: { name: string; password: string };
  /** Whether the device is the person's alone, where that is asked. */
  own?: { value: boolean; set: (own: boolean) => void };
}) {
  const [name, setName] = useState(filled?.name ?? '');
  const [password, setPassword] = useState(filled?.password ?? '');
  const [wrongName, setWrongName] = useState(false);
  const signIn = useMutation({
    mutationFn: (account?: string) =>
      answer(api.POST('/api/sign-in', { body: { name, password, account: account ?? null } })),
    onSuccess: (session) => onDone(session),
  });
  const which =
    signIn.error instanceof Problem && signIn.error.code === 'sign-in.which'
      ? signIn.error.view.problems.map((problem) => problem.field)
      : [];
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        setWrongName(name.trim() === '');
        if (name.trim() !== '') {
          signIn.mutate(undefined);
        }
      }}
    >
      <Form.Group className="field" controlId="sign-in-name">
        <Form.Label>{words.signOn.name}</Form.Label>
        <Form.Control
          autoFocus
          autoComplete="username"
          autoCapitalize="none"
          spellCheck={false}
          value={name}
          isInvalid={wrongName}
          onChange={(event) => setName(event.target.value)}
        />
        {wrongName && (
          <Form.Control.Feedback type="invalid">{words.signOn.wrongName}</Form.Control.Feedback>
        )}
      </Form.Group>
      <TextField
        id="sign-in-password"
        label={words.signOn.password}
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={setPassword}
      />
      {own !== undefined && (
        <Form.Check
          type="checkbox"
          id="sign-in-own"
          className="field"
          label={
            <>
              {words.signOn.ownDevice}
              <span className="dim small help">{words.signOn.ownDeviceHelp}</span>
            </>
          }
          checked={own.value}
          onChange={(event) => own.set(event.target.checked)}
        />
      )}
      {which.length > 0 ? (
        <fieldset className="note wait">
          <legend>{words.signOn.which}</legend>
          <div className="bar">
            {which.map((account) => (
              <Button
                key={account}
                variant="outline-primary"
                onClick={() => signIn.mutate(account)}
              >
                {account}
              </Button>
            ))}
          </div>
        </fieldset>
      ) : (
        <ProblemNote error={signIn.error} />
      )}
      <Button type="submit" disabled={signIn.isPending}>
        {words.signOn.submit}
      </Button>
      <span role="status" className="dim small beside">
        {signIn.isPending && words.signOn.waiting}
      </span>
    </Form>
  );
}
