import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Schemas } from '../../api/client';
import { type Chosen, PickThings } from '../../directory/groups/PickThings';
import { Failure, Loading } from '../../shell/states';
import { words } from '../../words/en';
import type { Answers } from './conditions';
import { Questions } from './Questions';

/** A form as a chosen person would fill it in, on a laptop or a phone; nothing is sent. */
export function Tried({
  tried,
  error,
  again,
  person,
  onPerson,
}: {
  tried: Schemas['TriedForm'] | undefined;
  error: unknown;
  again: () => void;
  person: Chosen | undefined;
  onPerson: (person: Chosen | undefined) => void;
}) {
  const [answers, setAnswers] = useState<Answers>({});
  const [phone, setPhone] = useState(false);
  return (
    <section className="tried" aria-label={words.forms.preview}>
      <div className="bar">
        <h2>{words.forms.preview}</h2>
        <span className="grow" />
        {[false, true].map((one) => (
          <Button
            key={String(one)}
            size="sm"
            variant={one === phone ? 'primary' : 'outline-primary'}
            aria-pressed={one === phone}
            onClick={() => setPhone(one)}
          >
            {one ? words.forms.onPhone : words.forms.onLaptop}
          </Button>
        ))}
      </div>
      <PickThings
        label={words.routes.asker}
        chosen={person === undefined ? [] : [person]}
        onChange={(chosen) => onPerson(chosen.at(-1))}
      />
      {error !== null && error !== undefined ? (
        <Failure error={error} again={again} />
      ) : tried === undefined ? (
        <Loading what={words.forms.preview} lines={3} />
      ) : tried.problems.length > 0 ? (
        <p className="dim" role="status">
          {words.forms.notYet}
        </p>
      ) : (
        <>
          <p className="dim small">
            {tried.questions.length === 0
              ? words.forms.nothingFor(tried.person.name)
              : words.forms.asSeenBy(tried.person.name)}
          </p>
          {tried.questions.length > 0 && (
            <div className={phone ? 'sheet as-phone' : 'sheet'}>
              <Questions
                questions={tried.questions}
                colleagues={tried.colleagues}
                answers={answers}
                onChange={setAnswers}
                wrong={() => undefined}
              />
            </div>
          )}
        </>
      )}
    </section>
  );
}
