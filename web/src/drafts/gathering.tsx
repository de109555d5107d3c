import { useQuery } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext } from 'react';
import { answer, api, gatherInto, type Schemas } from '../api/client';
import { useSession } from '../shell/session';
import { Failure, Loading } from '../shell/states';
import { words } from '../words/en';

type Tray = Schemas['Tray'];

const Gathered = createContext<Tray | undefined>(undefined);

/** Whether somebody can put anything into a draft at all. */
export function useWorksWithDrafts(): boolean {
  return useSession().signed.drafts;
}

/**
 * Knows which draft gathers what is done on the desk. Nothing is drawn before that is known, so
 * that no edit is done at once that was meant for a draft.
 */
export function Gathering({ children }: { children: ReactNode }) {
  const works = useWorksWithDrafts();
  const tray = useQuery({
    queryKey: ['drafts'],
    queryFn: async () => {
      const told = await answer(api.GET('/api/drafts'));
      gatherInto(told.open?.draft.id);
      return told;
    },
    enabled: works,
  });
  if (!works) {
    return children;
  }
  if (tray.data === undefined) {
    return tray.error ? (
      <Failure error={tray.error} again={() => tray.refetch()} />
    ) : (
      <Loading what={words.drafts.tray} />
    );
  }
  return <Gathered.Provider value={tray.data}>{children}</Gathered.Provider>;
}

/** The drafts of the reader; undefined for who works with none. */
export function useTray(): Tray | undefined {
  return useContext(Gathered);
}

/** The draft that gathers edits; undefined where they are done at once. */
export function useOpenDraft(): Schemas['DraftLine'] | undefined {
  return useTray()?.open?.draft;
}

/** Where to go after something was made: to it, or to the draft that will make it. */
export function placeOf(receipt: Schemas['Receipt'], draft: string | undefined, made: string) {
  return receipt.edit === null || draft === undefined ? made : `/desk/drafts/${draft}`;
}
