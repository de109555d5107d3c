import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  createContext,
  lazy,
  type ReactNode,
  Suspense,
  useContext,
  useDeferredValue,
  useEffect,
  useRef,
  useState,
} from 'react';
import { Navigate, useLocation } from 'react-router';
import { answer, api, Problem, type Schemas } from '../api/client';
import { setLocale } from '../words/locale';
import { useLive } from './live';
import { shownFromKept } from './offline';
import { keepFront, keptFront } from './ownDevice';
import { beginAnew } from './signOut';
import { Failure, FirstPaint } from './states';

export type Signed = Schemas['Signed'];
export type Session = {
  organisation: string;
  brand: Schemas['BrandView'];
  zone: string;
  begins: string | null;
  signed: Signed;
  has: (power: string) => boolean;
};

// What is seldom needed comes when it is.
const SignedOut = lazy(() =>
  import('../signon/SignedOut').then((part) => ({ default: part.SignedOut })),
);

const Context = createContext<Session | undefined>(undefined);

export function useSession(): Session {
  const session = useContext(Context);
  if (session === undefined) {
    throw new Error('only inside the session gate');
  }
  return session;
}

/** The organisation's zone, in which days are days; the browser's until it is known. */
export function useZone(): string {
  return useContext(Context)?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
}

export const SESSION_KEY = ['session'];

export const FRONT_KEY = ['front'];

/**
 * The front page with its session. Where there is no network, the one that was kept last, if this is
 * its person's own device.
 */
export async function frontView(): Promise<Schemas['FrontView']> {
  try {
    const view = await answer(api.GET('/api/front'));
    keepFront(view, new Date());
    shownFromKept(undefined);
    return view;
  } catch (error) {
    const kept = error instanceof Problem && error.view.status === 0 ? keptFront() : undefined;
    if (kept === undefined) {
      throw error;
    }
    shownFromKept(kept.at);
    return kept.view;
  }
}

/** The session; where the front page is wanted, both come in one answer. */
export function useSessionQuery() {
  const queries = useQueryClient();
  const { pathname } = useLocation();
  return useQuery({
    queryKey: SESSION_KEY,
    queryFn: async () => {
      if (pathname !== '/' && !pathname.startsWith('/go/')) {
        return answer(api.GET('/api/session'));
      }
      const { session, page } = await frontView();
      if (page !== null) {
        queries.setQueryData(FRONT_KEY, page);
      }
      return session;
    },
  });
}

/** Whether the one who is signed in has something to do on the desk. */
export function hasDesk(signed: NonNullable<Signed>): boolean {
  return (
    signed.powers.length > 0 ||
    signed.ownsGroups ||
    signed.ownsApps ||
    signed.ownsCollections ||
    signed.ownsListings ||
    signed.leads ||
    signed.decides
  );
}

/**
 * Lets in who is signed in. Whose session ends while working is asked to sign in over the page, so
 * that nothing typed is lost.
 */
export function SessionGate({ children }: { children: ReactNode }) {
  const session = useSessionQuery();
  const location = useLocation();
  const [lost, setLost] = useState(false);
  const queries = useQueryClient();
  // How often someone has signed in over the page: what was asked before that says nothing now.
  const signIns = useRef(0);

  useEffect(() => {
    let asking = false;
    // An answer may come late, from before a new sign-in: whether the session is over is asked anew.
    const noticed = async (error: unknown) => {
      if (!(error instanceof Problem && error.code === 'signed-out') || asking) {
        return;
      }
      asking = true;
      const before = signIns.current;
      try {
        const { signed } = await answer(api.GET('/api/session'));
        if (signed === null || signed.deskOver) {
          setLost((lost) => lost || before === signIns.current);
        } else {
          await queries.refetchQueries({ predicate: (query) => query.state.error !== null });
        }
      } catch {
        setLost((lost) => lost || before === signIns.current);
      } finally {
        asking = false;
      }
    };
    // Only an error that happens now: an old one may still stand while a query is asked again.
    const stopQueries = queries.getQueryCache().subscribe((event) => {
      if (event.type === 'updated' && event.action.type === 'error') {
        void noticed(event.action.error);
      }
    });
    const stopMutations = queries.getMutationCache().subscribe((event) => {
      if (event.type === 'updated' && event.action.type === 'error') {
        void noticed(event.action.error);
      }
    });
    return () => {
      stopQueries();
      stopMutations();
    };
  }, [queries]);

  // Whoever is signed in stays on the page when the session is found to be over, with what they typed.
  const known = useRef(session.data);
  if (session.data !== undefined && session.data.signed !== null) {
    known.current = session.data;
  }
  // In small pieces: the whole page is drawn for the first time when this comes.
  const data = useDeferredValue(known.current ?? session.data);

  if (session.error && data === undefined) {
    return <Failure error={session.error} again={() => session.refetch()} />;
  }
  if (data === undefined) {
    return <FirstPaint />;
  }
  setLocale(data.locale);
  const { signed } = data;
  if (signed === null) {
    const wanted = `${location.pathname}${location.search}`;
    const to = wanted === '/' ? '/sign-in' : `/sign-in?to=${encodeURIComponent(wanted)}`;
    return <Navigate to={to} replace />;
  }
  const over = lost || session.data?.signed === null;
  return (
    <Context.Provider
      value={{
        organisation: data.organisation,
        brand: data.brand,
        zone: data.zone,
        begins: data.begins,
        signed,
        has: (power) => signed.powers.includes(power),
      }}
    >
      {!over && <Live person={signed.person} position={data.position} />}
      {children}
      {over && (
        <Suspense>
          <SignedOut
            onDone={async (session) => {
              if (session.signed?.person !== signed.person) {
                // Somebody else: nothing of what was shown or typed is theirs.
                beginAnew('/');
                return;
              }
              // What was asked while signed out must not come back as one more error.
              signIns.current += 1;
              await queries.cancelQueries();
              // The sign-in's own answer says who is here, whatever older answers may still say.
              queries.setQueryData(SESSION_KEY, session);
              setLost(false);
              await queries.resetQueries({ predicate: (query) => query.state.error !== null });
              await queries.invalidateQueries();
            }}
          />
        </Suspense>
      )}
    </Context.Provider>
  );
}

function Live({ person, position }: { person: string; position: number }) {
  useLive(person, position);
  return null;
}
