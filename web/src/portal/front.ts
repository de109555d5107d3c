import { useQuery } from '@tanstack/react-query';
import { answer, api } from '../api/client';
import { FRONT_KEY } from '../shell/session';

/** One's own front page; where it is opened first, it came with the session in one answer. */
export function useFront() {
  return useQuery({
    queryKey: FRONT_KEY,
    queryFn: async () => {
      const { page } = await answer(api.GET('/api/front'));
      return page;
    },
  });
}
