import type { Schemas } from '../api/client';
import { useSession } from '../shell/session';
import { lastDay, tellDate, tellDay } from '../shell/times';
import { words } from '../words/portal';

/** One ground in plain words: by what one has it, from whom, why, and until when. */
export function WhyLine({ ground }: { ground: Schemas['GroundView'] }) {
  const { zone } = useSession();
  const chain = ground.chain.map((step) => step.name);
  // Whoever has the attribute at all: there is nothing about this person to be told.
  const everybody = ground.by === 'filter' && / pr$/.test(ground.subject.filter ?? '');
  const matched = (everybody ? [] : Object.entries(ground.matched))
    .map(([label, value]) => words.held.isSo(label, value))
    .join(words.held.and);
  return (
    <li className="why">
      <span>
        {ground.by === 'person'
          ? ground.request !== null
            ? words.held.becauseAsked(ground.request)
            : words.held.becauseGiven
          : ground.by === 'group'
            ? words.held.becauseGroup(chain, matched)
            : words.held.becauseFilter(matched)}{' '}
        {words.held.givenOn(ground.givenBy, tellDate(ground.from))}{' '}
        {ground.until !== null && words.held.endsAfter(tellDay(lastDay(zone, ground.until)))}
      </span>
      {ground.reason !== null && ground.reason !== '' && (
        <span className="said small" dir="auto">
          “{ground.reason}”
        </span>
      )}
    </li>
  );
}

/** Everything that one has a thing by. */
export function WhyLines({ grounds }: { grounds: Schemas['GroundView'][] }) {
  return (
    <ul className="plain whys">
      {grounds.map((ground) => (
        <WhyLine key={ground.grant} ground={ground} />
      ))}
    </ul>
  );
}

/** Since when, until when, and when it was used last. */
export function HeldFor({ holding }: { holding: Schemas['MyHolding'] }) {
  const { zone } = useSession();
  return (
    <span className="dim small held-for">
      {holding.since !== null && (
        <span title={holding.since}>{words.held.heldSince(tellDate(holding.since))}</span>
      )}
      {holding.opens && (
        <span title={holding.lastOpened ?? undefined}>
          {holding.lastOpened === null
            ? words.held.neverOpened
            : words.held.lastOpened(tellDate(holding.lastOpened))}
        </span>
      )}
      {holding.until === null ? (
        <span>{words.held.noEnd}</span>
      ) : (
        <span className="tag wait" title={holding.until}>
          {words.held.until(tellDay(lastDay(zone, holding.until)))}
        </span>
      )}
    </span>
  );
}
