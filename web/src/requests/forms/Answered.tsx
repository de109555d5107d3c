import type { Schemas } from '../../api/client';
import { tellDay } from '../../shell/times';
import { words } from '../../words/en';

/** What a request's form was answered with, in the words in which it was asked. */
export function Answered({ answers }: { answers: Schemas['FormAnswerView'][] }) {
  return (
    answers.length > 0 && (
      <dl className="answered">
        {answers.map((one) => (
          <div key={one.key}>
            <dt>{one.label}</dt>
            <dd>{one.values.map((value) => told(one.type, value)).join(', ')}</dd>
          </div>
        ))}
      </dl>
    )
  );
}

function told(type: string, value: string): string {
  return type === 'day' ? tellDay(value) : type === 'yesno' ? words.yesNo(value === 'true') : value;
}
