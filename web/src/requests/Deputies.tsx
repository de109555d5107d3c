import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { Dialog } from '../shell/Dialog';
import { useSession, useZone } from '../shell/session';
import { Failure, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { addDays, dayIn, tellDay } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';

type Line = Schemas['DeputyLine'];
type Duty = Line['duties'][number];

type Chosen = { kind: 'person'; id: string; name: string };
type Pick = (
  label: string,
  chosen: Chosen[],
  onChange: (chosen: { id: string; name: string }[]) => void,
) => ReactNode;

const DUTIES: Duty[] = ['TEAM', 'APPS'];

/**
 * Who decides for somebody while they are away, and for whom they decide; nothing where there is
 * nothing to decide, or where it is not the reader's to see.
 */
export function Deputies({
  person,
  name,
  pick,
}: {
  person: string;
  name: string;
  /** Finds anybody, for an administrator; else one chooses among those whom one knows. */
  pick?: Pick;
}) {
  const { signed } = useSession();
  const own = signed.person === person;
  const [naming, setNaming] = useState(false);
  const found = useQuery({
    queryKey: ['deputies', person],
    queryFn: () =>
      answer(api.GET('/api/people/{id}/deputies', { params: { path: { id: person } } })),
  });
  if (found.error instanceof Problem && found.error.view.status === 404) {
    return null;
  }
  const title = own ? words.deputies.own : words.deputies.title;
  const data = found.data;
  if (data === undefined && !found.error) {
    // Whether there is anything to tell is not known yet, so nothing stands there to vanish.
    return null;
  }
  if (
    data !== undefined &&
    !data.team &&
    !data.apps &&
    data.deputies.length + data.standsInFor.length === 0
  ) {
    return null;
  }
  return (
    <section className="part" id="deputies" aria-labelledby="deputies-title">
      <h2 id="deputies-title">{title}</h2>
      {data === undefined ? (
        <Failure error={found.error} again={() => found.refetch()} />
      ) : (
        <>
          {(data.team || data.apps || data.deputies.length > 0) && (
            <>
              {own && <p className="small dim">{words.deputies.help}</p>}
              {data.deputies.length === 0 ? (
                <p>{own ? words.deputies.none : words.deputies.noneOf(name)}</p>
              ) : (
                <Lines
                  person={person}
                  lines={data.deputies}
                  deputies
                  told={own ? words.deputies.yourDuties : words.deputies.duties}
                />
              )}
              <Button variant="outline-primary" onClick={() => setNaming(true)}>
                {words.deputies.nameOne}
              </Button>
            </>
          )}
          {data.standsInFor.length > 0 && (
            <>
              <h3 className="room-above">
                {own ? words.deputies.standsIn : words.deputies.standsInOf(name)}
              </h3>
              <Lines person={person} lines={data.standsInFor} told={words.deputies.duties} />
            </>
          )}
        </>
      )}
      {naming && data !== undefined && (
        <NameOne
          person={person}
          name={own ? undefined : name}
          data={data}
          pick={pick}
          onClose={() => setNaming(false)}
        />
      )}
    </section>
  );
}

function Lines({
  person,
  lines,
  deputies = false,
  told,
}: {
  person: string;
  lines: Line[];
  /** Whether they are this person's deputies; else this person is theirs. */
  deputies?: boolean;
  /** What each duty is called. */
  told: Record<Duty, string>;
}) {
  const end = useAct(
    (who: string) =>
      answer(
        api.DELETE('/api/people/{id}/deputies/{deputy}', {
          params: { path: deputies ? { id: person, deputy: who } : { id: who, deputy: person } },
        }),
      ),
    undefined,
    words.deputies.ended,
  );
  return (
    <>
      <ul className="plain">
        {lines.map((line) => (
          <li key={line.who.id} className="bar room-below">
            <b>{line.who.name}</b>
            <span className="dim">{line.who.unit}</span>
            <span>
              {line.begun
                ? words.deputies.untilDay(tellDay(line.until))
                : words.deputies.fromTo(tellDay(line.from), tellDay(line.until))}
            </span>
            <span className="dim small">
              {line.duties.length < DUTIES.length &&
                line.duties.map((duty) => told[duty]).join(', ')}
            </span>
            <Button
              variant="outline-danger"
              size="sm"
              aria-label={
                deputies
                  ? words.deputies.endOf(line.who.name)
                  : words.deputies.endFor(line.who.name)
              }
              disabled={end.isPending}
              onClick={() => end.mutate(line.who.id)}
            >
              {words.deputies.end}
            </Button>
          </li>
        ))}
      </ul>
      <ProblemNote error={end.error} />
    </>
  );
}

function NameOne({
  person,
  name,
  data,
  pick,
  onClose,
}: {
  person: string;
  /** For whom; undefined for oneself. */
  name: string | undefined;
  data: Schemas['DeputiesView'];
  pick: Pick | undefined;
  onClose: () => void;
}) {
  const today = dayIn(useZone(), new Date());
  const form = useUnsent(`deputy of ${person}`, {
    deputy: '',
    called: '',
    from: today,
    until: addDays(today, 7),
    duties: DUTIES.join(' '),
  });
  const [key] = useState(repeatKey);
  const duties = DUTIES.filter((duty) => form.value.duties.split(' ').includes(duty));
  const save = useAct(
    () =>
      answer(
        api.POST('/api/people/{id}/deputies', {
          params: { path: { id: person }, header: { 'Idempotency-Key': key } },
          body: {
            deputy: form.value.deputy,
            from: form.value.from === today ? null : form.value.from,
            until: form.value.until,
            duties,
          },
        }),
      ),
    () => {
      form.sent();
      onClose();
    },
    words.deputies.done,
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  const chosen: Chosen[] =
    form.value.deputy === ''
      ? []
      : [{ kind: 'person', id: form.value.deputy, name: form.value.called }];
  return (
    <Dialog
      title={name === undefined ? words.deputies.nameOne : words.deputies.nameFor(name)}
      act={words.deputies.nameOne}
      disabled={form.value.deputy === '' || duties.length === 0 || save.isPending}
      error={save.error}
      fields={['deputy', 'from', 'until', 'duties']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      {pick !== undefined ? (
        <>
          {pick(words.deputies.who, chosen, (next) =>
            form.set({ deputy: next.at(-1)?.id ?? '', called: next.at(-1)?.name ?? '' }),
          )}
          {wrong('deputy') !== undefined && <p className="note loss">{wrong('deputy')}</p>}
        </>
      ) : data.candidates.length === 0 ? (
        <p className="note">{words.deputies.nobody}</p>
      ) : (
        <Form.Group controlId="deputy-who" className="field">
          <Form.Label>{words.deputies.who}</Form.Label>
          <Form.Select
            value={form.value.deputy}
            isInvalid={wrong('deputy') !== undefined}
            onChange={(event) => form.set({ deputy: event.target.value })}
          >
            <option value="">{words.deputies.choose}</option>
            {data.candidates.map((one) => (
              <option key={one.id} value={one.id}>
                {[one.name, one.unit].filter(Boolean).join(' · ')}
              </option>
            ))}
          </Form.Select>
          <Form.Control.Feedback type="invalid">{wrong('deputy')}</Form.Control.Feedback>
        </Form.Group>
      )}
      <div className="bar">
        <TextField
          id="deputy-from"
          type="date"
          label={words.deputies.from}
          value={form.value.from}
          min={today}
          onChange={(from) => form.set({ from })}
          wrong={wrong('from')}
        />
        <TextField
          id="deputy-until"
          type="date"
          label={words.deputies.until}
          value={form.value.until}
          min={form.value.from}
          onChange={(until) => form.set({ until })}
          wrong={wrong('until')}
        />
      </div>
      {data.team && data.apps && (
        <fieldset className="field">
          <legend>{words.deputies.decides}</legend>
          {DUTIES.map((duty) => (
            <Form.Check
              key={duty}
              type="checkbox"
              id={`deputy-${duty}`}
              label={(name === undefined ? words.deputies.yourDuties : words.deputies.duties)[duty]}
              checked={duties.includes(duty)}
              onChange={(event) =>
                form.set({
                  duties: DUTIES.filter((one) =>
                    one === duty ? event.target.checked : duties.includes(one),
                  ).join(' '),
                })
              }
            />
          ))}
          {wrong('duties') !== undefined && <p className="note loss">{wrong('duties')}</p>}
        </fieldset>
      )}
      <p className="small dim">{words.deputies.emailed}</p>
    </Dialog>
  );
}
