import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { UNUSED_DAYS } from '../holdings/asked';
import { PassOn } from '../requests/PassOn';
import { Steps } from '../requests/Steps';
import { Thread, useThread, WaitsForAnswer } from '../requests/Thread';
import { DateInput } from '../shell/DateInput';
import { isTyping } from '../shell/keys';
import { DeskLink } from '../shell/lens';
import { useFresh } from '../shell/PasswordAgain';
import { useSession } from '../shell/session';
import { useSettled } from '../shell/settled';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { addDays, dayIn, isDay, lastDay, tellDate, tellDay } from '../shell/times';
import { unfinishedIn } from '../shell/unfinished';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';
import type { Decided, Fold } from './due';

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

type Apart = Schemas['KeptApart'];

function pairOf(one: Apart): string {
  return [one.rule, one.one, one.other].join(' ');
}

/** What rules keep apart and nobody has accepted; a yes that gives must answer it. */
function toAnswer(data: Case): Apart[] {
  const gives = !data.request.steps.some((step) => step.state === 'next');
  return gives ? data.apart.filter((one) => one.acceptedUntil === null) : [];
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
            <Steps steps={data.request.steps} />
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

/** What the asker holds that a rule keeps apart from what they ask for, with its answers. */
function KeptApart({
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
                {words.docket.holdsApart(data.asker.displayed)}{' '}
                <DeskLink to={`/desk/people/${data.asker.id}/holdings?holding=${one.held.id}`}>
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

/** Whether an application in this state can only be refused. */
function closed(state: string): boolean {
  return state === 'blocked' || state === 'retired';
}

function Head({ data, cases }: { data: Case; cases: Schemas['AskedLine'][] }) {
  const { request, asker } = data;
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
        {' · '}
        <span title={request.asked}>{words.docket.asked(tellDate(request.asked))}</span>
      </div>
      <h2 className="title">
        {many
          ? words.docket.manyAskFor(cases.length, request.entitlement.title)
          : words.docket.asksFor(asker.displayed, request.entitlement.title)}
      </h2>
      <p className="said">“{request.reason}”</p>
    </header>
  );
}

function WhoElse({ data }: { data: Case }) {
  const name = (line: Schemas['ShareLine']) =>
    line.unit === null && line.site === null && !line.elsewhere
      ? words.docket.allOthers
      : line.elsewhere
        ? words.docket.elsewhere(line.unit ?? words.docket.noUnit)
        : [line.unit ?? words.docket.noUnit, line.site].filter(Boolean).join(', ');
  return (
    <section className="part">
      <h3>{words.docket.whoElse}</h3>
      {data.others.map((line) => (
        <div key={name(line)} className="share">
          <span>{name(line)}</span>
          {line.squares.length < line.people ? (
            // Too many for a square each: the share as a bar, so that nothing looks like more.
            <span className="share-bar" aria-hidden>
              <i style={{ width: `${(100 * line.holders) / line.people}%` }} />
            </span>
          ) : (
            <span className="squares" aria-hidden>
              {line.squares.map((square, index) => (
                <i
                  // biome-ignore lint/suspicious/noArrayIndexKey: two people may have one name
                  key={index}
                  className={`${square.holds ? 'held' : ''} ${square.asker ? 'asker' : ''}`}
                  title={square.name}
                />
              ))}
            </span>
          )}
          <span className="mono">{words.docket.of(line.holders, line.people)}</span>
        </div>
      ))}
      <p className="dim small legend" aria-hidden>
        <span className="squares">
          <i className="held" />
        </span>{' '}
        {words.docket.holds}{' '}
        <span className="squares">
          <i className="asker" />
        </span>{' '}
        {data.asker.displayed}
      </p>
    </section>
  );
}

function IfYes({ data, count }: { data: Case; count: number }) {
  const { zone } = useSession();
  const { request } = data;
  const until = request.lastDay ?? request.until;
  const more = request.steps.some((step) => step.state === 'next');
  return (
    <section className="part">
      <h3>{words.docket.ifYes}</h3>
      {data.app !== 'open' && (
        <div className={`note ${closed(data.app) ? 'loss' : 'wait'}`}>
          {words.portal.notOpen(request.entitlement.app.name, words.apps.states[data.app] ?? '')}.{' '}
          {closed(data.app) ? words.docket.onlyRefuse : words.docket.onceOpen}
        </div>
      )}
      <ul className="plain moves">
        {more && <li className="keep">{words.docket.goesOn}</li>}
        <li className={data.holdsNow ? 'keep' : 'gain'}>
          {data.holdsNow
            ? words.docket.holdsAlready(
                data.heldUntil === null ? null : tellDay(lastDay(zone, data.heldUntil)),
              )
            : count > 1
              ? words.docket.gainMany(count, request.entitlement.title)
              : words.docket.gain(request.entitlement.title)}
          {until === null
            ? `, ${words.access.noEnd}`
            : `, ${words.docket.untilThen(tellDay(until))}`}
        </li>
        {data.tiles.length > 0 && (
          <li className="gain">{words.docket.newTiles(data.tiles.join(', '))}</li>
        )}
        {data.tiles.length === 0 && !data.holdsNow && (
          <li className="keep">{words.docket.noTile}</li>
        )}
      </ul>
    </section>
  );
}

function Asker({ data }: { data: Case }) {
  const { asker } = data;
  return (
    <section className="part">
      <h3>
        <DeskLink to={`/desk/people/${asker.id}/holdings`}>{asker.familyFirst}</DeskLink>
      </h3>
      <dl className="pair">
        <dt>{words.docket.worksAs}</dt>
        <dd>{[asker.title, asker.unit, asker.site].filter(Boolean).join(', ')}</dd>
        <dt>{words.docket.manager}</dt>
        <dd>{data.manager ?? words.docket.noManager}</dd>
        <dt>{words.docket.there}</dt>
        <dd title={asker.since}>{words.people.since(tellDate(asker.since))}</dd>
        <dt>{words.docket.holdsDt}</dt>
        <dd>
          {words.docket.holdsCount(data.holdings, data.unused, UNUSED_DAYS)}
          {data.holds.length > 0 && (
            <details>
              <summary>{words.docket.which}</summary>
              {data.holds.map((one) => one.title).join(', ')}
            </details>
          )}
        </dd>
        <dt>{words.docket.askedBefore}</dt>
        <dd>
          {data.askedBefore.length === 0
            ? words.docket.never
            : data.askedBefore
                .map(
                  (one) =>
                    `${one.number} ${words.requests.stages[one.stage] ?? one.stage}, ${tellDate(one.asked)}`,
                )
                .join('; ')}
        </dd>
      </dl>
    </section>
  );
}

/** Those who ask for the same in the same way: each can be left out, and opens where it stands. */
function Alike({
  cases,
  left,
  onLeave,
}: {
  cases: Schemas['AskedLine'][];
  left: string[];
  onLeave: (left: string[]) => void;
}) {
  const [open, setOpen] = useState<string>();
  return (
    <section className="part alike">
      <h3>{words.docket.alikePeople(cases.length)}</h3>
      <ul className="plain">
        {cases.map((one) => (
          <li key={one.id}>
            <div className="bar">
              <Form.Check
                type="checkbox"
                id={`with-${one.id}`}
                checked={!left.includes(one.id)}
                label={
                  <>
                    {one.who.familyFirst}{' '}
                    <span className="dim small">
                      {[one.who.unit, one.who.site].filter(Boolean).join(', ')}
                    </span>{' '}
                    <span className="mono dim">{one.number}</span>
                  </>
                }
                onChange={(event) =>
                  onLeave(
                    event.target.checked ? left.filter((id) => id !== one.id) : [...left, one.id],
                  )
                }
              />
              <button
                type="button"
                className="choose small"
                aria-expanded={open === one.id}
                aria-label={words.docket.openOne(one.who.displayed)}
                onClick={() => setOpen(open === one.id ? undefined : one.id)}
              >
                {open === one.id ? words.docket.closeOne : words.docket.openShort}
              </button>
            </div>
            {open === one.id && <Brief id={one.id} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** One of those that are alike, by itself. */
function Brief({ id }: { id: string }) {
  const found = useQuery({
    queryKey: ['case', id],
    queryFn: () => answer(api.GET('/api/requests/{id}', { params: { path: { id } } })),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} lines={4} />;
  }
  return (
    <div className="brief">
      <p className="said">“{found.data.request.reason}”</p>
      {found.data.evidence && <Asker data={found.data} />}
    </div>
  );
}

type Told = { id: string; sentence: string };

/** Until when a decision can be taken back; null once it cannot. */
async function takeBackUntil(id: string): Promise<string | null> {
  const after = await answer(api.GET('/api/requests/{id}', { params: { path: { id } } }));
  return after.takeBackUntil;
}

function Decide({
  data,
  ids,
  of,
  answers,
  onAsk,
  onDecided,
}: {
  data: Case;
  /** Those that are decided on together, of how many that are alike. */
  ids: string[];
  of: number;
  answers: Record<string, string>;
  /** Leads to asking; undefined where nothing can be asked. */
  onAsk: (() => void) | undefined;
  onDecided: (decided: Decided | undefined) => void;
}) {
  const { zone } = useSession();
  const { request } = data;
  const fresh = useFresh();
  const open = toAnswer(data);
  const accepted = open.flatMap((one) => {
    const day = answers[pairOf(one)];
    return day === undefined || !isDay(day)
      ? []
      : [{ rule: one.rule, one: one.one, other: one.other, until: day }];
  });
  const answered = accepted.length === open.length;
  const note = useRef<HTMLInputElement>(null);
  const asked = request.lastDay ?? request.until ?? '';
  const form = useUnsent(`decide ${request.id}`, { until: asked, text: '' });
  const { until, text } = form.value;
  // A yes without a day leaves the end as it was asked for.
  const gives = until === '' ? asked : until;
  const bar = useRef<HTMLDivElement>(null);
  const [wanting, setWanting] = useState(false);
  const [told, setTold] = useState<Told[]>([]);
  const [keys] = useState(() => new Map<string, string>());
  const keyOf = (id: string) => {
    const kept = keys.get(id) ?? repeatKey();
    keys.set(id, kept);
    return kept;
  };
  const decide = useAct(
    async (yes: boolean) => {
      const body = {
        step: data.step === 'OWNER' ? ('OWNER' as const) : ('MANAGER' as const),
        yes,
        until: yes && until !== asked && until !== '' ? until : null,
        note: text,
        accepted: yes ? accepted : null,
      };
      const header = { 'Idempotency-Key': yes ? keyOf(ids.join()) : repeatKey() };
      const [only] = ids;
      if (ids.length === 1 && only !== undefined) {
        await fresh(() =>
          answer(
            api.POST('/api/requests/{id}/answer', {
              params: { path: { id: only }, header },
              body,
            }),
          ),
        );
        return { yes, done: ids, wrong: [], until: await takeBackUntil(only) };
      }
      const { lines } = await fresh(() =>
        answer(
          api.POST('/api/requests/answers', {
            params: { header },
            body: { requests: ids, answer: body },
          }),
        ),
      );
      const wrong: Told[] = lines
        .filter((line) => line.problems.length > 0)
        .map((line) => ({
          id: line.request,
          sentence: line.problems.map((one) => one.sentence).join(' '),
        }));
      const done = lines.filter((line) => line.problems.length === 0).map((line) => line.request);
      return {
        yes,
        done,
        wrong,
        until: done[0] === undefined ? null : await takeBackUntil(done[0]),
      };
    },
    ({ yes, done, wrong, until: back }) => {
      setTold(wrong);
      if (wrong.length === 0) {
        form.sent();
        onDecided(
          back === null
            ? undefined
            : {
                ids: done,
                sentence: words.docket.decided(
                  yes,
                  done.length,
                  data.asker.displayed,
                  request.entitlement.title,
                ),
                until: new Date(back).getTime(),
              },
        );
      }
    },
  );
  const settled = useSettled();
  const may = data.step !== null && (data.mine || data.stepIn);
  const unfinished = () => {
    const field = bar.current === null ? undefined : unfinishedIn(bar.current);
    field?.focus();
    return field !== undefined;
  };
  const yes = () => {
    if (ids.length === 0 || unfinished()) {
      return;
    }
    if ((data.stepIn || open.length > 0) && text.trim() === '') {
      setWanting(true);
      note.current?.focus();
    } else {
      decide.mutate(true);
    }
  };
  const no = () => {
    if (ids.length === 0) {
      return;
    }
    if (text.trim() === '') {
      setWanting(true);
      note.current?.focus();
    } else {
      decide.mutate(false);
    }
  };

  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (
        !may ||
        !settled ||
        decide.isPending ||
        isTyping(event.target) ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        document.querySelector('[role="dialog"]') !== null
      ) {
        return;
      }
      if (event.key.toLowerCase() === 'y' && answered && !closed(data.app)) {
        event.preventDefault();
        yes();
      } else if (event.key.toLowerCase() === 'n') {
        event.preventDefault();
        no();
      } else if (event.key.toLowerCase() === 'q' && onAsk !== undefined) {
        event.preventDefault();
        onAsk();
      }
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  });

  if (!may) {
    return (
      <div className="decide sheet">
        <span>
          {data.step === null
            ? words.docket.over(words.requests.stages[request.stage] ?? request.stage)
            : words.docket.notYours}
        </span>
      </div>
    );
  }
  const wrong = (field: string) =>
    decide.error instanceof Problem ? decide.error.field(field) : undefined;
  return (
    <div className="decide sheet" ref={bar}>
      <ProblemNote error={decide.error} fields={['until', 'note']} />
      {told.length > 0 && (
        <div className="note wait" role="alert">
          {words.docket.some(ids.length - told.length, ids.length)}
          <ul>
            {told.map((one) => (
              <li key={one.id}>{one.sentence}</li>
            ))}
          </ul>
        </div>
      )}
      {data.stepIn && <p className="small">{words.docket.inPlace}</p>}
      <div className="bar">
        <Form.Label htmlFor="decide-until" className="dim small">
          {words.docket.until}
        </Form.Label>
        <DateInput
          named={words.docket.until}
          id="decide-until"
          min={dayIn(zone, new Date())}
          max={asked === '' ? undefined : asked}
          value={until}
          isInvalid={wrong('until') !== undefined}
          onChange={(day) => form.set({ until: day })}
        />
        <Form.Control
          ref={note}
          type="text"
          className="grow at-least"
          aria-label={words.docket.note(request.number)}
          aria-describedby={wanting ? 'decide-wanting' : undefined}
          placeholder={words.docket.noteHint}
          value={text}
          isInvalid={wrong('note') !== undefined}
          onChange={(event) => form.set({ text: event.target.value })}
          onKeyDown={(event) => {
            if (event.key === 'Escape') {
              note.current?.blur();
            }
          }}
        />
      </div>
      {wanting && text.trim() === '' && (
        <div id="decide-wanting" className="invalid-feedback" role="alert">
          {data.stepIn
            ? words.docket.sayInPlace
            : open.length > 0
              ? words.docket.sayWhyBoth
              : words.docket.sayWhyNot}
        </div>
      )}
      {['until', 'note'].map(
        (field) =>
          wrong(field) !== undefined && (
            <div key={field} className="invalid-feedback" role="alert">
              {wrong(field)}
            </div>
          ),
      )}
      <div className="bar">
        <Button
          disabled={
            !settled || decide.isPending || closed(data.app) || !answered || ids.length === 0
          }
          onClick={yes}
        >
          {open.length > 0 ? words.docket.yesAnswered : words.docket.yes(ids.length, of)}
          {`, ${gives === '' ? words.shell.noEnd : words.shell.until(tellDay(gives))}`}{' '}
          <kbd aria-hidden>Y</kbd>
        </Button>
        <Button
          variant="outline-danger"
          disabled={!settled || decide.isPending || ids.length === 0}
          onClick={no}
        >
          {words.docket.no(ids.length, of)} <kbd aria-hidden>N</kbd>
        </Button>
        {onAsk !== undefined && (
          <Button variant="outline-primary" onClick={onAsk}>
            {words.thread.askShort} <kbd aria-hidden>Q</kbd>
          </Button>
        )}
        <span className="grow" />
        <span className="dim small" aria-hidden>
          {words.docket.next} <kbd>J</kbd> <kbd>K</kbd>
        </span>
      </div>
    </div>
  );
}
