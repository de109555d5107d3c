import type { ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { FilterSaid } from '../directory/filter/FilterSaid';
import { useSession } from '../shell/session';
import { lastDay, tellDate, tellDay } from '../shell/times';
import { words } from '../words/en';

const SHAPES: Record<string, string> = {
  person: 'M2 7a5 5 0 1 0 10 0a5 5 0 1 0 -10 0z',
  group: 'M2.5 2.5h9v9h-9z',
  filter: 'M1.5 2.5h11l-5.5 9.5z',
};

/** What an administrator granted is what most is, and goes without saying. */
export function tellSign(by: string, source: string): string {
  const way = words.access.signs[by] ?? by;
  return source === 'hand' ? way : `${way}, ${words.access.sources[source] ?? source}`;
}

/** A ground as a shape for by what it comes, filled for whence. */
export function GroundSign({ by, source }: { by: string; source: string }) {
  const shape = SHAPES[by] ?? '';
  return (
    <svg className="sign" width="14" height="14" viewBox="0 0 14 14" role="img">
      <title>{tellSign(by, source)}</title>
      <path
        d={shape}
        fill={source === 'hand' ? 'currentColor' : 'none'}
        stroke="currentColor"
        strokeWidth="1.6"
      />
      {source === 'request' && <circle cx="7" cy="6.8" r="1.9" fill="currentColor" />}
      {source === 'import' && <path d="M4.6 7h4.8" stroke="currentColor" strokeWidth="1.8" />}
      {source === 'review' && (
        <path d="M4.6 6.6l1.8 1.9l3-3.4" fill="none" stroke="currentColor" strokeWidth="1.5" />
      )}
    </svg>
  );
}

/** The grounds of a holding: the sign of each with the name of what it comes through. */
export function NamedGrounds({ signs }: { signs: Schemas['Sign'][] }) {
  return (
    <span className="named-grounds">
      {signs.map((sign, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: grounds may look alike
        <span key={index} className="named-ground">
          <GroundSign by={sign.by} source={sign.source} />
          <span title={tellSign(sign.by, sign.source)}>
            {sign.name ?? words.access.sources[sign.source]}
          </span>
        </span>
      ))}
    </span>
  );
}

/** The shapes that occur, each with its sense. */
export function SignKey({ signs }: { signs: Pick<Schemas['Sign'], 'by' | 'source'>[] }) {
  const all = new Map(signs.map((sign) => [`${sign.by} ${sign.source}`, sign]));
  return (
    <ul className="plain bar key">
      {[...all.entries()].sort().map(([name, sign]) => (
        <li key={name}>
          <GroundSign by={sign.by} source={sign.source} /> {tellSign(sign.by, sign.source)}
        </li>
      ))}
    </ul>
  );
}

/** One ground of a holding in full: by what, through whom, until when, from whom and why. */
export function GroundCard({
  ground,
  group,
  children,
}: {
  ground: Schemas['GroundView'];
  group?: (one: Schemas['GroupRef']) => ReactNode;
  children?: ReactNode;
}) {
  const { zone } = useSession();
  const chain = ground.chain;
  return (
    <li className="ground">
      <GroundSign by={ground.by} source={ground.source} />
      <div>
        <div>
          <b>{words.access.signs[ground.by]}</b>
          {chain.length > 0 && ': '}
          <span className="chain">
            {chain.map((step, index) => (
              <span key={step.id} className="chain">
                {index > 0 && <span aria-hidden>→</span>}
                {group === undefined ? step.name : group(step)}
              </span>
            ))}
          </span>
          {ground.form !== null && (
            <span className="dim small"> {words.groups.forms[ground.form]}</span>
          )}
          {ground.more > 0 && <span className="dim small"> {words.access.more(ground.more)}</span>}
        </div>
        {ground.by === 'filter' && (
          <FilterSaid said={ground.subject.name} filter={ground.subject.filter} />
        )}
        {Object.keys(ground.matched).length > 0 && (
          <div className="small">
            {Object.entries(ground.matched)
              .map(([label, value]) => `${label} ${value}`)
              .join(' · ')}
          </div>
        )}
        <div className="small">
          {words.access.given(
            words.access.sources[ground.source] ?? ground.source,
            ground.request,
            ground.givenBy,
            tellDate(ground.from),
          )}
          ,{' '}
          {ground.until === null
            ? words.access.noEnd
            : words.access.until(tellDay(lastDay(zone, ground.until)))}
          {ground.by !== 'person' && `; ${words.access.covers(ground.covers)}`}
        </div>
        {ground.reason !== null && ground.reason !== '' && (
          <div className="said small">“{ground.reason}”</div>
        )}
        {children}
      </div>
    </li>
  );
}
