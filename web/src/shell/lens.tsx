import { forwardRef } from 'react';
import { Link, type LinkProps, NavLink, type NavLinkProps, useSearchParams } from 'react-router';
import { useSession } from './session';
import { endOfDay, isDay } from './times';

/** The past day that the desk shows, and the moment that stands for it; both undefined for now. */
export function useLens(): { day?: string; asOf?: string } {
  const [parameters] = useSearchParams();
  const { zone } = useSession();
  const day = parameters.get('asOf');
  return isDay(day) ? { day, asOf: endOfDay(zone, day) } : {};
}

export function useSetLens(): (day: string | undefined) => void {
  const [, setParameters] = useSearchParams();
  return (day) =>
    setParameters((before) => {
      const next = new URLSearchParams(before);
      if (day === undefined) {
        next.delete('asOf');
      } else {
        next.set('asOf', day);
      }
      return next;
    });
}

/** An address on the desk that keeps the day of the lens. */
export function useDeskAddress(): (to: string) => string {
  const { day } = useLens();
  return (to) => (day === undefined ? to : `${to}${to.includes('?') ? '&' : '?'}asOf=${day}`);
}

export function DeskLink({ to, ...rest }: LinkProps & { to: string }) {
  const address = useDeskAddress();
  return <Link to={address(to)} {...rest} />;
}

export const DeskNavLink = forwardRef<HTMLAnchorElement, NavLinkProps & { to: string }>(
  function DeskNavLink({ to, ...rest }, ref) {
    const address = useDeskAddress();
    return <NavLink ref={ref} to={address(to)} {...rest} />;
  },
);
