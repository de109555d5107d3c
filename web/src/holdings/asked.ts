import type { paths } from '../api/schema';
import { useAddress } from '../shell/addresses';
import { useLens } from '../shell/lens';
import { useSession } from '../shell/session';
import { dayIn, endOfDay, isDay } from '../shell/times';

/** So long must something be left alone to be called unused, where nobody says otherwise. */
export const UNUSED_DAYS = 90;

type Query = NonNullable<paths['/api/holdings/map']['get']['parameters']['query']>;

/** Which holdings are asked for, as the server takes it. */
export type Asked = Pick<
  Query,
  | 'apps'
  | 'entitlements'
  | 'sensitivities'
  | 'where'
  | 'only'
  | 'days'
  | 'endsBefore'
  | 'asOf'
  | 'against'
  | 'from'
  | 'until'
>;

/** How the map is laid out, as the server takes it. */
export type Shape = Pick<Query, 'rows' | 'under' | 'order' | 'columns' | 'open'>;

/** What cells tell: shares of a row's people, gains and losses, or who held it once in a span. */
export type Told = 'shares' | 'moves' | 'span';

export function toldOf(asked: Asked): Told {
  return asked.against !== undefined ? 'moves' : asked.from !== undefined ? 'span' : 'shares';
}

export const MARKS = ['unused', 'conflict', 'hand', 'ending'] as const;
export type MarkName = (typeof MARKS)[number];

/** Names of the address's parameters that say what is asked for. */
export const ASKED = [
  'apps',
  'entitlements',
  'sensitivities',
  'where',
  'only',
  'days',
  'endsBefore',
  'against',
  'from',
  'until',
];

function list(text: string): string[] | undefined {
  return text === '' ? undefined : text.split(',');
}

/** Reads what is asked for out of parameters that stand in an address. */
export function readAsked(get: (name: string) => string, zone: string, asOf?: string): Asked {
  const against = get('against');
  return {
    apps: list(get('apps')),
    entitlements: list(get('entitlements')),
    sensitivities: list(get('sensitivities')),
    where: get('where') || undefined,
    only: list(get('only')),
    days: get('days') === '' ? undefined : Number(get('days')),
    endsBefore: get('endsBefore') || undefined,
    asOf,
    against: isDay(against) ? endOfDay(zone, against) : undefined,
    from: get('from') || undefined,
    until: get('until') || undefined,
  };
}

/** What is asked for, kept in the view's address. */
export function useAsked(): Asked {
  const [get] = useAddress();
  const { zone } = useSession();
  const { asOf } = useLens();
  return readAsked(get, zone, asOf);
}

export function useShape(): Shape {
  const [get] = useAddress();
  return {
    rows: get('rows') || undefined,
    under: get('under') || undefined,
    order: get('order') || undefined,
    columns: get('columns') || undefined,
    open: get('open') === '' ? undefined : get('open'),
  };
}

/** The same query as an address of this desk; the "as of" day is added by the link. */
export function addressOf(path: string, asked: Asked, zone: string): string {
  const parameters = new URLSearchParams();
  const put = (name: string, value: string | undefined) => {
    if (value !== undefined && value !== '') {
      parameters.set(name, value);
    }
  };
  put('apps', asked.apps?.join(','));
  put('entitlements', asked.entitlements?.join(','));
  put('sensitivities', asked.sensitivities?.join(','));
  put('where', asked.where);
  put('only', asked.only?.join(','));
  put('days', asked.days === undefined ? undefined : String(asked.days));
  put('endsBefore', asked.endsBefore);
  put('against', asked.against === undefined ? undefined : dayIn(zone, new Date(asked.against)));
  put('from', asked.from);
  put('until', asked.until);
  const text = parameters.toString();
  return text === '' ? path : `${path}?${text}`;
}

/** A filter (RFC 7644, section 3.4.2.2) for people who have a value of an attribute, or none. */
export function having(attribute: string, value: string): string {
  return value === '' ? `not (${attribute} pr)` : `${attribute} eq ${JSON.stringify(value)}`;
}

/** Both filters together; an empty one does not narrow. */
export function both(one: string | undefined, other: string): string {
  return one === undefined || one.trim() === '' ? other : `(${one}) and (${other})`;
}
