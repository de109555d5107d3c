import { useRef } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Attribute, Shape } from '../../directory/filter/shape';
import { PickThings } from '../../directory/groups/PickThings';
import { words } from '../../words/en';
import { EditCondition } from '../forms/EditCondition';
import { moved } from '../Scopes';
import { fresh, LONGEST, MOST_STEPS, picks, type Step, who } from './steps';

/** Steps in their order: who decides each, and within how many days. */
export function EditSteps({
  steps,
  known,
  shapes,
  wrong,
  onChange,
}: {
  steps: Step[];
  /** What a step may depend on. */
  known: Attribute[];
  /** The conditions that there are, by their text. */
  shapes: ReadonlyMap<string, Shape>;
  /** What is wrong with a step's condition. */
  wrong: (at: number) => string | undefined;
  onChange: (steps: Step[]) => void;
}) {
  // A step that is moved takes its condition with it.
  const seen = useRef(new Map(shapes));
  const set = (at: number, change: Partial<Step>) =>
    onChange(steps.map((step, index) => (index === at ? { ...step, ...change } : step)));
  return (
    <fieldset className="edit-steps">
      <legend>{words.routes.steps}</legend>
      <ol>
        {steps.map((step, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a step is its place in the order
          <li key={at}>
            <div className="bar">
              <Form.Select
                className="fit"
                aria-label={words.routes.seatOf(at + 1)}
                value={picks(step) ? 'NAMED' : step.seat}
                onChange={(event) =>
                  set(at, { seat: event.target.value as Step['seat'], of: '', name: '' })
                }
              >
                {Object.entries(words.routes.choices).map(([seat, name]) => (
                  <option key={seat} value={seat}>
                    {name}
                  </option>
                ))}
              </Form.Select>
              <div className="days">
                <Form.Control
                  inputMode="numeric"
                  aria-label={words.routes.daysOf(at + 1)}
                  maxLength={2}
                  value={step.days}
                  isInvalid={
                    step.days.trim() !== '' &&
                    !(Number(step.days) >= 1 && Number(step.days) <= LONGEST)
                  }
                  onChange={(event) => set(at, { days: event.target.value })}
                />
                <span className="dim">{words.routes.days}</span>
              </div>
              <span className="grow" />
              <Button
                size="sm"
                variant="outline-primary"
                disabled={at === 0}
                aria-label={words.routes.earlier(who(step))}
                onClick={() => onChange(moved(steps, at, -1))}
              >
                ↑
              </Button>
              <Button
                size="sm"
                variant="outline-primary"
                disabled={at === steps.length - 1}
                aria-label={words.routes.later(who(step))}
                onClick={() => onChange(moved(steps, at, 1))}
              >
                ↓
              </Button>
              <Button
                size="sm"
                variant="link"
                aria-label={words.routes.leaveOutOne(who(step))}
                onClick={() => onChange(steps.filter((_, index) => index !== at))}
              >
                {words.routes.leaveOut}
              </Button>
            </div>
            {picks(step) && (
              <PickThings
                groups
                label={words.routes.whom(at + 1)}
                chosen={
                  step.of === ''
                    ? []
                    : [
                        {
                          kind: step.seat === 'ANY_OF' ? 'group' : 'person',
                          id: step.of,
                          name: who(step),
                        },
                      ]
                }
                onChange={(chosen) => {
                  const last = chosen.at(-1);
                  set(
                    at,
                    last === undefined
                      ? { seat: 'NAMED', of: '', name: '' }
                      : {
                          seat: last.kind === 'group' ? 'ANY_OF' : 'NAMED',
                          of: last.id,
                          name: last.name,
                        },
                  );
                }}
              />
            )}
            <EditCondition
              filter={step.onlyIf}
              shape={seen.current.get(step.onlyIf)}
              known={known}
              said={words.routes.condition}
              wrong={wrong(at)}
              onChange={(onlyIf, shape) => {
                if (shape !== undefined) {
                  seen.current.set(onlyIf, shape);
                }
                set(at, { onlyIf });
              }}
            />
          </li>
        ))}
      </ol>
      {steps.length < MOST_STEPS && (
        <Button
          size="sm"
          variant="outline-primary"
          onClick={() => onChange([...steps, { ...fresh, seat: 'NAMED' }])}
        >
          {words.routes.add}
        </Button>
      )}
    </fieldset>
  );
}
