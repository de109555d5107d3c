import { useDeferredValue, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey } from '../api/client';
import { FilterField } from '../directory/groups/FilterField';
import { type Chosen, PickThings, subjectOf } from '../directory/groups/PickThings';
import { ActDialog } from '../drafts/ActDialog';
import { type Manner, useForesight } from '../drafts/foresight';
import { useOpenDraft } from '../drafts/gathering';
import { useSession } from '../shell/session';
import { TextField } from '../shell/TextField';
import { dayIn, tellDay, UNREADABLE } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';

/** Giving an entitlement to people, groups or a filter, after seeing who gains. */
export function GiveDialog({
  id,
  title,
  onClose,
}: {
  id: string;
  title: string;
  onClose: () => void;
}) {
  const { zone } = useSession();
  const draft = useOpenDraft();
  const today = dayIn(zone, new Date());
  const kept = useTyped(`give ${id}`);
  const { typed } = kept;
  const [byFilter, setByFilter] = typed('byFilter', false);
  const [chosen, setChosen] = typed<Chosen[]>('chosen', []);
  const [filter, setFilter] = typed('filter', '');
  const [from, setFrom] = typed('from', '');
  const [until, setUntil] = typed('until', '');
  const [reason, setReason] = typed('reason', '');
  const [key] = useState(repeatKey);
  const form = {
    subjects: byFilter
      ? filter.trim() === ''
        ? []
        : [{ kind: 'filter', id: null, filter }]
      : chosen.map(subjectOf),
    from: from === '' ? null : from,
    until: until === '' ? null : until,
  };
  const wanted = useDeferredValue(JSON.stringify(form));
  const send = (body: typeof form & { reason: string }, manner: Manner) =>
    answer(
      api.POST('/api/entitlements/{id}/grants', {
        params: { path: { id }, header: { 'Idempotency-Key': key } },
        headers: manner,
        body,
      }),
    );
  const foresight = useForesight(
    ['give', id, wanted, draft?.id],
    (manner) =>
      send({ ...(JSON.parse(wanted) as typeof form), reason: words.access.ahead }, manner),
    form.subjects.length > 0 && from !== UNREADABLE && until !== UNREADABLE,
  );
  const give = useAct(
    () => send({ ...form, reason }, foresight.agreed),
    () => {
      kept.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    give.error instanceof Problem ? give.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      large
      title={words.access.giveTitle(title)}
      act={`${words.access.give(foresight.seen?.to ?? 0)}, ${until === '' ? words.shell.noEnd : words.shell.until(tellDay(until))}`}
      kept={kept}
      foresight={foresight}
      disabled={form.subjects.length === 0 || wanted !== JSON.stringify(form) || give.isPending}
      error={give.error}
      fields={['from', 'until', 'reason']}
      onAct={() => give.mutate()}
      onClose={onClose}
    >
      <fieldset className="bar wide-gap">
        <legend className="visually-hidden">{words.access.to}</legend>
        <Form.Check
          type="radio"
          name="to"
          id="give-named"
          label={words.access.toNamed}
          checked={!byFilter}
          onChange={() => setByFilter(false)}
        />
        <Form.Check
          type="radio"
          name="to"
          id="give-filter"
          label={words.access.toFilter}
          checked={byFilter}
          onChange={() => setByFilter(true)}
        />
      </fieldset>
      {byFilter ? (
        <FilterField value={filter} onChange={setFilter} />
      ) : (
        <PickThings
          label={words.access.toWhom}
          chosen={chosen}
          onChange={setChosen}
          groups
          places
        />
      )}
      <div className="bar wide-gap from-top">
        <TextField
          id="give-from"
          label={words.access.firstDay}
          type="date"
          min={today}
          value={from}
          onChange={setFrom}
          wrong={wrong('from')}
        />
        <TextField
          id="give-until"
          label={words.access.lastDay}
          type="date"
          min={from === '' ? today : from}
          value={until}
          onChange={setUntil}
          wrong={wrong('until')}
        />
      </div>
      <TextField
        id="give-reason"
        label={words.groups.why}
        value={reason}
        onChange={setReason}
        wrong={wrong('reason')}
      />
    </ActDialog>
  );
}
