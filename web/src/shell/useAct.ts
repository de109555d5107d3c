import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Problem } from '../api/client';
import { useFresh } from './PasswordAgain';

/**
 * An act on the desk; what is shown is read anew after it. Where it needs a fresh sign-in, the
 * password is asked for in place.
 */
export function useAct<Input = void, Result = unknown>(
  act: (input: Input) => Promise<Result>,
  done?: (result: Result) => void,
) {
  const queries = useQueryClient();
  const fresh = useFresh();
  return useMutation({
    mutationFn: (input: Input) => fresh(() => act(input)),
    onSuccess: async (result) => {
      done?.(result);
      await queries.invalidateQueries();
    },
    onError: async (error) => {
      if (error instanceof Problem && error.code === 'changed-meanwhile') {
        // Theirs is read, so that it stands beside what was typed.
        await queries.invalidateQueries();
      }
    },
  });
}
