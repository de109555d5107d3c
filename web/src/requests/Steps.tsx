import type { Schemas } from '../api/client';
import { tellDate, tellTime } from '../shell/times';
import { words } from '../words/en';

/** Who decides a request, in their order, with what they said. */
export function Steps({
  steps,
  since,
  own = false,
}: {
  steps: Schemas['StepView'][];
  /** When the step that waits came to whoever decides it. */
  since: string;
  own?: boolean;
}) {
  const as = own ? words.requests.as : words.requests.role;
  return (
    <ol className="steps">
      {steps.map((step) => (
        <li key={step.step} className={step.state}>
          {step.state === 'done' ? (
            <>
              <b>{step.by}</b>{' '}
              <span className="dim">
                {step.steppedIn
                  ? words.requests.steppedIn
                  : step.behalf === null
                    ? as[step.as]
                    : `${words.requests.forWhom(step.behalf)}, ${as[step.as]}`}
              </span>{' '}
              <span className={step.yes ? 'tag calm' : 'tag loss'}>
                {step.yes ? words.requests.approved : words.requests.refused}
              </span>{' '}
              {step.at !== null && (
                <span className="dim small" title={step.at}>
                  {tellTime(step.at)}
                </span>
              )}
              {step.note !== '' && <div className="said">“{step.note}”</div>}
            </>
          ) : (
            <>
              <b>{step.people.join(words.requests.or) || words.requests.nobody}</b>{' '}
              <span className="dim">{as[step.as]}</span>
              {step.deputies.length > 0 && (
                <>
                  {words.requests.or}
                  <b>{words.requests.deputies(step.deputies, step.people.length > 1)}</b>{' '}
                  <span className="dim">{words.requests.asDeputy(step.deputies.length)}</span>
                </>
              )}{' '}
              <span className={step.state === 'waiting' ? 'tag wait' : 'tag'}>
                {step.state === 'waiting' ? words.requests.stepWaits : words.requests.stepNext}
              </span>
              {step.state === 'waiting' && (
                <>
                  {' '}
                  <span className="dim small" title={since}>
                    {words.requests.since(tellDate(since))}
                  </span>
                </>
              )}
              {step.coming.map((one) => (
                <div className="dim small" key={`${one.name} ${one.from}`}>
                  {words.requests.coming(
                    one.name,
                    step.people.length > 1 ? one.of : null,
                    tellDate(one.from),
                  )}
                </div>
              ))}
            </>
          )}
        </li>
      ))}
    </ol>
  );
}
