import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import Modal from 'react-bootstrap/Modal';
import { Navigate, useLocation } from 'react-router';
import { answer, api, Problem, type Schemas } from '../api/client';
import { SignInForm } from '../signon/SignInForm';
import { words } from '../words/en';
import { Failure, Loading } from './states';

export type Signed = Schemas['Signed'];
export type Session = {
  organisation: string;
  zone: string;
  begins: string | null;
  signed: Signed;
  has: (power: string) => boolean;
};

const Context = createContext<Session | undefined>(undefined);

export function useSession(): Session {
  const session = useContext(Context);
  if (session === undefined) {
    throw new Error('only inside the session gate');
  }
  return session;
}

export const SESSION_KEY = ['session'];

export function useSessionQuery() {
  return useQuery({ queryKey: SESSION_KEY, queryFn: () => answer(api.GET('/api/session')) });
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

  useEffect(() => {
    const noticed = (error: unknown) => {
      if (error instanceof Problem && error.code === 'signed-out') {
        setLost(true);
      }
    };
    // Only an error that happens now: an old one may still stand while a query is asked again.
    const stopQueries = queries.getQueryCache().subscribe((event) => {
      if (event.type === 'updated' && event.action.type === 'error') {
        noticed(event.action.error);
      }
    });
    const stopMutations = queries.getMutationCache().subscribe((event) => {
      if (event.type === 'updated' && event.action.type === 'error') {
        noticed(event.action.error);
      }
    });
    return () => {
      stopQueries();
      stopMutations();
    };
  }, [queries]);

  if (session.error) {
    return <Failure error={session.error} again={() => session.refetch()} />;
  }
  if (session.data === undefined) {
    return <Loading what={words.product} />;
  }
  const { signed } = session.data;
  if (signed === null && !lost) {
    const wanted = `${location.pathname}${location.search}`;
    const to = wanted === '/' ? '/sign-in' : `/sign-in?to=${encodeURIComponent(wanted)}`;
    return <Navigate to={to} replace />;
  }
  if (signed === null) {
    return <Navigate to="/sign-in" replace />;
  }
  return (
    <Context.Provider
      value={{
        organisation: session.data.organisation,
        zone: session.data.zone,
        begins: session.data.begins,
        signed,
        has: (power) => signed.powers.includes(power),
      }}
    >
      {children}
      <Modal show={lost} aria-labelledby="signed-out" backdrop="static" keyboard={false}>
        <Modal.Body>
          <p id="signed-out">{words.signOn.signedOut}</p>
          <SignInForm
            onDone={async () => {
              // What was asked while signed out must not come back as one more error.
              await queries.cancelQueries();
              setLost(false);
              await queries.resetQueries({ predicate: (query) => query.state.error !== null });
              await queries.invalidateQueries();
            }}
          />
        </Modal.Body>
      </Modal>
    </Context.Provider>
  );
}
