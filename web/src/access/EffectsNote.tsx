import type { Schemas } from '../api/client';
import { tellDate } from '../shell/times';
import { words } from '../words/en';

/** Who gains and who loses by an act that is not done yet, by name as far as they fit. */
export function EffectsNote({ effects }: { effects: Schemas['EffectsView'] | undefined }) {
  return (
    <section className="effects" aria-label={words.access.effects} aria-live="polite">
      {effects === undefined ? (
        <span className="dim">{words.access.counting}</span>
      ) : (
        <>
          {effects.problems.map((problem) => (
            <div key={problem.sentence} className="note loss">
              {problem.sentence}
            </div>
          ))}
          {effects.problems.length === 0 &&
            effects.gain.length === 0 &&
            effects.loss.length === 0 && (
              <p>
                <b>{words.access.nobodyMoves}</b>{' '}
                {effects.keep > 0 && words.access.keep(effects.keep)}
              </p>
            )}
          <ul className="plain moves">
            {effects.gain.map((line) => (
              <Line key={line.entitlement.id + line.at} line={line} gain />
            ))}
            {effects.loss.map((line) => (
              <Line key={line.entitlement.id + line.at} line={line} gain={false} />
            ))}
            {(effects.gain.length > 0 || effects.loss.length > 0) && effects.keep > 0 && (
              <li className="keep">{words.access.keep(effects.keep)}</li>
            )}
          </ul>
        </>
      )}
    </section>
  );
}

function Line({ line, gain }: { line: Schemas['EffectLine']; gain: boolean }) {
  const later = new Date(line.at).getTime() > Date.now() + 60_000;
  const more = line.people - line.named.length;
  return (
    <li className={gain ? 'gain' : 'loss'}>
      <b>
        {gain
          ? words.access.gains(line.people, line.entitlement.title)
          : words.access.loses(line.people, line.entitlement.title)}
      </b>
      {later && ` ${words.access.on(tellDate(line.at))}`}
      <div className="small">
        {line.named.map((person) => person.displayed).join(', ')}
        {more > 0 && ` ${words.ledger.others(more)}`}
      </div>
    </li>
  );
}
