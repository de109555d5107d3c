import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useLocation } from 'react-router';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { useSession } from '../shell/session';
import { ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { dayIn } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';

const FIELDS = ['reason', 'at', 'revertOn'];
const NEEDS_A_SECOND = ['own-gain', 'second-yes'];

/** When, why, and whom to tell; then publishing, or asking somebody for a yes. */
export function PublishForm({
  draft,
  view,
  waits,
  onGrown,
}: {
  draft: Schemas['DraftView'];
  view: Schemas['ConsequencesView'] | undefined;
  /** Whether somebody else has asked for this reader's yes. */
  waits: boolean;
  onGrown: (seen: string) => void;
}) {
  const { zone } = useSession();
  const { hash, key: visit } = useLocation();
  const place = useRef<HTMLFormElement>(null);
  // The tray leads here: what is asked first is why.
  // biome-ignore lint/correctness/useExhaustiveDependencies: each visit counts
  useEffect(() => {
    if (hash === '#publish') {
      place.current?.querySelector('textarea')?.focus();
      place.current?.scrollIntoView?.({ block: 'end' });
    }
  }, [hash, visit]);
  const today = dayIn(zone, new Date());
  const { typed, sent } = useTyped(`publish ${draft.draft.id}`);
  const [later, setLater] = typed('later', false);
  const [day, setDay] = typed('day', '');
  const [hour, setHour] = typed('hour', '');
  const [backs, setBacks] = typed('backs', false);
  const [revertOn, setRevertOn] = typed('revertOn', '');
  const [reason, setReason] = typed('reason', draft.plan?.reason ?? '');
  const [tell, setTell] = typed('tell', true);
  const [before, setBefore] = typed('before', false);
  const ahead = tell && later && before;
  const [key, setKey] = useState(repeatKey);
  const form = () => ({
    reason,
    day: later && day !== '' ? day : null,
    hour: later && hour !== '' ? `${hour}:00` : null,
    revertOn: backs && revertOn !== '' ? revertOn : null,
    tell: tell && !ahead,
    ahead,
    digest: view?.digest ?? '',
  });
  const grown = (problem: unknown) => {
    setKey(repeatKey());
    if (problem instanceof Problem && problem.code === 'draft.grown' && view !== undefined) {
      onGrown(view.digest);
    }
    throw problem;
  };
  const id = draft.draft.id;
  const publish = useAct(
    () =>
      answer(
        api.POST('/api/drafts/{id}/publish', {
          params: { path: { id }, header: { 'Idempotency-Key': key } },
          body: form(),
        }),
      ).catch(grown),
    sent,
    later ? words.drafts.atTime : words.drafts.publish,
  );
  const ask = useAct(
    () =>
      answer(
        api.POST('/api/drafts/{id}/ask', {
          params: { path: { id }, header: { 'Idempotency-Key': key } },
          body: form(),
        }),
      ).catch(grown),
    sent,
  );
  const error = publish.error ?? ask.error;
  const wrong = (field: string) => (error instanceof Problem ? error.field(field) : undefined);
  const problems = view?.problems ?? [];
  const second = problems.length > 0 && problems.every((one) => NEEDS_A_SECOND.includes(one.code));
  const missing = problems.filter((one) => one.code === 'conflict').length;
  const clashes = draft.edits.filter((edit) => edit.fate === 'clashes').length;
  const busy = publish.isPending || ask.isPending;
  const empty = draft.edits.every((edit) => edit.fate === 'already_so');
  const ready = view !== undefined && !busy && clashes === 0 && !empty;
  return (
    <Form
      noValidate
      ref={place}
      id="publish"
      className="publish"
      onSubmit={(event) => {
        event.preventDefault();
        if (second) {
          ask.mutate();
        } else {
          publish.mutate();
        }
      }}
    >
      {!waits && (
        <fieldset>
          <legend>{words.drafts.when}</legend>
          <Form.Check
            type="radio"
            name="when"
            id="at-once"
            label={words.drafts.once}
            checked={!later}
            onChange={() => setLater(false)}
          />
          <Form.Check
            type="radio"
            name="when"
            id="at-a-time"
            label={words.drafts.atTime}
            checked={later}
            onChange={() => setLater(true)}
          />
          {later && (
            <div className="bar">
              <TextField
                id="publish-day"
                type="date"
                label={words.drafts.day}
                min={today}
                value={day}
                onChange={setDay}
                wrong={wrong('at')}
              />
              <TextField
                id="publish-hour"
                type="time"
                label={words.drafts.hour}
                value={hour}
                onChange={setHour}
              />
            </div>
          )}
          <Form.Check
            id="revert"
            label={words.drafts.revertOn}
            checked={backs}
            onChange={(event) => setBacks(event.target.checked)}
          />
          {backs && (
            <TextField
              id="revert-on"
              type="date"
              label={words.drafts.revertDay}
              min={today}
              value={revertOn}
              onChange={setRevertOn}
              wrong={wrong('revertOn')}
            />
          )}
        </fieldset>
      )}
      <TextField
        id="publish-reason"
        as="textarea"
        rows={3}
        maxLength={500}
        label={words.drafts.why}
        value={reason}
        onChange={setReason}
        wrong={wrong('reason')}
      />
      <Form.Check
        id="publish-tell"
        label={words.drafts.tell}
        checked={tell}
        onChange={(event) => setTell(event.target.checked)}
      />
      {tell && later && (
        <Form.Check
          id="publish-ahead"
          className="indented"
          label={words.drafts.tellAhead}
          checked={before}
          onChange={(event) => setBefore(event.target.checked)}
        />
      )}
      {problems
        .filter((problem) => problem.code !== 'conflict')
        .map((problem) => (
          <div key={problem.sentence} className={second ? 'note wait' : 'note loss'}>
            {problem.sentence}
          </div>
        ))}
      <ProblemNote error={error} fields={FIELDS} />
      <div className="bar acts">
        <Button
          type="submit"
          aria-describedby={missing > 0 ? 'publish-wants' : undefined}
          disabled={
            !ready ||
            (problems.length > 0 && !second) ||
            (later && day === '') ||
            reason.trim() === ''
          }
        >
          {second
            ? words.drafts.ask
            : waits
              ? words.drafts.yes
              : later
                ? words.drafts.schedule
                : words.drafts.publish}
        </Button>
        {missing > 0 && (
          <span id="publish-wants" className="small dim">
            {words.drafts.decideFirst(missing)}
          </span>
        )}
      </div>
    </Form>
  );
}
