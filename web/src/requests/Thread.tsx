import { useQuery } from '@tanstack/react-query';
import { type RefObject, useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { LongField } from '../shell/LongField';
import { useSession } from '../shell/session';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { dayIn, tellDay, tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';

type Thread = Schemas['ThreadView'];

/** The thread of a request; it is asked for anew with whatever its key stands under. */
export function useThread(key: string[], id: string, enabled = true) {
  return useQuery({
    queryKey: [...key, 'thread'],
    queryFn: () => answer(api.GET('/api/requests/{id}/thread', { params: { path: { id } } })),
    enabled,
  });
}

/** For whose answer the clock stands, and what whoever has asked can do about it. */
export function WaitsForAnswer({ id, thread }: { id: string; thread: Thread }) {
  const { zone } = useSession();
  const withdraw = useAct(
    () => answer(api.DELETE('/api/requests/{id}/question', { params: { path: { id } } })),
    undefined,
    words.thread.withdraw,
  );
  const { waits } = thread;
  if (waits === null) {
    return null;
  }
  const goesOn = tellDay(dayIn(zone, new Date(waits.goesOn)));
  return (
    <div className="note wait asked-back" role="status">
      <span>
        <b>{waits.mine ? words.thread.waitsForYou(waits.by) : words.thread.waitsFor(waits.who)}</b>{' '}
        {waits.mine
          ? words.thread.answerBy(goesOn)
          : `${words.thread.stands(goesOn)} ${words.thread.left(waits.leftMinutes)}`}
      </span>
      {thread.mayWithdraw && (
        <Button variant="link" disabled={withdraw.isPending} onClick={() => withdraw.mutate()}>
          {words.thread.withdraw}
        </Button>
      )}
      <ProblemNote error={withdraw.error} />
    </div>
  );
}

/** What was said about a request, and a field to say more; a question stops the clock. */
export function Thread({
  id,
  thread,
  field,
}: {
  id: string;
  thread: ReturnType<typeof useThread>;
  /** Where the keys of the page lead to. */
  field?: RefObject<HTMLTextAreaElement | null>;
}) {
  const own = useRef<HTMLTextAreaElement>(null);
  const { data } = thread;
  const read = data?.messages.length ?? 0;
  useMarksRead(id, read);
  return (
    <section className="part thread" aria-labelledby={`thread-${id}`}>
      <div className="head">
        <h3 id={`thread-${id}`}>{words.thread.title}</h3>
        {data !== undefined && data.people.length > 0 && (
          <span className="dim small">{words.thread.with(data.people)}</span>
        )}
      </div>
      {thread.error ? (
        <Failure error={thread.error} again={() => thread.refetch()} />
      ) : data === undefined ? (
        <Loading what={words.thread.title} lines={3} />
      ) : (
        <>
          {data.messages.length === 0 && <p className="dim small">{words.thread.none}</p>}
          <ol className="plain">
            {data.messages.map((message, index) => (
              <Said
                key={message.seq}
                message={message}
                read={index === data.messages.length - 1 || message.kind === 'ASKED'}
              />
            ))}
          </ol>
          {data.mayWrite && <Write id={id} thread={data} field={field ?? own} />}
        </>
      )}
    </section>
  );
}

function Said({ message, read }: { message: Schemas['MessageLine']; read: boolean }) {
  const part =
    message.part === 'asker' || message.part === 'person'
      ? words.thread[message.part]
      : message.part === null
        ? ''
        : (words.requests.role[message.part] ?? message.part);
  return (
    <li
      className={`message${message.kind === 'ASKED' ? ' question' : ''}${message.mine ? ' by-me' : ''}`}
    >
      <div className="by">
        <b>{message.mine ? words.thread.you : message.by}</b> <span className="dim">{part}</span>
        {message.kind !== 'SAID' && <span className="tag">{words.thread.kinds[message.kind]}</span>}
        {message.to !== null && <span>{words.thread.passedTo(message.to)}</span>}
        <span className="grow" />
        <time className="mono dim" dateTime={message.at} title={message.at}>
          {tellTime(message.at)}
        </time>
      </div>
      <p dir="auto">
        {message.text === '' ? <span className="dim">{words.ledger.erased}</span> : message.text}
      </p>
      {read && message.readBy.length > 0 && (
        <div className="dim small">{words.thread.readBy(message.readBy)}</div>
      )}
    </li>
  );
}

/** Tells that the reader has come this far, while the page is in front of them. */
function useMarksRead(id: string, messages: number) {
  const marked = useRef(0);
  useEffect(() => {
    const mark = () => {
      if (document.visibilityState === 'visible' && messages > marked.current) {
        marked.current = messages;
        // Not knowing that it was read harms nobody; the next message tries again.
        void answer(
          api.PUT('/api/requests/{id}/thread/read', {
            params: { path: { id } },
            body: { messages },
          }),
        ).catch(() => undefined);
      }
    };
    mark();
    document.addEventListener('visibilitychange', mark);
    return () => document.removeEventListener('visibilitychange', mark);
  }, [id, messages]);
}

function Write({
  id,
  thread,
  field,
}: {
  id: string;
  thread: Thread;
  field: RefObject<HTMLTextAreaElement | null>;
}) {
  const form = useUnsent(`thread ${id}`, { text: '' });
  const [key, setKey] = useState(repeatKey);
  const send = useAct(
    (asks: boolean) =>
      answer(
        api.POST('/api/requests/{id}/thread', {
          params: { path: { id }, header: { 'Idempotency-Key': key } },
          body: { text: form.value.text, asks },
        }),
      ),
    () => {
      form.set({ text: '' });
      form.sent();
      setKey(repeatKey());
    },
    words.thread.sent,
  );
  const empty = form.value.text.trim() === '';
  const answers = thread.waits?.mine === true;
  return (
    <form
      className="write"
      onSubmit={(event) => {
        event.preventDefault();
        if (!empty) {
          send.mutate(false);
        }
      }}
    >
      <LongField
        id={`write-${id}`}
        ref={field}
        rows={2}
        label={
          answers ? words.thread.yourAnswer(thread.waits?.by ?? '') : words.thread.to(thread.people)
        }
        value={form.value.text}
        onChange={(text) => form.set({ text })}
        wrong={send.error instanceof Problem ? send.error.field('text') : undefined}
      />
      <ProblemNote error={send.error} fields={['text']} />
      <div className="bar">
        <Button
          type="submit"
          variant={answers ? 'primary' : 'outline-primary'}
          disabled={empty || send.isPending}
        >
          {answers ? words.thread.answer : words.thread.send}
        </Button>
        {thread.mayAsk && (
          <Button
            variant="outline-primary"
            disabled={empty || send.isPending}
            title={words.thread.askHelp}
            onClick={() => send.mutate(true)}
          >
            {words.thread.ask}
          </Button>
        )}
      </div>
      {thread.mayAsk && <p className="dim small flush">{words.thread.askHelp}</p>}
    </form>
  );
}
