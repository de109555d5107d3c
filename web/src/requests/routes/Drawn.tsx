import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import { answer, api, type Schemas } from '../../api/client';
import { type Chosen, PickThings } from '../../directory/groups/PickThings';
import { Failure, Loading } from '../../shell/states';
import { words } from '../../words/en';
import { formsOf, type Step, who, whole } from './steps';

export type Example = { person: Chosen | undefined; entitlement: Chosen | undefined };

/** Steps as they would be if one person asked for one thing now: who it is, and what is odd. */
export function Drawn({
  steps,
  example,
  onExample,
}: {
  steps: Step[];
  example: Example;
  onExample: (example: Example) => void;
}) {
  const forms = useDeferredValue(JSON.stringify(formsOf(steps)));
  const ready = whole(steps) && example.entitlement !== undefined;
  const drawn = useQuery({
    queryKey: ['routes', 'drawn', forms, example.person?.id, example.entitlement?.id],
    queryFn: () =>
      answer(
        api.POST('/api/routes/drawn', {
          body: {
            person: example.person?.id ?? null,
            entitlement: example.entitlement?.id ?? '',
            steps: JSON.parse(forms) as Schemas['StepForm'][],
          },
        }),
      ),
    enabled: ready,
    placeholderData: keepPreviousData,
  });
  const list = (one: Chosen | undefined) => (one === undefined ? [] : [one]);
  return (
    <section className="drawn-route" aria-label={words.routes.drawn}>
      <h2>{words.routes.drawn}</h2>
      <div className="between">
        <PickThings
          label={words.routes.asker}
          chosen={list(example.person)}
          onChange={(chosen) => onExample({ ...example, person: chosen.at(-1) })}
        />
        <PickThings
          entitlements
          label={words.routes.asksFor}
          chosen={list(example.entitlement)}
          onChange={(chosen) => onExample({ ...example, entitlement: chosen.at(-1) })}
        />
      </div>
      {!ready ? (
        <p className="dim">
          {example.entitlement === undefined ? words.routes.noExample : words.routes.notWhole}
        </p>
      ) : drawn.error ? (
        <Failure error={drawn.error} again={() => drawn.refetch()} />
      ) : drawn.data === undefined ? (
        <Loading what={words.routes.drawn} lines={2} />
      ) : (
        <div aria-live="polite">
          <p className="dim">
            {words.routes.drawnFor(drawn.data.person.name, drawn.data.entitlement.title)}
          </p>
          <ol className="in-turn">
            {drawn.data.steps.map((step) => {
              const wanted = steps[step.step];
              return (
                <li key={step.step}>
                  <DrawnStep
                    step={step}
                    wanted={wanted === undefined ? '' : who(wanted)}
                    days={wanted?.days ?? ''}
                  />
                </li>
              );
            })}
          </ol>
        </div>
      )}
    </section>
  );
}

function DrawnStep({
  step,
  wanted,
  days,
}: {
  step: Schemas['DrawnStep'];
  wanted: string;
  days: string;
}) {
  const people =
    step.people.length === 0
      ? words.requests.nobody
      : step.people.join(words.requests.or) + (step.more > 0 ? words.routes.more(step.more) : '');
  return (
    <>
      <b>{people}</b>{' '}
      <span className="dim">
        {words.requests.role[step.as]}
        {step.deputies.length > 0 &&
          `, ${words.routes.deputies(words.requests.deputies(step.deputies, step.people.length > 1))}`}
      </span>
      <div className="dim small">
        {words.routes.within(Number(days))}
        {step.maybe && `, ${words.routes.maybe}`}
      </div>
      {step.people.length === 0 ? (
        <div className="note loss small">{words.routes.nobody}</div>
      ) : step.settled ? (
        <div className="small">{words.routes.settled}</div>
      ) : (
        step.elsewhere && <div className="note wait small">{words.routes.elsewhere(wanted)}</div>
      )}
    </>
  );
}
