import { type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Schemas } from '../api/client';

type Heard = { position: number; topics: string[] };

/** What to ask for anew when a topic has moved; the desk is everything that the portal is not. */
const PORTAL = ['session', 'front', 'my', 'askable'];

function renew(queries: QueryClient, topics: string[]) {
  if (topics.includes('front')) {
    void queries.invalidateQueries({ queryKey: ['front'] });
    void queries.invalidateQueries({ queryKey: ['my', 'holdings'] });
    void queries.invalidateQueries({ queryKey: ['askable'] });
  }
  if (topics.includes('requests')) {
    void queries.invalidateQueries({ queryKey: ['front'] });
    void queries.invalidateQueries({ queryKey: ['my', 'requests'] });
  }
  if (topics.includes('docket')) {
    void queries.invalidateQueries({ queryKey: ['docket'] });
    void queries.invalidateQueries({ queryKey: ['case'] });
    // Whoever has something to decide for the first time is shown the way to the desk.
    void queries.invalidateQueries({ queryKey: ['session'] });
  }
  if (topics.includes('desk')) {
    // Many browsers hear of the same act; they do not all ask in the same moment.
    setTimeout(
      () =>
        void queries.invalidateQueries({
          predicate: (query) => !PORTAL.includes(String(query.queryKey[0])),
        }),
      Math.random() * 400,
    );
  }
}

/**
 * Hears what moves. One tab of a browser holds the stream and tells the others; when it closes,
 * another takes its place. Without locks each tab has its own.
 */
export function useLive(person: string, position: number) {
  const queries = useQueryClient();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the position is where it began
  useEffect(() => {
    const ended = new AbortController();
    const channel = new BroadcastChannel(`eleutheria-${person}`);
    channel.onmessage = (event: MessageEvent<Heard>) => renew(queries, event.data.topics);

    const listen = () =>
      new Promise<void>((resolve) => {
        let known = position;
        const open = () => {
          const stream = new EventSource('/api/stream');
          const over = () => {
            stream.close();
            resolve();
          };
          ended.signal.addEventListener('abort', over);
          stream.addEventListener('moved', (event: MessageEvent<string>) => {
            const heard = JSON.parse(event.data) as Heard;
            known = heard.position;
            renew(queries, heard.topics);
            channel.postMessage(heard);
          });
          // After a break, or where something moved before the stream was open, all is asked anew.
          stream.addEventListener('hello', (event: MessageEvent<string>) => {
            const heard = JSON.parse(event.data) as Heard;
            if (heard.position > known) {
              known = heard.position;
              const all = { position: known, topics: ['front', 'requests', 'docket', 'desk'] };
              renew(queries, all.topics);
              channel.postMessage(all);
            }
          });
          // The session is over: signed out, or in another tab signed in anew. Whether somebody
          // still is signed in is asked at once; if so, it is listened to again.
          stream.addEventListener('closed', async () => {
            stream.close();
            ended.signal.removeEventListener('abort', over);
            await queries.invalidateQueries({ queryKey: ['session'] });
            const session = queries.getQueryData<Schemas['SessionView']>(['session']);
            if (ended.signal.aborted || session?.signed === null) {
              resolve();
            } else {
              open();
            }
          });
          // Newer browsers of the same person took its place.
          stream.addEventListener('full', () => stream.close());
        };
        open();
      });

    if (!navigator.locks) {
      void listen();
    } else {
      navigator.locks
        .request(`eleutheria-${person}`, { signal: ended.signal }, listen)
        .catch(() => undefined);
    }
    return () => {
      ended.abort();
      channel.close();
    };
  }, [person, queries]);
}
