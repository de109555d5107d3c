import { QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { vi } from 'vitest';
import type { Schemas } from '../api/client';
import { Queries } from '../shell/queries';

type Reply = { status?: number; body?: unknown };
type Server = Record<string, (body: unknown, url: URL, headers: Headers) => Reply>;

/** What was asked of the server, oldest first. */
export type Asked = { what: string; body: unknown; key: string | null; headers: Headers }[];

/** A stream that tells what a test lets it tell. */
export class TestStream extends EventTarget {
  static open: TestStream[] = [];
  constructor() {
    super();
    TestStream.open.push(this);
  }
  tell(event: string, data: unknown) {
    this.dispatchEvent(new MessageEvent(event, { data: JSON.stringify(data) }));
  }
  close() {
    TestStream.open = TestStream.open.filter((one) => one !== this);
  }
}

/** A server that answers "METHOD /path" with what a function gives. */
export function serve(server: Server): Asked {
  const asked: Asked = [];
  vi.stubGlobal('EventSource', TestStream);
  vi.stubGlobal('fetch', async (input: Request) => {
    const url = new URL(input.url);
    const what = `${input.method} ${url.pathname}`;
    const text = await input.text();
    const body: unknown = text === '' ? undefined : JSON.parse(text);
    const { headers } = input;
    asked.push({ what, body, key: headers.get('Idempotency-Key'), headers });
    const reply =
      server[what]?.(body, url, headers) ??
      (url.pathname.startsWith('/api/my/unsent/')
        ? // Nothing typed is kept from before.
          { body: { fields: {} } }
        : { status: 404, body: problem('absent', 'Not here.', 404) });
    return new Response(JSON.stringify(reply.body ?? {}), {
      status: reply.status ?? 200,
      headers: { 'Content-Type': 'application/json' },
    });
  });
  return asked;
}

export function problem(code: string, detail: string, status: number, field = '') {
  return {
    type: `urn:eleutheria:problem:${code}`,
    title: 'Not done',
    status,
    detail,
    problems: [{ code, field, sentence: detail }],
    retryAfterSeconds: null,
  };
}

/** What an act would do; nothing, where nothing is said. */
export function foreseen(over: Partial<Schemas['ForeseenView']>): Schemas['ForeseenView'] {
  return {
    digest: '',
    to: 0,
    already: 0,
    inDraft: false,
    cut: false,
    moments: [],
    problems: [],
    ...over,
  };
}

const NO_COUNTS = {
  gain: 0,
  lose: 0,
  keep: 0,
  ends: 0,
  back: 0,
  last: 0,
  more: 0,
  less: 0,
  moved: 0,
  met: 0,
  conflicts: 0,
  settled: 0,
};

/** A moment at which some people gain or lose one thing. */
export function moment(
  at: string,
  sign: 'gain' | 'lose' | 'ends',
  thing: { id: string; title: string },
  people: number,
  named: Schemas['PersonLine'][],
): Schemas['MomentView'] {
  const row = {
    sign,
    kind: 'entitlement',
    ...thing,
    people,
    named,
    units: [],
    because: [1],
    rest: null,
    grown: 0,
    idle: 0,
  };
  return {
    at,
    publishing: new Date(at).getTime() <= Date.now(),
    counts: { ...NO_COUNTS, [sign]: people },
    conflicts: [],
    rows: [row],
    more: 0,
  };
}

export const SIGNED = {
  organisation: 'Tern Sound Ferries',
  brand: {
    mark: '',
    band: '#17504a',
    welcome: '',
    door: '',
    help: '',
    form: 'tiles',
    tight: false,
  },
  zone: 'Europe/Oslo',
  locale: '',
  begins: '2024-11-25T07:00:00Z',
  position: 7,
  signed: {
    person: 'p1',
    displayed: 'Ines Roth',
    given: 'Ines',
    powers: ['people.read', 'people.import', 'groups.edit', 'ledger.read'],
    mandates: ['Steward'],
    limited: false,
    ownsGroups: false,
    ownsApps: false,
    ownsCollections: false,
    ownsListings: false,
    drafts: true,
    leads: false,
    decides: false,
    deskOver: false,
    freshUntil: null,
  },
};

/** Draws something at an address, with a store of answers of its own. */
export function draw(what: ReactNode, address = '/') {
  const queries = new Queries({ retry: false, staleTime: 10_000 });
  return render(
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={[address]}>{what}</MemoryRouter>
    </QueryClientProvider>,
  );
}

/** The test's browser lays nothing out: gives everything the size that a table has on a laptop. */
export function layOut() {
  for (const [name, value] of [
    ['clientHeight', 600],
    ['offsetHeight', 600],
    ['clientWidth', 1000],
    ['offsetWidth', 1000],
  ] as const) {
    Object.defineProperty(HTMLElement.prototype, name, { configurable: true, value });
  }
}
