import { createContext, useContext } from 'react';
import { answer, api, gatherInto } from '../api/client';
import { useOpenDraft } from './gathering';

/** What a draft is called that is opened by the first edit on a page; undefined where none is. */
const Named = createContext<string | undefined>(undefined);
export const DraftsHere = Named.Provider;

/**
 * Before an edit on a page whose edits all go into a draft: opens one where none is open.
 *
 * @returns the name of the draft that the next edit opens, and the opening, which tells the draft
 *     that gathers from then on
 */
export function useEnsureDraft(): {
  name: string | undefined;
  ensure: () => Promise<string | undefined>;
} {
  const here = useContext(Named);
  const open = useOpenDraft();
  const name = open === undefined ? here : undefined;
  return {
    name,
    ensure: async () => {
      if (name === undefined) {
        return open?.id;
      }
      const opened = await answer(api.POST('/api/drafts', { body: { name } }));
      gatherInto(opened.result);
      return opened.result;
    },
  };
}
