import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useNavigate, useParams } from 'react-router';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { PortalFrame } from '../portal/PortalFrame';
import { useAddress } from '../shell/addresses';
import { DateInput } from '../shell/DateInput';
import { FindField } from '../shell/FindField';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { addDays, dayIn, lastDay, tellDay } from '../shell/times';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';

const PAGE = 60;

/** Everything that one could ask for, found by name or need. */
export function AskPage() {
  const [get] = useAddress();
  const { zone } = useSession();
  const find = useDeferredValue(get('find'));
  const [limit, setLimit] = useState(PAGE);
  const list = useQuery({
    queryKey: ['askable', find, limit],
    queryFn: () => answer(api.GET('/api/askable', { params: { query: { find, limit } } })),
  });
  return (
    <PortalFrame
      search={
        <search className="seek">
          <FindField label={words.requests.find} />
        </search>
      }
    >
      <PageHeading>{words.requests.askTitle}</PageHeading>
      <p className="dim">{words.requests.askHelp}</p>
      {list.error ? (
        <Failure error={list.error} again={() => list.refetch()} />
      ) : list.data === undefined ? (
        <Loading what={words.requests.askTitle} lines={10} />
      ) : list.data.total === 0 ? (
        <Empty
          title={find === '' ? words.requests.askNothing : words.requests.askNoHit(find)}
          action={<Link to={`/suggest?name=${encodeURIComponent(find)}`}>{words.portal.add}</Link>}
        >
          {words.requests.askNoHitHelp}
        </Empty>
      ) : (
        <>
          <ul className="tiles">
            {list.data.lines.map((line) => (
              <li key={line.entitlement.id}>
                <Link className="tile" to={`/ask/${line.entitlement.id}`}>
                  <Picture name={line.entitlement.app.picture} hue={line.entitlement.app.hue} />
                  <span className="words">
                    <b>{line.entitlement.title}</b>
                    <span>{line.entitlement.line}</span>
                  </span>
                  {line.waiting !== null ? (
                    <span className="tag wait">{words.requests.waits(line.waiting)}</span>
                  ) : line.heldUntil !== null ? (
                    <span className="tag">
                      {words.requests.heldUntil(tellDay(lastDay(zone, line.heldUntil)))}
                    </span>
                  ) : null}
                </Link>
              </li>
            ))}
          </ul>
          {list.data.total > list.data.lines.length && (
            <p className="bar room-above-more">
              <Button variant="outline-primary" onClick={() => setLimit(limit + PAGE)}>
                {words.requests.more(list.data.total - list.data.lines.length)}
              </Button>
            </p>
          )}
        </>
      )}
    </PortalFrame>
  );
}

/** Asking for one thing: why, and until when. */
export function AskOnePage() {
  const id = useParams().id ?? '';
  const ask = useQuery({
    queryKey: ['askable', 'one', id],
    queryFn: () => answer(api.GET('/api/askable/{id}', { params: { path: { id } } })),
  });
  return (
    <PortalFrame>
      {ask.error ? (
        <Failure error={ask.error} again={() => ask.refetch()} />
      ) : ask.data === undefined ? (
        <Loading what={words.requests.askTitle} />
      ) : (
        <AskForm ask={ask.data} />
      )}
    </PortalFrame>
  );
}

/** A month from now, or from the day on which the holding ends, within the longest allowed. */
function later(today: string, ask: Schemas['AskView'], zone: string): string {
  const held = ask.heldUntil === null ? today : lastDay(zone, ask.heldUntil);
  const wanted = addDays(held > today ? held : today, 30);
  const most = ask.mostDays === null ? wanted : addDays(today, ask.mostDays);
  const [first = wanted] = [wanted, most].sort();
  return first;
}

function AskForm({ ask }: { ask: Schemas['AskView'] }) {
  const { zone } = useSession();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const today = dayIn(zone, new Date());
  const form = useUnsent(`ask ${ask.entitlement.id}`, {
    reason: ask.earlier,
    until: ask.heldUntil !== null || ask.needsEnd ? later(today, ask, zone) : '',
  });
  const { reason, until } = form.value;
  const setUntil = (day: string) => form.set({ until: day });
  const [key] = useState(repeatKey);
  const send = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/requests', {
          params: { header: { 'Idempotency-Key': key } },
          body: { entitlement: ask.entitlement.id, until: until === '' ? null : until, reason },
        }),
      ),
    onSuccess: async () => {
      form.sent();
      await queries.invalidateQueries({ queryKey: ['my'] });
      await queries.invalidateQueries({ queryKey: ['askable'] });
      await queries.invalidateQueries({ queryKey: ['front'] });
      navigate('/requests');
    },
  });
  const wrong = (field: string) =>
    send.error instanceof Problem ? send.error.field(field) : undefined;
  return (
    <>
      <header className="asked">
        <Picture name={ask.entitlement.app.picture} hue={ask.entitlement.app.hue} />
        <div>
          <PageHeading>
            {(ask.heldUntil === null ? words.requests.askFor : words.requests.keep)(
              ask.entitlement.title,
            )}
          </PageHeading>
          <p className="dim">{words.requests.lets(ask.entitlement.line)}</p>
        </div>
      </header>
      {!ask.askable ? (
        <div className="note wait">
          {ask.why} <Link to="/requests">{words.portal.requests}</Link>
        </div>
      ) : (
        <Form
          noValidate
          className="sheet"
          onSubmit={(event) => {
            event.preventDefault();
            send.mutate();
          }}
        >
          {ask.heldUntil !== null && (
            <p>{words.requests.youHold(tellDay(lastDay(zone, ask.heldUntil)))}</p>
          )}
          <TextField
            id="ask-reason"
            required
            label={words.requests.why}
            as="textarea"
            rows={3}
            value={reason}
            onChange={(text) => form.set({ reason: text })}
            wrong={wrong('reason')}
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
              {[14, 30, 90].map((days) => (
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
              {ask.needsEnd
                ? words.requests.heavyHelp(ask.mostDays ?? 0)
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
          <p>
            {words.requests.decides}{' '}
            {ask.steps.map((step, index) => (
              <span key={step.step}>
                {index > 0 && words.requests.next}
                <b>{step.people.join(words.requests.or)}</b>{' '}
                <span className="dim">({words.requests.as[step.as]})</span>
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
            {ask.pace !== null && (
              <span className="dim">
                {' '}
                {words.requests.pace(ask.pace.decided, ask.pace.halfMinutes, ask.pace.mostMinutes)}
              </span>
            )}
          </p>
          <ProblemNote error={send.error} fields={['reason', 'until']} />
          <Button type="submit" disabled={send.isPending}>
            {words.requests.send}
            {until === '' ? `, ${words.shell.noEnd}` : `, ${words.shell.until(tellDay(until))}`}
          </Button>
        </Form>
      )}
    </>
  );
}
