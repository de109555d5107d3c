import { onlineManager, useIsMutating, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answer, api } from '../api/client';
import { words } from '../words/en';

/** So long an act may take before it is told what it waits for. */
const PATIENCE = 1_500;

/** Says whom an act waits for that takes longer: one is written at a time. */
export function Waiting() {
  const pending = useIsMutating() > 0;
  const [long, setLong] = useState(false);
  useEffect(() => {
    if (!pending) {
      setLong(false);
      return;
    }
    const timer = setTimeout(() => setLong(true), PATIENCE);
    return () => clearTimeout(timer);
  }, [pending]);
  const writing = useQuery({
    queryKey: ['writing'],
    queryFn: () => answer(api.GET('/api/writing')),
    enabled: long,
    refetchInterval: 1_000,
    gcTime: 0,
  });
  if (!long) {
    return null;
  }
  return (
    <div className="waits-for" role="status">
      {!onlineManager.isOnline()
        ? words.shell.unsentOffline
        : writing.data?.who != null
          ? words.shell.waitsFor(writing.data.who)
          : words.shell.writing}
    </div>
  );
}
