import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { Link, NavLink } from 'react-router';
import { answer, api } from '../api/client';
import { Sign, Uploaded } from '../pictures/Picture';
import { useKeptAt } from '../shell/offline';
import { hasDesk, useSession } from '../shell/session';
import { useSignOut } from '../shell/signOut';
import { ToMain } from '../shell/ToMain';
import { tellTime } from '../shell/times';
import { words } from '../words/portal';
import { useFront } from './front';

/** What nobody waits for is asked for so long after the page stands. */
const LONG_AFTER = 4_000;

/** How many cases wait for the reader on the desk. */
function DeskCount() {
  const [stands, setStands] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setStands(true), LONG_AFTER);
    return () => clearTimeout(timer);
  }, []);
  const docket = useQuery({
    queryKey: ['docket', false],
    queryFn: () => answer(api.GET('/api/docket', { params: { query: { all: false } } })),
    // Whoever has no docket has no count.
    retry: false,
    enabled: stands,
  });
  const waiting = docket.data?.forMe ?? 0;
  return waiting > 0 ? <span className="waiting"> {words.portal.toDecide(waiting)}</span> : null;
}

/** The band and the ways of the portal; it wears the organisation's own name. */
export function PortalFrame({
  search,
  form,
  children,
}: {
  search?: ReactNode;
  /** How tiles are drawn. */
  form?: string;
  children: ReactNode;
}) {
  const { organisation, brand, signed } = useSession();
  const signOut = useSignOut();
  const keptAt = useKeptAt();
  const waiting = useFront().data?.waiting ?? 0;
  return (
    <div className={`portal form-${form ?? brand.form}${brand.tight ? ' tight' : ''}`}>
      <ToMain />
      <header className="band" style={{ background: brand.band }}>
        <div className="top">
          <Link className="org" to="/">
            {brand.mark !== '' && <Uploaded word={brand.mark} size={28} />}
            {organisation}
          </Link>
          {search ?? <span className="grow" />}
          <span className="greet">
            {words.me.greeting(signed.given)}
            <button type="button" className="out" onClick={signOut}>
              {words.shell.signOut}
            </button>
          </span>
        </div>
        <nav aria-label={words.shell.sections}>
          <NavLink to="/" end>
            <Sign name="front" /> {words.portal.front}
          </NavLink>
          <NavLink to="/ask">
            <Sign name="asks" /> {words.portal.ask}
          </NavLink>
          <NavLink to="/requests">
            <Sign name="requests" /> {words.portal.requests}
            {waiting > 0 && <span className="waiting"> {words.portal.waiting(waiting)}</span>}
          </NavLink>
          <NavLink to="/holdings">
            <Sign name="holds" /> {words.portal.holdings}
          </NavLink>
          <NavLink to="/me">
            <Sign name="me" /> {words.portal.me}
          </NavLink>
          {hasDesk(signed) && (
            <Link className="to-desk" to="/desk">
              <Sign name="clipboard" /> {words.shell.desk}
              <DeskCount />
            </Link>
          )}
        </nav>
      </header>
      <main id="main" tabIndex={-1}>
        {keptAt !== undefined && (
          <div className="notice" role="status">
            {words.portal.offline(tellTime(keptAt))}
          </div>
        )}
        {children}
      </main>
    </div>
  );
}
