import type { ReactNode } from 'react';
import { createElement } from 'react';
import { Route, Routes } from 'react-router';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { type Asked, draw, SIGNED, serve } from './page';

/** Someone of the demo world; what a test is about is said in `over`. */
export function person(
  id: string,
  displayed: string,
  over: Partial<Schemas['PersonLine']> = {},
): Schemas['PersonLine'] {
  return {
    id,
    displayed,
    familyFirst: displayed.split(' ').reverse().join(', '),
    userName: displayed.toLowerCase().replace(' ', '.'),
    unit: 'Ticketing',
    site: 'Harrow Quay',
    title: 'Clerk',
    status: 'active',
    since: '2025-01-01T00:00:00Z',
    ...over,
  };
}

export const LENA = person('p-lena', 'Lena Aho');
export const ODA = person('p-oda', 'Oda Brekke');
export const JONAS = person('p-jonas', 'Jonas Weir', { unit: 'Finance', title: 'Auditor' });

export function app(name: string, over: Partial<Schemas['AppRef']> = {}): Schemas['AppRef'] {
  return { id: `a-${name}`, name, picture: 'key', hue: 'tide', state: 'open', ...over };
}

/** An entitlement, by its title: "Refund Bench · Approver". */
export function entitlement(
  title: string,
  over: Partial<Schemas['EntitlementRef']> = {},
): Schemas['EntitlementRef'] {
  const [of = '', name = ''] = title.split(' · ');
  return {
    id: `e-${title}`,
    title,
    name,
    line: '',
    sensitivity: 'low',
    app: app(of),
    ...over,
  };
}

/** A grant or a group through which something is held. */
export function ground(over: Partial<Schemas['GroundView']> = {}): Schemas['GroundView'] {
  return {
    grant: 'g1',
    by: 'person',
    subject: { kind: 'person', id: ODA.id, name: ODA.displayed, filter: null, people: 1 },
    chain: [],
    form: null,
    matched: {},
    source: 'hand',
    from: '2026-03-02T09:00:00Z',
    until: null,
    givenBy: 'Lena Aho',
    givenAt: '2026-03-02T09:00:00Z',
    reason: 'Joins the refund desk',
    request: null,
    covers: 1,
    more: 0,
    mayEndGrant: true,
    mayTakeOut: true,
    ...over,
  };
}

/** What the server says of an act that was done. */
export const DONE: Schemas['Receipt'] = { position: 8, result: 'new', edit: null, foreseen: null };

type Answers = Parameters<typeof serve>[0];

/**
 * Opens a page of the desk at an address, for someone with these powers.
 *
 * @param routes pages by their paths; what is followed to and is none of them tells its path
 * @returns what was asked of the server
 */
export function openDesk(
  address: string,
  routes: Record<string, ReactNode>,
  answers: Answers,
  signed: Partial<Schemas['Signed']> = {},
): Asked {
  const asked = serve({
    'GET /api/session': () => ({
      body: {
        ...SIGNED,
        locale: 'en-GB',
        signed: { ...SIGNED.signed, drafts: false, ...signed },
      },
    }),
    ...answers,
  });
  const pages = Object.entries(routes).map(([path, element]) =>
    createElement(Route, { key: path, path, element }),
  );
  draw(createElement(SessionGate, null, createElement(Routes, null, ...pages)), address);
  return asked;
}

/** What is sent like an act and changes nothing. */
const QUESTIONS = [
  'POST /api/filters/try',
  'POST /api/rules/preview',
  'POST /api/queries/answer',
  'POST /api/routes/drawn',
];

/** What was sent to change something, oldest first; what only looks ahead is left out. */
export function sent(asked: Asked): { what: string; body: unknown }[] {
  return asked
    .filter(
      (one) =>
        !one.what.startsWith('GET') &&
        !one.what.includes('/unsent/') &&
        !QUESTIONS.includes(one.what) &&
        one.headers.get('Foresee') === null,
    )
    .map(({ what, body }) => ({ what, body }));
}
