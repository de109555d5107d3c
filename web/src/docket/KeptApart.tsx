import Form from 'react-bootstrap/Form';
import type { Schemas } from '../api/client';
import { DateInput } from '../shell/DateInput';
import { DeskLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { addDays, dayIn, lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';

type Case = Schemas['RequestCase'];

type Apart = Schemas['KeptApart'];

export function pairOf(one: Apart): string {
  return [one.rule, one.one, one.other].join(' ');
}

/** What rules keep apart and nobody has accepted; a yes that gives must answer it. */
export function toAnswer(data: Case): Apart[] {
  return data.grants ? data.apart.filter((one) => one.acceptedUntil === null) : [];
}

/** What they hold that a rule keeps apart from what they ask for, with its answers. */
export function KeptApart({
  data,
  answers,
  onAnswer,
}: {
  data: Case;
  answers: Record<string, string>;
  onAnswer: (answers: Record<string, string>) => void;
}) {
  const { zone } = useSession();
  const today = dayIn(zone, new Date());
  const wanted = toAnswer(data);
  const lastAsked = data.request.lastDay ?? data.request.until;
  return (
    <section className="part" aria-labelledby="kept-apart">
      <h3 id="kept-apart">{words.docket.apart}</h3>
      <ul className="plain">
        {data.apart.map((one) => {
          const pair = pairOf(one);
          const until = answers[pair];
          const { [pair]: _, ...others } = answers;
          return (
            <li key={pair} className="room-below">
              <div>
                {one.acceptedUntil === null && (
                  <span className="tag loss">{words.drafts.conflict}</span>
                )}{' '}
                {words.docket.holdsApart(data.person.displayed)}{' '}
                <DeskLink to={`/desk/people/${data.person.id}/holdings?holding=${one.held.id}`}>
                  {one.held.title}
                </DeskLink>
                . {words.rules.keepsApart(one.ruleName)} <span className="dim">{one.why}</span>
              </div>
              {one.acceptedUntil !== null ? (
                <p className="small dim">
                  {words.docket.acceptedUntil(tellDay(lastDay(zone, one.acceptedUntil)))}
                </p>
              ) : !wanted.includes(one) ? (
                <p className="small dim">{words.docket.lastAnswers}</p>
              ) : one.mayAccept ? (
                <div className="bar">
                  <Form.Check
                    type="checkbox"
                    id={`accept-${pair.replaceAll(' ', '-')}`}
                    label={words.docket.acceptBoth}
                    checked={until !== undefined}
                    onChange={(event) =>
                      onAnswer(
                        event.target.checked
                          ? { ...answers, [pair]: lastAsked ?? addDays(today, 30) }
                          : others,
                      )
                    }
                  />
                  {until !== undefined && (
                    <DateInput
                      named={words.rules.until}
                      aria-label={words.rules.until}
                      min={today}
                      max={addDays(today, 366)}
                      value={until}
                      onChange={(day) => onAnswer({ ...others, [pair]: day })}
                    />
                  )}
                </div>
              ) : (
                <p className="small dim">{words.docket.notAccept}</p>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
