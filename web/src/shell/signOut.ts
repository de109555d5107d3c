import { useQueryClient } from '@tanstack/react-query';
import { answer, api } from '../api/client';

/** Signs out and begins anew, so that nothing of the session stays in this tab. */
export function useSignOut(): () => void {
  const queries = useQueryClient();
  return () => {
    void answer(api.POST('/api/sign-out')).then(() => {
      queries.clear();
      window.location.assign('/sign-in');
    });
  };
}
