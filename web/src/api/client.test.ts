import { describe, expect, it, vi } from 'vitest';
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

describe('what was written', () => {
  // What was heard before is of another server.
  async function fresh() {
    vi.resetModules();
    return (await import('./client')).api;
  }

  function server(...answers: Response[]) {
    const asked: (string | null)[] = [];
    vi.stubGlobal('fetch', (request: Request) => {
      asked.push(request.headers.get('Not-Older-Than'));
      return Promise.resolve(answers.shift());
    });
    return asked;
  }

  function at(position: number, status = 200, body: unknown = {}) {
    return new Response(JSON.stringify(body), {
      status,
      headers: { 'Content-Type': 'application/json', 'Ledger-Position': String(position) },
    });
  }

  it('is read again wherever the next query goes', async () => {
    const asked = server(at(40), at(40, 200, { position: 41, result: '' }), at(41), at(41));
    const api = await fresh();
    await api.GET('/api/session');
    await api.POST('/api/me/sign-out-everywhere');
    await api.GET('/api/session');
    expect(asked[1]).toBe('40');
    expect(asked[2]).toBe('41');
  });

  it('is not waited for where the server has begun anew', async () => {
    const asked = server(at(50), at(3, 503), at(3));
    const api = await fresh();
    await api.GET('/api/session');
    await api.GET('/api/session');
    await api.GET('/api/session');
    expect(asked[1]).toBe('50');
    expect(asked[2]).toBe('3');
  });
});
