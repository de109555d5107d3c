import { useQuery } from '@tanstack/react-query';
import { FRONT_KEY, frontView } from '../shell/session';

/** One's own front page; where it is opened first, it came with the session in one answer. */
export function useFront() {
  return useQuery({
    queryKey: FRONT_KEY,
    queryFn: async () => {
      const { page } = await frontView();
      return page;
    },
  });
}
