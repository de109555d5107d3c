import { describe, expect, it } from 'vitest';
import { answer, Problem } from './client';

const problem = {
  type: 'urn:eleutheria:problem:group.name-taken',
  title: 'Not done',
  status: 422,
  detail: 'There is a group “A” already.',
  problems: [
    { code: 'group.name-taken', field: 'name', sentence: 'There is a group “A” already.' },
    { code: 'reach', field: '', sentence: 'This moves 2 people who are outside your reach.' },
  ],
  retryAfterSeconds: null,
};

async function thrown(error: unknown, status: number): Promise<Problem> {
  const response = new Response(null, { status });
  const caught = await answer(Promise.resolve({ error, response })).catch((e: unknown) => e);
  if (!(caught instanceof Problem)) {
    throw new Error('no problem was thrown');
  }
  return caught;
}

describe('an answer', () => {
  it('gives its body', async () => {
    const response = new Response(null, { status: 200 });
    expect(await answer(Promise.resolve({ data: 7, response }))).toBe(7);
  });

  it('tells each problem at its field and the others beside', async () => {
    const caught = await thrown(problem, 422);
    expect(caught.code).toBe('group.name-taken');
    expect(caught.field('name')).toBe('There is a group “A” already.');
    expect(caught.field('filter')).toBeUndefined();
    expect(caught.besides(['name'])).toEqual(['This moves 2 people who are outside your reach.']);
  });

  it('has a sentence also where the server sent none', async () => {
    const caught = await thrown('<html>', 502);
    expect(caught.besides([])).toEqual(['The server answered with 502. Nothing was changed.']);
  });
});
