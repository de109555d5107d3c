import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { Answered } from '../requests/forms/Answered';
import { PassOn } from '../requests/PassOn';
import { Steps } from '../requests/Steps';
import { Thread, useThread, WaitsForAnswer } from '../requests/Thread';
import { Failure, Loading } from '../shell/states';
import { tellDate } from '../shell/times';
import { words } from '../words/en';
import { Alike } from './Alike';
import { Decide } from './DecideRequest';
import type { Decided, Fold } from './due';
import { Asker, IfYes, WhoElse } from './Evidence';
import { KeptApart } from './KeptApart';

type Case = Schemas['RequestCase'];

/** A request, or several that are alike, with the evidence and the bar that decides. */
export function RequestCase({
  fold,
  id,
  onDecided,
}: {
  fold?: Fold;
  id?: string;
  onDecided: (decided: Decided | undefined) => void;
}) {
  const first = fold?.cases[0]?.id ?? id ?? '';
  const found = useQuery({
    queryKey: ['case', first],
    queryFn: () => answer(api.GET('/api/requests/{id}', { params: { path: { id: first } } })),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} lines={10} />;
  }
  return <Whole key={first} data={found.data} fold={fold} onDecided={onDecided} />;
}

function Whole({
  data,
  fold,
  onDecided,
}: {
  data: Case;
  fold: Fold | undefined;
  onDecided: (decided: Decided | undefined) => void;
}) {
  const cases = (fold?.cases ?? []).filter((one) => one.kind === 'REQUEST');
  // Until which day each pair is accepted with the yes.
  const [answers, setAnswers] = useState<Record<string, string>>({});
  // Which of those that are alike are left for another time.
  const [left, setLeft] = useState<string[]>([]);
  const [passing, setPassing] = useState(false);
  const many = cases.length > 1;
  const ids = many ? cases.map((one) => one.id) : [data.request.id];
  const write = useRef<HTMLTextAreaElement>(null);
  const thread = useThread(['case', data.request.id], data.request.id, data.thread && !many);
  return (
    <>
      <Head data={data} cases={cases} />
      {thread.data !== undefined && <WaitsForAnswer id={data.request.id} thread={thread.data} />}
      <div className="evidence">
        <div>
          {data.apart.length > 0 && (
            <KeptApart data={data} answers={answers} onAnswer={setAnswers} />
          )}
          {data.evidence && (
            <>
              <WhoElse data={data} />
              <IfYes data={data} count={cases.length - left.length} />
            </>
          )}
        </div>
        <div>
          {cases.length > 1 ? (
            <Alike cases={cases} left={left} onLeave={setLeft} />
          ) : (
            data.evidence && <Asker data={data} />
          )}
          <section className="part">
            <h3>{words.docket.steps}</h3>
            <Steps steps={data.request.steps} since={data.request.from} />
            {!many && thread.data !== undefined && thread.data.passOn.length > 0 && (
              <Button variant="link" onClick={() => setPassing(true)}>
                {words.thread.passOn}
              </Button>
            )}
          </section>
          {data.thread && !many && <Thread id={data.request.id} thread={thread} field={write} />}
        </div>
      </div>
      {passing && (
        <PassOn
          id={data.request.id}
          people={thread.data?.passOn ?? []}
          onClose={() => setPassing(false)}
        />
      )}
      <Decide
        data={data}
        ids={ids.filter((one) => !left.includes(one))}
        of={ids.length}
        answers={answers}
        onAsk={thread.data?.mayAsk === true ? () => leadTo(write.current) : undefined}
        onDecided={onDecided}
      />
    </>
  );
}

/** The field with its buttons comes in sight above the bar that decides. */
function leadTo(field: HTMLTextAreaElement | null) {
  field?.focus({ preventScroll: true });
  field?.form?.scrollIntoView?.({ block: 'nearest' });
}

function Head({ data, cases }: { data: Case; cases: Schemas['AskedLine'][] }) {
  const { request } = data;
  const many = cases.length > 1;
  return (
    <header>
      <div className="dim small">
        {many ? (
          words.docket.alikeKind(cases.length)
        ) : (
          <>
            {words.docket.kind} <span className="mono">{request.number}</span>
          </>
        )}
        {data.as === 'passed_on'
          ? ` · ${words.docket.stepPassedOn}`
          : data.as !== null && ` · ${words.docket.step(words.requests.role[data.as] ?? data.as)}`}
        {data.behalf !== null && (
          <>
            {' · '}
            <b>{words.docket.youDecideFor(data.behalf)}</b>
          </>
        )}
        {' · '}
        <span title={request.asked}>{words.docket.asked(tellDate(request.asked))}</span>
      </div>
      <h2 className="title">
        {many
          ? cases.some((one) => one.asker !== null)
            ? words.docket.manyFor(cases.length, request.entitlement.title)
            : words.docket.manyAskFor(cases.length, request.entitlement.title)
          : words.docket.asksFor(
              request.asker.name,
              request.entitlement.title,
              request.person.id === request.asker.id ? null : request.person.name,
            )}
      </h2>
      <p className="said">“{request.reason}”</p>
      <Answered answers={request.answers} />
    </header>
  );
}
