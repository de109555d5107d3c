import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useNavigate, useParams } from 'react-router';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { PortalFrame } from '../portal/PortalFrame';
import { useAddress } from '../shell/addresses';
import { DateInput } from '../shell/DateInput';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { addDays, dayIn, lastDay, tellDay } from '../shell/times';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';
import { ForWhom } from './ForWhom';
import { type Answers, sent } from './forms/conditions';
import { Questions } from './forms/Questions';

/** Asking for one thing: for whom, why, and until when. */
export function AskOnePage() {
  const id = useParams().id ?? '';
  const [get, set] = useAddress();
  const person = get('for') === '' ? [] : get('for').split(',');
  const ask = useQuery({
    queryKey: ['askable', 'one', id, person],
    queryFn: () =>
      answer(
        api.GET('/api/askable/{id}', {
          params: { path: { id }, query: person.length === 0 ? {} : { person } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  return (
    <PortalFrame>
      {ask.error ? (
        <Failure error={ask.error} again={() => ask.refetch()} />
      ) : ask.data === undefined ? (
        <Loading what={words.requests.askTitle} />
      ) : (
        <AskForm
          ask={ask.data}
          people={person}
          settled={!ask.isPlaceholderData}
          onWhom={(people) => set({ for: people.join(',') })}
        />
      )}
    </PortalFrame>
  );
}

/** A month from now, or from the day on which the holding ends, within the longest allowed. */
function later(
  today: string,
  ask: Schemas['AskView'],
  heldUntil: string | null,
  zone: string,
): string {
  const held = heldUntil === null ? today : lastDay(zone, heldUntil);
  const wanted = addDays(held > today ? held : today, 30);
  const most = ask.mostDays === null ? wanted : addDays(today, ask.mostDays);
  const [first = wanted] = [wanted, most].sort();
  return first;
}

type Failed = { name: string; why: string };

/** Sends one request for each person; what is refused of one does not touch the others. */
function useSend(ask: Schemas['AskView'], onWhom: (people: string[]) => void, sent: () => void) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [key, setKey] = useState(repeatKey);
  const [failed, setFailed] = useState<{ all: number; lines: Failed[] }>();
  const send = useMutation({
    mutationFn: async ({
      until,
      reason,
      answers,
    }: {
      until: string;
      reason: string;
      answers: Answers;
    }) => {
      const whom = ask.whom.filter((one) => one.askable);
      const requests = whom.map((one) => ({
        person: one.self ? null : one.person.id,
        entitlement: ask.entitlement.id,
        until: until === '' ? null : until,
        reason,
        form: ask.form,
        answers,
      }));
      const params = { header: { 'Idempotency-Key': key } };
      const [only] = requests;
      if (requests.length === 1 && only !== undefined) {
        await answer(api.POST('/api/requests', { params, body: only }));
        return [];
      }
      const { lines } = await answer(
        api.POST('/api/requests/many', { params, body: { requests } }),
      );
      const written = lines.flatMap((line) => line.problems);
      const [first] = written;
      if (
        first !== undefined &&
        lines.every((line) => line.problems.length > 0) &&
        written.every((problem) => problem.field !== '')
      ) {
        // What was written is wrong for all of them alike: it is told where it was written.
        throw new Problem({
          type: `urn:eleutheria:problem:${first.code}`,
          title: '',
          status: 422,
          detail: first.sentence,
          problems: lines[0]?.problems ?? [],
          retryAfterSeconds: null,
        });
      }
      return whom.flatMap((one, at) => {
        const problems = lines[at]?.problems ?? [];
        return problems.length === 0
          ? []
          : [{ whom: one, why: problems.map((problem) => problem.sentence).join(' ') }];
      });
    },
    // What is asked may have changed meanwhile: it is read anew, and what was typed stays.
    onError: () => queries.invalidateQueries({ queryKey: ['askable', 'one'] }),
    onSuccess: async (wrong) => {
      setKey(repeatKey());
      for (const changed of ['my', 'askable', 'front']) {
        await queries.invalidateQueries({ queryKey: [changed] });
      }
      if (wrong.length === 0) {
        sent();
        navigate('/requests');
        return;
      }
      setFailed({
        all: ask.whom.filter((one) => one.askable).length,
        lines: wrong.map((one) => ({ name: one.whom.person.name, why: one.why })),
      });
      onWhom(wrong.map((one) => one.whom.person.id));
    },
  });
  return { send, failed };
}

/** Each answer is kept as a field of its own, since it may be long. */
const field = (key: string) => `answer ${key}`;

function typed(questions: Schemas['AskQuestion'][], answers: Answers): Record<string, string> {
  return Object.fromEntries(
    questions.map(({ key }) => [field(key), JSON.stringify(answers[key] ?? [])]),
  );
}

function typedOf(questions: Schemas['AskQuestion'][], fields: Record<string, string>): Answers {
  return Object.fromEntries(
    questions.map(({ key }) => [key, JSON.parse(fields[field(key)] ?? '[]') as string[]]),
  );
}

function AskForm({
  ask,
  people,
  settled,
  onWhom,
}: {
  ask: Schemas['AskView'];
  people: string[];
  settled: boolean;
  onWhom: (people: string[]) => void;
}) {
  const { zone } = useSession();
  const today = dayIn(zone, new Date());
  const [only] = ask.whom.length === 1 ? ask.whom : [];
  const heldUntil = only?.heldUntil ?? null;
  const form = useUnsent<Record<string, string>>(`ask ${ask.entitlement.id}`, {
    reason: ask.earlier,
    until: heldUntil !== null || ask.needsEnd ? later(today, ask, heldUntil, zone) : '',
    ...typed(ask.questions, ask.earlierAnswers),
  });
  const { reason = '', until = '' } = form.value;
  const answers = typedOf(ask.questions, form.value);
  const toSend = sent(ask.questions, answers);
  const setUntil = (day: string) => form.set({ until: day });
  const { send, failed } = useSend(ask, onWhom, form.sent);
  const askable = ask.whom.filter((one) => one.askable);
  const unable = ask.whom.filter((one) => !one.askable);
  const wrong = (field: string) =>
    send.error instanceof Problem ? send.error.field(field) : undefined;
  return (
    <>
      <header className="asked">
        <Picture name={ask.entitlement.app.picture} hue={ask.entitlement.app.hue} />
        <div>
          <PageHeading>
            {(only?.self === true && heldUntil !== null
              ? words.requests.keep
              : words.requests.askFor)(ask.entitlement.title)}
          </PageHeading>
          <p className="dim">{words.requests.lets(ask.entitlement.line)}</p>
        </div>
      </header>
      {failed !== undefined && (
        <div className="note loss" role="alert">
          {words.requests.sentSome(failed.all - failed.lines.length, failed.all)}
          <ul className="plain">
            {failed.lines.map((line) => (
              <li key={line.name}>{words.requests.notFor(line.name, line.why)}</li>
            ))}
          </ul>
        </div>
      )}
      {ask.forOthers && <ForWhom ask={ask} people={people} onChange={onWhom} />}
      {unable.map((one) => (
        <div className="note wait" key={one.person.id}>
          {one.self || askable.length === 0
            ? one.why
            : words.requests.notFor(words.requests.leftOut, one.why ?? '')}{' '}
          {one.self && <Link to="/requests">{words.portal.requests}</Link>}
        </div>
      ))}
      {askable.length > 0 && (
        <Form
          noValidate
          className="sheet"
          onSubmit={(event) => {
            event.preventDefault();
            send.mutate({ until, reason, answers: toSend });
          }}
        >
          {only?.self === true && heldUntil !== null && (
            <p>{words.requests.youHold(tellDay(lastDay(zone, heldUntil)))}</p>
          )}
          <TextField
            id="ask-reason"
            required
            label={only?.self === true ? words.requests.why : words.requests.whyOther}
            as="textarea"
            rows={3}
            value={reason}
            onChange={(text) => form.set({ reason: text })}
            wrong={wrong('reason')}
          />
          <Questions
            questions={ask.questions}
            colleagues={ask.colleagues}
            answers={answers}
            onChange={(next) => form.set(typed(ask.questions, next))}
            // What was wrong with an answer is told until there is another.
            wrong={(key) =>
              String(send.variables?.answers[key]) === String(toSend[key])
                ? wrong(`answers.${key}`)
                : undefined
            }
          />
          <Form.Group className="field" controlId="ask-until">
            <Form.Label>{words.requests.until}</Form.Label>
            <div className="bar room-below">
              <DateInput
                named={words.requests.until}
                min={today}
                max={ask.mostDays === null ? undefined : addDays(today, ask.mostDays)}
                value={until}
                isInvalid={wrong('until') !== undefined}
                onChange={setUntil}
              />
              {ask.days.map((days) => (
                <Button
                  key={days}
                  variant="outline-primary"
                  size="sm"
                  onClick={() => setUntil(addDays(today, days))}
                >
                  {words.requests.days(days)}
                </Button>
              ))}
              {!ask.needsEnd && until !== '' && (
                <Button variant="link" onClick={() => setUntil('')}>
                  {words.requests.noEnd}
                </Button>
              )}
            </div>
            <Form.Text>
              {ask.needsEnd || ask.mostDays !== null
                ? words.requests.termHelp(ask.needsEnd, ask.mostDays)
                : until === ''
                  ? words.requests.alwaysHelp
                  : words.requests.untilHelp}
            </Form.Text>
            {wrong('until') !== undefined && (
              <Form.Control.Feedback type="invalid" role="alert">
                {wrong('until')}
              </Form.Control.Feedback>
            )}
          </Form.Group>
          {alike(askable).map((group, index, groups) => (
            <p key={group[0]?.person.id}>
              {groups.length > 1
                ? words.requests.decidesFor(group.map((one) => one.person.name))
                : words.requests.decides}{' '}
              <Decides steps={group[0]?.steps ?? []} own={group.every((one) => one.self)} />
              {index === groups.length - 1 && ask.pace !== null && (
                <span className="dim">
                  {' '}
                  {words.requests.pace(
                    ask.pace.decided,
                    ask.pace.halfMinutes,
                    ask.pace.mostMinutes,
                  )}
                </span>
              )}
            </p>
          ))}
          <ProblemNote
            error={send.error}
            fields={['reason', 'until', ...ask.questions.map((one) => `answers.${one.key}`)]}
          />
          <Button type="submit" disabled={send.isPending || !settled}>
            {askable.length === 1 ? words.requests.send : words.requests.sendMany(askable.length)}
            {until === '' ? `, ${words.shell.noEnd}` : `, ${words.shell.until(tellDay(until))}`}
          </Button>
        </Form>
      )}
    </>
  );
}

/** Those whose requests the same people decide, together. */
function alike(whom: Schemas['AskFor'][]): Schemas['AskFor'][][] {
  const groups = new Map<string, Schemas['AskFor'][]>();
  for (const one of whom) {
    const key = JSON.stringify(one.steps);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()];
}

function Decides({ steps, own }: { steps: Schemas['AskStep'][]; own: boolean }) {
  const as = own ? words.requests.as : words.requests.role;
  return (
    <>
      {steps.map((step, index) => (
        <span key={step.step}>
          {index > 0 && words.requests.next}
          <b>{step.people.join(words.requests.or)}</b>{' '}
          <span className="dim">
            ({as[step.as]}
            {step.maybe && `, ${words.requests.maybe}`})
          </span>
          {step.deputies.length > 0 && (
            <>
              {words.requests.or}
              <b>{words.requests.deputies(step.deputies, step.people.length > 1)}</b>{' '}
              <span className="dim">({words.requests.asDeputy(step.deputies.length)})</span>
            </>
          )}
        </span>
      ))}
      .
    </>
  );
}
