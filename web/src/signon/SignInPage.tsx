import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate, useSearchParams } from 'react-router';
import { answer, api } from '../api/client';
import { setOwn } from '../shell/ownDevice';
import { PageHeading } from '../shell/PageHeading';
import { SESSION_KEY } from '../shell/session';
import { words } from '../words/portal';
import { Door } from './Door';
import { SignInForm } from './SignInForm';

/** Only addresses of this very site are gone to after signing in. */
export function safeAddress(wanted: string | null): string {
  return wanted !== null && /^\/(?![/\\])/.test(wanted) ? wanted : '/';
}

export function SignInPage() {
  const [parameters] = useSearchParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [filled, setFilled] = useState<{ name: string; password: string }>();
  const demo = useQuery({
    queryKey: ['demo'],
    // Only the demo has this; elsewhere there is nothing to show.
    queryFn: () => answer(api.GET('/api/demo')).catch(() => null),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [ownDevice, setOwnDevice] = useState(false);
  const own = { value: ownDevice, set: setOwnDevice };
  return (
    <Door
      below={
        demo.data && (
          <section className="demo small" aria-label={words.signOn.demo}>
            <p className="flush room-below">
              {words.signOn.demo} <code>{demo.data.password}</code>
            </p>
            <table className="plain">
              <tbody>
                {demo.data.signIns.map((one) => (
                  <tr key={one.userName}>
                    <th scope="row">
                      <Button
                        variant="link"
                        aria-label={words.signOn.demoUse(one.userName)}
                        onClick={() =>
                          setFilled({ name: one.userName, password: demo.data?.password ?? '' })
                        }
                      >
                        {one.userName}
                      </Button>
                    </th>
                    <td>{one.line}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {demo.data.mailroom !== null && (
              <p className="room-above">
                <a href={demo.data.mailroom}>{words.signOn.mailroom}</a>
              </p>
            )}
          </section>
        )
      }
    >
      <PageHeading className="room-below-more">{words.signOn.title}</PageHeading>
      <SignInForm
        key={filled?.name}
        filled={filled}
        own={own}
        onDone={async (session) => {
          setOwn(session.signed?.person ?? '', own.value);
          await queries.invalidateQueries({ queryKey: SESSION_KEY });
          const to = safeAddress(parameters.get('to'));
          if (to.startsWith('/go/')) {
            // The way through a tile is the server's.
            window.location.replace(to);
          } else {
            navigate(to, { replace: true });
          }
        }}
      />
    </Door>
  );
}
