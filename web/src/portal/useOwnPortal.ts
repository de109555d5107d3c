import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { answer, api, type Schemas } from '../api/client';
import { FRONT_KEY, useSession } from '../shell/session';

type Own = Schemas['OwnView'];
type Page = Schemas['PageView'];
export type Tip = 'TYPE' | 'MENU' | 'FORM';
export type Form = 'tiles' | 'lines' | 'marks';
export const FORMS: Form[] = ['tiles', 'lines', 'marks'];

export const NO_OWN: Own = { pinned: [], hidden: [], forms: {}, hushed: [], tips: [], links: [] };

const PHONE = '(max-width: 600px)';

/** Which kind of device this is: on each, tiles are drawn as its person chose there. */
export function useDevice(): 'phone' | 'wide' {
  return useSyncExternalStore(
    (changed) => {
      const list = window.matchMedia?.(PHONE);
      list?.addEventListener('change', changed);
      return () => list?.removeEventListener('change', changed);
    },
    () => (window.matchMedia?.(PHONE).matches ? 'phone' : 'wide'),
  );
}

/** How tiles are drawn here. */
export function useForm(own: Own): Form {
  const { brand } = useSession();
  const device = useDevice();
  return (own.forms[device] ?? brand.form) as Form;
}

/** A wish about one's own portal: what is shown at once, and what the server is told. */
type Wish = { now: (own: Own) => Own; tell: () => Promise<Own> };

const without = (all: string[], one: string) => all.filter((each) => each !== one);

/** Sets up one's own portal. What is wished is shown at once, and undone if it is refused. */
export function useOwnPortal() {
  const queries = useQueryClient();
  const { signed } = useSession();
  const device = useDevice();
  const show = (change: (own: Own) => Own) =>
    queries.setQueryData<Page | null>(FRONT_KEY, (page) =>
      page ? { ...page, own: change(page.own ?? NO_OWN) } : page,
    );
  const wish = useMutation({
    mutationFn: ({ tell }: Wish) => tell(),
    onMutate: async ({ now }) => {
      await queries.cancelQueries({ queryKey: FRONT_KEY });
      show(now);
    },
    onSuccess: (own) => {
      show(() => own);
      // The person's other tabs here.
      const channel = new BroadcastChannel(`eleutheria-${signed.person}`);
      channel.postMessage({ position: 0, topics: ['front'] });
      channel.close();
    },
    onError: () => queries.invalidateQueries({ queryKey: FRONT_KEY }),
  });
  return {
    error: wish.error,
    keep: (tile: string, behind: string | null) =>
      wish.mutate({
        now: (own) => {
          const order = without(own.pinned, tile);
          const place = behind === null ? 0 : order.indexOf(behind) + 1 || order.length;
          return { ...own, close: [...order.slice(0, place), tile, ...order.slice(place)] };
        },
        tell: () =>
          answer(
            api.PUT('/api/my/portal/pinned/{tile}', {
              params: { path: { tile } },
              body: { behind },
            }),
          ),
      }),
    letGo: (tile: string) =>
      wish.mutate({
        now: (own) => ({ ...own, close: without(own.pinned, tile) }),
        tell: () =>
          answer(api.DELETE('/api/my/portal/pinned/{tile}', { params: { path: { tile } } })),
      }),
    hide: (collection: string) =>
      wish.mutate({
        now: (own) => ({ ...own, hidden: [...own.hidden, collection] }),
        tell: () =>
          answer(
            api.PUT('/api/my/portal/hidden/{collection}', { params: { path: { collection } } }),
          ),
      }),
    show: (collection: string) =>
      wish.mutate({
        now: (own) => ({ ...own, hidden: without(own.hidden, collection) }),
        tell: () =>
          answer(
            api.DELETE('/api/my/portal/hidden/{collection}', { params: { path: { collection } } }),
          ),
      }),
    draw: (form: Form) =>
      wish.mutate({
        now: (own) => ({ ...own, forms: { ...own.forms, [device]: form } }),
        tell: () =>
          answer(
            api.POST('/api/my/portal/form', {
              body: { device: device === 'phone' ? 'PHONE' : 'WIDE', form },
            }),
          ),
      }),
    hush: (word: string) =>
      wish.mutate({
        now: (own) => ({ ...own, hushed: [...own.hushed, word] }),
        tell: () => answer(api.POST('/api/my/portal/hushed', { body: { word } })),
      }),
    seen: (tip: Tip) =>
      wish.mutate({
        now: (own) => ({ ...own, tips: [...own.tips, tip.toLowerCase()] }),
        tell: () => answer(api.PUT('/api/my/portal/tips/{tip}', { params: { path: { tip } } })),
      }),
  };
}
