import {
  createContext,
  lazy,
  type ReactNode,
  Suspense,
  useCallback,
  useContext,
  useRef,
  useState,
} from 'react';
import { answer, api, Problem } from '../api/client';
import { words } from '../words/portal';

const ConfirmPassword = lazy(() =>
  import('./ConfirmPassword').then((part) => ({ default: part.ConfirmPassword })),
);

type Fresh = <T>(work: () => Promise<T>) => Promise<T>;

const Context = createContext<Fresh>((work) => work());

/** Does something that needs a fresh sign-in; asks for the password where it is not. */
export function useFresh(): Fresh {
  return useContext(Context);
}

export function PasswordAgain({ children }: { children: ReactNode }) {
  const [asking, setAsking] = useState(false);
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState<string>();
  const waiting = useRef<{ go: () => void; leave: (error: unknown) => void }>(undefined);

  const fresh = useCallback<Fresh>(async (work) => {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof Problem) || error.code !== 'fresh-sign-in') {
        throw error;
      }
      await new Promise<void>((go, leave) => {
        waiting.current = { go, leave };
        setPassword('');
        setWrong(undefined);
        setAsking(true);
      });
      return work();
    }
  }, []);

  const confirm = async () => {
    try {
      await answer(api.POST('/api/me/confirm', { body: { password } }));
      setAsking(false);
      waiting.current?.go();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };

  const leave = () => {
    setAsking(false);
    waiting.current?.leave(new Error(words.signOn.confirmHelp));
  };

  return (
    <Context.Provider value={fresh}>
      {children}
      {asking && (
        <Suspense>
          <ConfirmPassword
            password={password}
            wrong={wrong}
            onType={setPassword}
            onConfirm={() => void confirm()}
            onLeave={leave}
          />
        </Suspense>
      )}
    </Context.Provider>
  );
}
