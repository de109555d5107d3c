import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { answer, api, Problem, repeatKey, type Schemas } from '../../api/client';
import { type Chosen, PickThings } from '../../directory/groups/PickThings';
import { ActDialog } from '../../drafts/ActDialog';
import { type Manner, useForesight } from '../../drafts/foresight';
import { useSession } from '../../shell/session';
import { useStale } from '../../shell/stale';
import { TextField } from '../../shell/TextField';
import { dayIn } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { useEdited } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { Breaches } from './Breaches';

type Rule = Schemas['RuleLine'];

const chosen = (side: Rule['one']): Chosen[] =>
  side.map((one) => ({ kind: 'entitlement', id: one.id, name: one.title }));

const terms = (name: string, why: string, one: Chosen[], other: Chosen[]) => ({
  name,
  why,
  sides: { one: one.map((each) => each.id), other: other.map((each) => each.id) },
});

/** Making or changing a rule, with who breaks it before it is switched on. */
export function RuleDialog({ rule, onClose }: { rule?: Rule; onClose: () => void }) {
  const { zone } = useSession();
  const now = {
    name: rule?.name ?? '',
    why: rule?.why ?? '',
    one: chosen(rule?.one ?? []),
    other: chosen(rule?.other ?? []),
  };
  const kept = useEdited(rule === undefined ? 'new rule' : `rule ${rule.id}`, now);
  const { name, why, one, other } = kept.wanted;
  const set = (change: Partial<typeof now>) => kept.setWanted({ ...kept.wanted, ...change });
  const stale = useStale({
    now,
    wanted: kept.wanted,
    onChange: kept.setWanted,
    kept,
    labels: {
      name: words.rules.name,
      why: words.rules.why,
      one: words.rules.oneSide,
      other: words.rules.otherSide,
    },
    tell: (_, value) =>
      typeof value === 'string' ? value : value.map((each) => each.name).join(', '),
  });
  const [from, setFrom] = kept.typed('from', '');
  const [reason, setReason] = kept.typed('reason', '');
  const [key] = useState(repeatKey);
  const wanted = useDeferredValue(JSON.stringify(terms('', '', one, other).sides));
  const both = one.length > 0 && other.length > 0;
  const preview = useQuery({
    queryKey: ['rules', 'preview', wanted],
    queryFn: () => answer(api.POST('/api/rules/preview', { body: JSON.parse(wanted) })),
    enabled: both,
    placeholderData: keepPreviousData,
  });
  const send = (because: string, manner: Manner) => {
    const body = {
      base:
        rule === undefined
          ? null
          : terms(stale.base.name, stale.base.why, stale.base.one, stale.base.other),
      wanted: terms(name, why, one, other),
      from: from === '' ? null : from,
      reason: because,
    };
    return answer(
      rule === undefined
        ? api.POST('/api/rules', {
            params: { header: { 'Idempotency-Key': key } },
            headers: manner,
            body,
          })
        : api.PUT('/api/rules/{id}', {
            params: { path: { id: rule.id } },
            headers: manner,
            body,
          }),
    );
  };
  const foresight = useForesight(
    ['rule', rule?.id, name, why, wanted, from],
    (manner) => send(words.access.ahead, manner),
    rule !== undefined && both && !stale.blocked,
  );
  const save = useAct(
    () => send(reason, foresight.agreed),
    () => {
      kept.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  const breaches = both ? preview.data : undefined;
  return (
    <ActDialog
      gathers
      large
      title={rule === undefined ? words.rules.make : words.rules.change(rule.name)}
      act={rule === undefined ? words.rules.makeAct : words.rules.changeAct}
      stale={stale}
      kept={kept}
      foresight={rule === undefined ? undefined : foresight}
      disabled={!both || save.isPending}
      error={save.error}
      fields={['name', 'why', 'from', 'reason']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <TextField
        id="rule-name"
        required
        label={words.rules.name}
        maxLength={120}
        value={name}
        onChange={(next) => set({ name: next })}
        wrong={wrong('name')}
      />
      <TextField
        id="rule-why"
        as="textarea"
        rows={2}
        maxLength={500}
        label={words.rules.why}
        value={why}
        onChange={(next) => set({ why: next })}
        wrong={wrong('why')}
      />
      <PickThings
        label={words.rules.oneSide}
        chosen={one}
        onChange={(next) => set({ one: next })}
        entitlements
      />
      <PickThings
        label={words.rules.otherSide}
        chosen={other}
        onChange={(next) => set({ other: next })}
        entitlements
      />
      <TextField
        id="rule-from"
        type="date"
        label={words.rules.from}
        min={dayIn(zone, new Date())}
        value={from}
        onChange={setFrom}
        wrong={wrong('from')}
      />
      {rule !== undefined && (
        <TextField
          id="rule-reason"
          label={words.groups.why}
          maxLength={500}
          value={reason}
          onChange={setReason}
          wrong={wrong('reason')}
        />
      )}
      <section aria-live="polite" className="effects" aria-label={words.rules.present}>
        {!both ? (
          <span className="dim">{words.rules.bothSides}</span>
        ) : breaches === undefined ? (
          <span className="dim">{words.rules.counting}</span>
        ) : breaches.length === 0 ? (
          <b>{words.rules.nobodyBreaks}</b>
        ) : (
          <>
            <b>{words.rules.break(breaches.length)}</b> {words.rules.breakHelp}
            <Breaches breaches={breaches} rule={null} label={words.rules.present} />
          </>
        )}
      </section>
    </ActDialog>
  );
}
