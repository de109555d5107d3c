import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { answer, api } from '../api/client';

const PAUSE = 600;

/**
 * What stands in a form, kept on the server while it is not sent: there again after a reload, on
 * another device, or after signing in anew; never in a browser that others may use.
 */
export function useUnsent<Fields extends Record<string, string>>(
  name: string | undefined,
  empty: Fields,
) {
  const queries = useQueryClient();
  const key = ['my', 'unsent', name];
  const path = { params: { path: { name: name ?? '' } } };
  const kept = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/my/unsent/{name}', path)),
    staleTime: Number.POSITIVE_INFINITY,
    enabled: name !== undefined,
    // A form that cannot be looked up begins empty, and what is typed is kept all the same.
    retry: false,
  });
  const [typed, setTyped] = useState<Fields>();
  const value = typed ?? { ...empty, ...(kept.data?.fields as Partial<Fields> | undefined) };
  const latest = useRef(value);
  latest.current = value;
  const unsaved = useRef<Fields>(undefined);

  const save = useRef((_leaving: boolean) => {});
  save.current = (leaving) => {
    const fields = unsaved.current;
    if (fields !== undefined && name !== undefined) {
      unsaved.current = undefined;
      queries.setQueryData(key, { fields });
      // Typing goes on whether or not it could be kept; the next pause tries again.
      const sent = api.PUT('/api/my/unsent/{name}', {
        ...path,
        body: { fields },
        // It comes through where the page goes away; browsers take at most 64 KiB so.
        keepalive: leaving,
      });
      void answer(sent).catch(() => {
        unsaved.current ??= fields;
      });
    }
  };
  useEffect(() => {
    if (typed === undefined) {
      return;
    }
    const timer = setTimeout(() => save.current(false), PAUSE);
    return () => clearTimeout(timer);
  }, [typed]);
  useEffect(() => {
    // A reload, another address, or a phone that puts the page away: none waits for the pause.
    const leave = () => save.current(true);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      save.current(false);
    };
  }, []);

  return {
    value,
    /** Whether something stands here from an earlier time. */
    fromBefore: typed === undefined && Object.keys(kept.data?.fields ?? {}).length > 0,
    set: (change: Partial<Fields>) => {
      // Two changes at once are both kept.
      const next = { ...latest.current, ...change };
      latest.current = next;
      unsaved.current = next;
      setTyped(next);
    },
    /** It is sent, or not wanted any more: nothing of it need be kept. */
    sent: () => {
      unsaved.current = undefined;
      setTyped(undefined);
      if (name !== undefined) {
        queries.setQueryData(key, { fields: {} });
        void answer(api.DELETE('/api/my/unsent/{name}', path)).catch(() => undefined);
      }
    },
  };
}

/**
 * Like {@link useUnsent}, for a form whose fields hold anything: {@code typed(field, initial)} is a
 * value with its setter. Without a name nothing is kept.
 */
export function useTyped(name: string | undefined) {
  const form = useUnsent<Record<string, string>>(name, {});
  return {
    typed<T>(field: string, initial: T): [T, (next: T) => void] {
      const kept = form.value[field];
      return [
        kept === undefined ? initial : (JSON.parse(kept) as T),
        (next) => form.set({ [field]: JSON.stringify(next) }),
      ];
    },
    sent: form.sent,
    fromBefore: form.fromBefore,
  };
}

/**
 * What a form that changes something holds: what is wanted, and what stood there when it was opened.
 * Both are kept, so that nothing is overwritten however much later the form is sent.
 *
 * @param now what stands there now
 * @param initial what the form begins with, where that is something else
 */
export function useEdited<T>(name: string, now: T, initial: T = now) {
  const form = useTyped(name);
  const [opened, setOpened] = useState({ now, initial });
  const [wanted, want] = form.typed('wanted', opened.initial);
  const [base, setBase] = form.typed('base', opened.now);
  return {
    wanted,
    setWanted: (next: T) => {
      setBase(base);
      want(next);
    },
    base,
    setBase,
    /** Other fields of the same form. */
    typed: form.typed,
    /** It is sent; a form that stays open goes on from what stands there now. */
    sent: (next?: T) => {
      if (next !== undefined) {
        setOpened({ now: next, initial: next });
      }
      form.sent();
    },
    fromBefore: form.fromBefore,
  };
}
