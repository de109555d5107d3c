import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { DateInput } from '../shell/DateInput';
import { isTyping } from '../shell/keys';
import { useFresh } from '../shell/PasswordAgain';
import { useSession } from '../shell/session';
import { useSettled } from '../shell/settled';
import { ProblemNote } from '../shell/states';
import { dayIn, isDay, tellDay } from '../shell/times';
import { unfinishedIn } from '../shell/unfinished';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';
import type { Decided } from './due';
import { closed } from './Evidence';
import { pairOf, toAnswer } from './KeptApart';

type Case = Schemas['RequestCase'];

type Told = { id: string; sentence: string };

/** Until when a decision can be taken back; null once it cannot. */
async function takeBackUntil(id: string): Promise<string | null> {
  const after = await answer(api.GET('/api/requests/{id}', { params: { path: { id } } }));
  return after.takeBackUntil;
}

type Answer = Schemas['AnswerForm'];

/** Sends the decision, on one or on many in one request, and tells which were not decided. */
async function send(ids: string[], body: Answer, header: { 'Idempotency-Key': string }) {
  const [only] = ids;
  if (ids.length === 1 && only !== undefined) {
    await answer(
      api.POST('/api/requests/{id}/answer', { params: { path: { id: only }, header }, body }),
    );
    return { done: ids, wrong: [] as Told[], until: await takeBackUntil(only) };
  }
  const { lines } = await answer(
    api.POST('/api/requests/answers', {
      params: { header },
      body: { requests: ids, answer: body },
    }),
  );
  const wrong: Told[] = lines
    .filter((line) => line.problems.length > 0)
    .map((line) => ({
      id: line.request,
      sentence: line.problems.map((one) => one.sentence).join(' '),
    }));
  const done = lines.filter((line) => line.problems.length === 0).map((line) => line.request);
  return { done, wrong, until: done[0] === undefined ? null : await takeBackUntil(done[0]) };
}

/** What a letter does while nothing is typed and no dialog is open; undefined for nothing. */
function useLetters(letters: Record<string, (() => void) | undefined>) {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (
        isTyping(event.target) ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        document.querySelector('[role="dialog"]') !== null
      ) {
        return;
      }
      const does = letters[event.key.toLowerCase()];
      if (does !== undefined) {
        event.preventDefault();
        does();
      }
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  });
}

/** The bar that decides: until when, a note, yes or no, by keys too. */
export function Decide({
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
        step: data.step ?? 0,
        yes,
        until: yes && until !== asked && until !== '' ? until : null,
        note: text,
        accepted: yes ? accepted : null,
      };
      const header = { 'Idempotency-Key': yes ? keyOf(ids.join()) : repeatKey() };
      return { yes, ...(await fresh(() => send(ids, body, header))) };
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
                  data.person.displayed,
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

  const ready = may && settled && !decide.isPending;
  useLetters({
    y: ready && answered && !closed(data.app) ? yes : undefined,
    n: ready ? no : undefined,
    q: ready ? onAsk : undefined,
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
