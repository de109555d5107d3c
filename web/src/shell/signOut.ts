import { useQueryClient } from '@tanstack/react-query';
import { answer, api } from '../api/client';
import { forget } from './ownDevice';

/** Begins anew at an address, so that nothing of who was here stays in this tab. */
export function beginAnew(address: string): void {
  // A page that is left may come back by the browser's own way; it must be empty then.
  document.getElementById('root')?.replaceChildren();
  window.location.replace(address);
}

/** Signs out; nothing of the person stays on the device. */
export function useSignOut(): () => void {
  const queries = useQueryClient();
  return () => {
    void answer(api.POST('/api/sign-out')).then(() => {
      forget();
      queries.clear();
      beginAnew('/sign-in');
    });
  };
}
