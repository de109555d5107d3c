import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import { answer, api, type Schemas } from '../../api/client';

/** What one person would be asked by a form, and what is wrong with it. */
export function useTried(shape: Schemas['FormShape'], person: string | undefined) {
  const form = useDeferredValue(JSON.stringify(shape));
  return useQuery({
    queryKey: ['forms', 'tried', form, person],
    queryFn: () =>
      answer(
        api.POST('/api/forms/tried', {
          body: { person: person ?? null, form: JSON.parse(form) as Schemas['FormShape'] },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
