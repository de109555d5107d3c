import { useMutation, useQueryClient } from '@tanstack/react-query';

/** An act on the desk; what is shown is read anew after it. */
export function useAct<Input = void, Result = unknown>(
  act: (input: Input) => Promise<Result>,
  done?: (result: Result) => void,
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: async (result) => {
      done?.(result);
      await queries.invalidateQueries();
    },
  });
}
