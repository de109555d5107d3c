import type { Schemas } from '../api/client';
import { tellTime } from '../shell/times';
import { words } from '../words/en';

type Change = Schemas['ChangeLine'];

/** Changes as lines: what, before, after. */
export function ChangeLines({
  changes,
  at,
  of,
}: {
  changes: Change[];
  /** The act's instant: what begins then needs no word of its own. */
  at: string;
  of?: string;
}) {
  return (
    <ul className="plain small">
      {changes.map((change, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: changes of an entry never move
        <li key={index}>
          <ChangeLine change={change} at={at} of={of} />
        </li>
      ))}
    </ul>
  );
}

function ChangeLine({ change, at, of }: { change: Change; at: string; of?: string }) {
  const names = change.objects.filter((object) => object.id !== of).map((object) => object.name);
  const label = [words.ledger.kinds[change.kind], change.what]
    .filter((part) => part !== '')
    .join(' ');
  const plain = change.before?.value === '' || change.after?.value === '';
  return (
    <>
      <span className="dim">
        {[...names, change.kind === 'ATTRIBUTE' ? change.what : label].join(' · ')}:{' '}
      </span>
      {change.before !== null && (
        <span className="before">
          <span aria-hidden>− </span>
          {plain ? '' : change.before.value || words.deliveries.nothing}
          {change.before.until !== null &&
            change.before.until !== at &&
            ` ${words.ledger.until(tellTime(change.before.until))}`}
          {plain && change.after === null && words.groups.remove}
        </span>
      )}
      {change.before !== null && change.after !== null && ' '}
      {change.after !== null && (
        <span className="after">
          <span aria-hidden>+ </span>
          {plain ? '' : change.after.value}
          {change.after.from !== at &&
            change.after.from !== change.before?.from &&
            ` ${words.ledger.from(tellTime(change.after.from))}`}
          {change.after.until !== null && ` ${words.ledger.until(tellTime(change.after.until))}`}
        </span>
      )}
      {change.erased && <span className="tag">{words.ledger.erased}</span>}
    </>
  );
}
