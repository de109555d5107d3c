// @vitest-environment happy-dom
import { keepPreviousData, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { act, render, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { Queries } from './queries';

/** A server whose answers come when they are let go; each tells what stood when it was asked. */
class Server {
  stands = 'nothing';
  private readonly waiting: (() => void)[] = [];

  ask = () => {
    const told = this.stands;
    return new Promise<string>((come) => this.waiting.push(() => come(told)));
  };

  async answer() {
    await act(async () => {
      for (const come of this.waiting.splice(0)) {
        come();
      }
      await Promise.resolve();
    });
  }

  get asked() {
    return this.waiting.length;
  }
}

function Shown({ of, ask }: { of: string; ask: () => Promise<string> }) {
  const query = useQuery({ queryKey: [of], queryFn: ask, placeholderData: keepPreviousData });
  return <p>{query.error !== null ? 'failed' : (query.data ?? 'waiting')}</p>;
}

function show() {
  const server = new Server();
  const queries = new Queries({ retry: false, staleTime: 10_000 });
  const page = (of: string) => (
    <QueryClientProvider client={queries}>
      <Shown of={of} ask={server.ask} />
    </QueryClientProvider>
  );
  return { server, queries, page, ...render(page('draft')) };
}

describe('what changes while it is asked for the first time', () => {
  it('is asked once more when it has come', async () => {
    const { server, queries } = show();
    expect(server.asked).toBe(1);
    server.stands = 'one edit';
    await act(async () => {
      void queries.invalidateQueries();
    });
    await server.answer();
    expect(await screen.findByText('nothing')).toBeTruthy();
    await waitFor(() => expect(server.asked).toBe(1));
    await server.answer();
    expect(await screen.findByText('one edit')).toBeTruthy();
    expect(server.asked).toBe(0);
  });

  it('comes in the end, however often something changes meanwhile', async () => {
    const { server, queries } = show();
    for (let i = 0; i < 20; i++) {
      await act(async () => {
        void queries.invalidateQueries();
      });
    }
    expect(server.asked).toBe(1);
    server.stands = 'the last edit';
    await server.answer();
    expect(await screen.findByText('nothing')).toBeTruthy();
    await waitFor(() => expect(server.asked).toBe(1));
    await server.answer();
    expect(await screen.findByText('the last edit')).toBeTruthy();
  });

  it('is left alone where the change is about something else', async () => {
    const { server, queries } = show();
    server.stands = 'one edit';
    await act(async () => {
      await queries.invalidateQueries({ queryKey: ['docket'] });
      await queries.invalidateQueries({ predicate: (query) => query.queryKey[0] === 'docket' });
    });
    expect(server.asked).toBe(1);
    await server.answer();
    expect(await screen.findByText('nothing')).toBeTruthy();
  });

  it('is asked again also where what was shown before still stands there', async () => {
    const { server, queries, page, rerender } = show();
    await server.answer();
    rerender(page('the draft that was opened'));
    server.stands = 'one edit';
    await act(async () => {
      void queries.invalidateQueries();
    });
    await server.answer();
    await waitFor(() => expect(server.asked).toBe(1));
    await server.answer();
    expect(await screen.findByText('one edit')).toBeTruthy();
  });
});
