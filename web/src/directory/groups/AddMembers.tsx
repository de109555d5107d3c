import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../../api/client';
import { Foreseen, type Manner, useForesight } from '../../drafts/foresight';
import { ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { tellDay, UNREADABLE } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { useTyped } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { type Chosen, PickThings } from './PickThings';

type Group = Schemas['GroupPage'];

export function AddMembers({ group }: { group: Group }) {
  const [open, setOpen] = useState(false);
  const { typed, sent } = useTyped(`members of ${group.id}`);
  const [chosen, setChosen] = typed<Chosen[]>('chosen', []);
  const [until, setUntil] = typed('until', '');
  const [reason, setReason] = typed('reason', '');
  const [key, setKey] = useState(repeatKey);
  const form = {
    people: chosen.filter((one) => one.kind === 'person').map((one) => one.id),
    groups: chosen.filter((one) => one.kind === 'group').map((one) => one.id),
    until: until === '' ? null : until,
  };
  const send = (manner: Manner) =>
    answer(
      api.POST('/api/groups/{id}/members', {
        params: { path: { id: group.id }, header: { 'Idempotency-Key': key } },
        headers: manner,
        body: { ...form, reason },
      }),
    );
  const foresight = useForesight(
    ['members-add', group.id, form],
    send,
    chosen.length > 0 && until !== UNREADABLE,
  );
  const add = useAct(
    () => send(foresight.agreed),
    () => {
      setOpen(false);
      sent();
      setKey(repeatKey());
    },
  );
  const wrong = add.error instanceof Problem ? add.error.field('until') : undefined;
  if (!open) {
    return (
      <div>
        <Button variant="outline-primary" onClick={() => setOpen(true)}>
          {words.groups.add}
        </Button>
      </div>
    );
  }
  return (
    <section className="part" aria-labelledby="group-add">
      <h2 id="group-add">{words.groups.add}</h2>
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(undefined);
        }}
      >
        <PickThings label={words.groups.addFind} chosen={chosen} onChange={setChosen} groups />
        <TextField
          id="add-until"
          label={words.groups.untilLabel}
          type="date"
          className="middling"
          value={until}
          onChange={setUntil}
          wrong={wrong}
        />
        <TextField id="add-reason" label={words.groups.why} value={reason} onChange={setReason} />
        {chosen.length > 0 && <Foreseen of={foresight} />}
        <ProblemNote error={add.error} fields={['until']} />
        <div className="bar flush">
          <Button type="submit" disabled={chosen.length === 0 || !foresight.may || add.isPending}>
            {words.groups.addChosen(chosen.length)}
            {`, ${until === '' ? words.shell.noEnd : words.shell.until(tellDay(until))}`}
          </Button>
          <Button variant="outline-primary" onClick={() => setOpen(false)}>
            {words.shell.cancel}
          </Button>
        </div>
      </Form>
    </section>
  );
}
