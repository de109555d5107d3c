import { useQuery } from '@tanstack/react-query';
import { answer, api } from '../api/client';
import { PortalTabs } from '../portal/PortalTabs';
import { useAddress } from '../shell/addresses';
import { PageHeading } from '../shell/PageHeading';
import { Failure, Loading } from '../shell/states';
import { words } from '../words/en';

/** Every kind of email, as it arrives. */
export function LettersPage() {
  const [get, set] = useAddress();
  const letters = useQuery({
    queryKey: ['letters'],
    queryFn: () => answer(api.GET('/api/letters')),
  });
  const kinds = letters.data?.kinds ?? [];
  const shown = kinds.find((one) => one.kind === get('kind')) ?? kinds[0];
  return (
    <>
      <PortalTabs />
      <header>
        <PageHeading>{words.letters.title}</PageHeading>
        <span className="dim">{words.letters.help}</span>
      </header>
      {letters.error ? (
        <Failure error={letters.error} again={() => letters.refetch()} />
      ) : shown === undefined ? (
        <Loading what={words.letters.title} lines={8} />
      ) : (
        <div className="letters">
          <ul className="plain">
            {kinds.map((one) => (
              <li key={one.kind}>
                <button
                  type="button"
                  aria-pressed={one.kind === shown.kind}
                  onClick={() => set({ kind: one.kind })}
                >
                  {one.title}
                </button>
              </li>
            ))}
          </ul>
          <section className="part" aria-labelledby="letter-subject">
            <div className="dim small">{words.letters.subject}</div>
            <h2 id="letter-subject">{shown.subject}</h2>
            <iframe title={shown.title} src={`/api/letters/${shown.kind}`} sandbox="" />
          </section>
        </div>
      )}
    </>
  );
}
