import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type PersonId = string & { readonly brand: 'person' };
export type GroupId = string & { readonly brand: 'group' };

/** A problem answer (RFC 9457), thrown by {@link answer}. */
export class Problem extends Error {
  constructor(readonly view: Schemas['ProblemView']) {
    super(view.detail);
  }

  get code(): string {
    return this.view.type.replace('urn:eleutheria:problem:', '');
  }

  /** What is wrong with one field of a form. */
  field(name: string): string | undefined {
    const found = this.view.problems.filter((problem) => problem.field === name);
    return found.length === 0 ? undefined : found.map((problem) => problem.sentence).join(' ');
  }

  /** What is wrong and belongs to none of these fields. */
  besides(fields: string[]): string[] {
    const rest = this.view.problems.filter((problem) => !fields.includes(problem.field));
    return this.view.problems.length === 0
      ? [this.view.detail]
      : rest.map((problem) => problem.sentence);
  }
}

/** The token changes at each sign-in, so the cookie is read anew for each request. */
function csrfToken(): string {
  const found = document.cookie.split('; ').find((part) => /^(__Host-)?XSRF-TOKEN=/.test(part));
  return found === undefined ? '' : decodeURIComponent(found.slice(found.indexOf('=') + 1));
}

const OFFLINE: Schemas['ProblemView'] = {
  type: 'urn:eleutheria:problem:offline',
  title: 'No connection',
  status: 0,
  detail: 'The server does not answer. What you typed is kept; try again in a moment.',
  problems: [],
  retryAfterSeconds: null,
};

export async function sendRequest(input: Request): Promise<Response> {
  const again = input.method === 'GET' ? undefined : input.clone();
  try {
    const response = await fetch(input);
    if (again === undefined || response.status !== 403 || !(await isOldToken(response.clone()))) {
      return response;
    }
    // Another tab has signed in meanwhile; the refusal has brought the new token.
    again.headers.set('X-XSRF-TOKEN', csrfToken());
    return await fetch(again);
  } catch {
    throw new Problem(OFFLINE);
  }
}

async function isOldToken(response: Response): Promise<boolean> {
  const view: unknown = await response.json().catch(() => undefined);
  return isProblem(view) && view.type === 'urn:eleutheria:problem:csrf';
}

export const api = createClient<paths>({
  baseUrl: typeof window === 'undefined' ? '' : window.location.origin,
  fetch: sendRequest,
});

/** The newest ledger position that an answer has told of: what is read next must not be older. */
let newest = 0;

/** The draft that gathers what is done on the desk; undefined where it is done at once. */
let gathering: string | undefined;

export function gatherInto(draft: string | undefined): void {
  gathering = draft;
}

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') {
      request.headers.set('X-XSRF-TOKEN', csrfToken());
      if (gathering !== undefined) {
        request.headers.set('Draft', gathering);
      }
    }
    if (newest > 0) {
      request.headers.set('Not-Older-Than', String(newest));
    }
    return request;
  },
  async onResponse({ request, response }) {
    const position = Number(response.headers.get('Ledger-Position') ?? 0);
    if (response.status === 503 && position > 0) {
      // This server will not come that far soon, or has begun anew: what it has is good enough.
      newest = position;
    }
    heard(position);
    if (request.method !== 'GET' && response.ok && response.status !== 204) {
      const written: unknown = await response
        .clone()
        .json()
        .catch(() => undefined);
      if (typeof written === 'object' && written !== null && 'position' in written) {
        heard(Number(written.position));
      }
    }
    return response;
  },
});

function heard(position: number) {
  if (Number.isSafeInteger(position) && position > newest) {
    newest = position;
  }
}

type Result<T> = { data?: T; error?: unknown; response: Response };

function isProblem(value: unknown): value is Schemas['ProblemView'] {
  return typeof value === 'object' && value !== null && 'type' in value && 'detail' in value;
}

/** The answer's body, or the problem it told. */
export async function answer<T>(result: Promise<Result<T>>): Promise<T> {
  const { data, error, response } = await result;
  if (response.ok) {
    return data as T;
  }
  throw new Problem(
    isProblem(error)
      ? { ...error, problems: error.problems ?? [] }
      : {
          ...OFFLINE,
          type: 'urn:eleutheria:problem:unexpected',
          title: 'Not done',
          status: response.status,
          detail: `The server answered with ${response.status}. Nothing was changed.`,
        },
  );
}

/** A key under which a repeat of the same act is recognised. */
export function repeatKey(): string {
  return crypto.randomUUID();
}

/** A fetch of our own, for what is no JSON. */
export async function raw(path: string, init: RequestInit): Promise<Response> {
  const headers = new Headers(init.headers);
  headers.set('X-XSRF-TOKEN', csrfToken());
  const response = await sendRequest(
    new Request(new URL(path, window.location.origin), { ...init, headers }),
  );
  if (!response.ok) {
    const body: unknown = await response.json().catch(() => undefined);
    await answer(Promise.resolve({ error: body, response }));
  }
  return response;
}
