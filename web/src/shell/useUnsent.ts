import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { answer, api } from '../api/client';

const PAUSE = 600;

/**
 * What stands in a form, kept on the server while it is not sent: there again after a reload, on
 * another device, or after signing in anew; never in a browser that others may use.
 */
export function useUnsent<Fields extends Record<string, string>>(name: string, empty: Fields) {
  const queries = useQueryClient();
  const key = ['my', 'unsent', name];
  const path = { params: { path: { name } } };
  const kept = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/my/unsent/{name}', path)),
    staleTime: Number.POSITIVE_INFINITY,
    // A form that cannot be looked up begins empty, and what is typed is kept all the same.
    retry: false,
  });
  const [typed, setTyped] = useState<Fields>();
  const value = typed ?? { ...empty, ...(kept.data?.fields as Partial<Fields> | undefined) };
  const unsaved = useRef<Fields>(undefined);

  const save = useRef(() => {});
  save.current = () => {
    const fields = unsaved.current;
    if (fields !== undefined) {
      unsaved.current = undefined;
      queries.setQueryData(key, { fields });
      // Typing goes on whether or not it could be kept; the next pause tries again.
      void answer(api.PUT('/api/my/unsent/{name}', { ...path, body: { fields } })).catch(() => {
        unsaved.current ??= fields;
      });
    }
  };
  useEffect(() => {
    if (typed === undefined) {
      return;
    }
    const timer = setTimeout(() => save.current(), PAUSE);
    return () => clearTimeout(timer);
  }, [typed]);
  useEffect(() => () => save.current(), []);

  return {
    value,
    set: (change: Partial<Fields>) => {
      const next = { ...value, ...change };
      unsaved.current = next;
      setTyped(next);
    },
    /** It is sent: nothing of it need be kept any more. */
    sent: () => {
      unsaved.current = undefined;
      queries.setQueryData(key, { fields: {} });
      void answer(api.DELETE('/api/my/unsent/{name}', path)).catch(() => undefined);
    },
  };
}
