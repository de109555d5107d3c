import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useNavigate } from 'react-router';
import { answer, api, Problem } from '../api/client';
import { PageHeading } from '../shell/PageHeading';
import { SESSION_KEY } from '../shell/session';
import { Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { words } from '../words/en';
import { Door } from './Door';

const FIELDS = ['password', 'given', 'family', 'userName', 'mail'];

/** Where a one-time link leads: a first password, or the first steward's account. */
export function WelcomePage() {
  const [token] = useState(() => window.location.hash.slice(1));
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [form, setForm] = useState({ password: '', given: '', family: '', userName: '', mail: '' });
  const link = useQuery({
    queryKey: ['link', token],
    queryFn: () => answer(api.POST('/api/links/look', { body: { token: token || '-' } })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const use = useMutation({
    mutationFn: () => answer(api.POST('/api/links/use', { body: { token, ...form } })),
    onSuccess: async ({ signedIn }) => {
      if (signedIn) {
        await queries.invalidateQueries({ queryKey: SESSION_KEY });
        navigate('/', { replace: true });
      }
    },
  });
  const field = (name: keyof typeof form, label: string, type = 'text', complete = 'off') => (
    <TextField
      id={`welcome-${name}`}
      label={label}
      type={type}
      autoComplete={complete}
      value={form[name]}
      onChange={(value) => setForm({ ...form, [name]: value })}
      wrong={use.error instanceof Problem ? use.error.field(name) : undefined}
    />
  );
  return (
    <Door>
      {link.error ? (
        <>
          <PageHeading>{words.signOn.gone}</PageHeading>
          <ProblemNote error={link.error} />
          <Link to="/sign-in">{words.signOn.toSignIn}</Link>
        </>
      ) : link.data === undefined ? (
        <Loading what={words.signOn.title} lines={4} />
      ) : use.data !== undefined && !use.data.signedIn ? (
        <>
          <PageHeading>{words.signOn.welcome(link.data.displayed)}</PageHeading>
          <p>{words.signOn.later}</p>
        </>
      ) : (
        <Form
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            use.mutate();
          }}
        >
          {link.data.purpose === 'first-steward' ? (
            <>
              <PageHeading>{words.signOn.welcomeSteward}</PageHeading>
              <p className="dim">{words.signOn.welcomeStewardHelp}</p>
              {field('given', words.signOn.given, 'text', 'given-name')}
              {field('family', words.signOn.family, 'text', 'family-name')}
              {field('userName', words.signOn.userName, 'text', 'username')}
              {field('mail', words.signOn.mail, 'email', 'email')}
            </>
          ) : (
            <>
              <PageHeading>{words.signOn.welcome(link.data.displayed)}</PageHeading>
              <p className="dim">{words.signOn.welcomeHelp(link.data.userName)}</p>
            </>
          )}
          <p className="small">{link.data.rule}</p>
          {field('password', words.signOn.newPassword, 'password', 'new-password')}
          <ProblemNote error={use.error} fields={FIELDS} />
          <Button type="submit" disabled={use.isPending}>
            {link.data.purpose === 'first-steward' ? words.signOn.begin : words.signOn.setPassword}
          </Button>
        </Form>
      )}
    </Door>
  );
}
