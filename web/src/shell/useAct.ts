import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Problem } from '../api/client';
import { words } from '../words/portal';
import { useFresh } from './PasswordAgain';
import { say } from './said';
import { noteAct } from './settled';

/** Whether an act was not done, but stands in the open draft now. */
function gathered(result: unknown): boolean {
  return (
    typeof result === 'object' && result !== null && 'edit' in result && Number(result.edit) > 0
  );
}

/**
 * An act on the desk; what is shown is read anew after it. Where it needs a fresh sign-in, the
 * password is asked for in place.
 */
export function useAct<Input = void, Result = unknown>(
  act: (input: Input) => Promise<Result>,
  done?: (result: Result) => void,
  /** What is said to whoever listens, where no form goes away that would say it. */
  said?: string,
) {
  const queries = useQueryClient();
  const fresh = useFresh();
  return useMutation({
    mutationFn: (input: Input) => fresh(() => act(input)),
    onSuccess: async (result) => {
      noteAct();
      done?.(result);
      if (said !== undefined) {
        say(gathered(result) ? words.shell.intoDraft(said) : words.shell.done(said));
      }
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
