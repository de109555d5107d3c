import { type UseQueryResult, useQueries } from '@tanstack/react-query';
import { useCallback } from 'react';
import { answer, api, type Schemas } from '../api/client';
import type { Asked, Shape } from './asked';
import { BLOCK, Known } from './cells';

/**
 * Asks for the blocks in which these rows and columns lie.
 *
 * @returns what has come of them, the first that came, one that failed, and the blocks of columns
 */
export function useBlocks(asked: Asked, shape: Shape, rows: number[], columns: number[]) {
  const rowBlocks = blocks(rows);
  const columnBlocks = blocks(columns);
  const wanted = rowBlocks.flatMap((row) => columnBlocks.map((column) => ({ row, column })));
  const places = wanted.map(({ row, column }) => `${row} ${column}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the places say it all
  const combine = useCallback(
    (answers: UseQueryResult<Schemas['MapView']>[]) => ({
      known: new Known(
        wanted.flatMap(({ row, column }, index) => {
          const view = answers[index]?.data;
          return view === undefined ? [] : [{ row: row * BLOCK, column: column * BLOCK, view }];
        }),
      ),
      first: answers.find((one) => one.data !== undefined)?.data,
      failed: answers.find((one) => one.error !== null),
    }),
    [places],
  );
  const come = useQueries({
    queries: wanted.map(({ row, column }) => ({
      queryKey: ['holdings-map', asked, shape, row, column],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        answer(
          api.GET('/api/holdings/map', {
            params: {
              query: {
                ...asked,
                ...shape,
                row: row * BLOCK,
                size: BLOCK,
                column: column * BLOCK,
                width: BLOCK,
              },
            },
            signal,
          }),
        ),
    })),
    combine,
  });
  return { ...come, columnBlocks };
}

function blocks(indexes: number[]): number[] {
  return [...new Set([0, ...indexes.map((index) => Math.floor(index / BLOCK))])].filter(
    (block) => block > 0 || indexes.length === 0 || (indexes[0] ?? 0) < BLOCK,
  );
}
