import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { ActDialog } from '../shell/ActDialog';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { EffectsNote } from './EffectsNote';
import { GroundCard } from './Grounds';

type Holding = Schemas['HoldingPage'];
type Ground = Schemas['GroundView'];

/** What can be done about one ground here: end the grant, take the person out, or neither. */
function means(ground: Ground): { key: string; label: string }[] {
  const found: { key: string; label: string }[] = [];
  if (ground.mayEndGrant) {
    found.push({
      key: `grant ${ground.grant}`,
      label: ground.by === 'person' ? words.access.endOwn : words.access.endForAll(ground.covers),
    });
  }
  const first = ground.chain[0];
  if (ground.mayTakeOut && first !== undefined) {
    found.push({ key: `group ${first.id}`, label: words.access.takeOutOf(first.name) });
  }
  return found;
}

/** How many grounds are left when these means are taken. */
export function left(grounds: Ground[], taken: string[]): number {
  return grounds.filter(
    (ground) =>
      !taken.includes(`grant ${ground.grant}`) &&
      !(
        ground.chain[0] !== undefined &&
        ground.more === 0 &&
        taken.includes(`group ${ground.chain[0].id}`)
      ),
  ).length;
}

/** Ending a holding: every ground is named, with what ends it here; nothing is promised beyond. */
export function EndDialog({ holding, onClose }: { holding: Holding; onClose: () => void }) {
  const { person, entitlement, grounds } = holding;
  const [taken, setTaken] = useState<string[]>(() =>
    grounds
      .filter((ground) => ground.by === 'person' && ground.mayEndGrant)
      .map((ground) => `grant ${ground.grant}`),
  );
  const [reason, setReason] = useState('');
  const [key] = useState(repeatKey);
  const body = {
    grants: taken.filter((one) => one.startsWith('grant ')).map((one) => one.slice(6)),
    memberships: taken
      .filter((one) => one.startsWith('group '))
      .map((one) => ({ group: one.slice(6), person: person.id })),
  };
  const preview = useQuery({
    queryKey: ['end', person.id, entitlement.id, taken],
    queryFn: () =>
      answer(
        api.POST('/api/grants/end/preview', { body: { ...body, reason: words.access.ahead } }),
      ),
    enabled: taken.length > 0,
    placeholderData: keepPreviousData,
  });
  const end = useAct(
    () =>
      answer(
        api.POST('/api/grants/end', {
          params: { header: { 'Idempotency-Key': key } },
          body: { ...body, reason, digest: preview.data?.digest ?? null },
        }),
      ),
    onClose,
  );
  const remaining = left(grounds, taken);
  return (
    <ActDialog
      gathers
      large
      danger
      title={words.access.endTitle(person.displayed, entitlement.title)}
      act={
        taken.length === 0
          ? words.access.chooseEnd
          : remaining === 0
            ? words.access.endHolding
            : words.access.endGrounds(taken.length)
      }
      disabled={
        taken.length === 0 ||
        preview.data === undefined ||
        preview.data.problems.length > 0 ||
        end.isPending
      }
      error={end.error}
      fields={['reason']}
      onAct={() => end.mutate()}
      onClose={onClose}
    >
      <p>{words.access.endHelp(grounds.length)}</p>
      <ul className="plain">
        {grounds.map((ground) => (
          <GroundCard key={ground.grant} ground={ground}>
            {means(ground).map((one) => (
              <Form.Check
                key={one.key}
                type="checkbox"
                id={one.key.replace(' ', '-')}
                label={one.label}
                checked={taken.includes(one.key)}
                onChange={(event) =>
                  setTaken(
                    event.target.checked
                      ? [...taken, one.key]
                      : taken.filter((other) => other !== one.key),
                  )
                }
              />
            ))}
            {means(ground).length === 0 && (
              <p className="small dim">{words.access.notHere(ground.by, ground.form)}</p>
            )}
          </GroundCard>
        ))}
      </ul>
      {taken.length > 0 && <EffectsNote effects={preview.data} />}
      <div className={`note ${remaining === 0 ? 'calm' : 'wait'}`}>
        {remaining === 0
          ? words.access.endsIt(person.displayed)
          : words.access.staysOn(person.displayed, remaining)}
      </div>
      <TextField
        id="end-reason"
        label={words.groups.why}
        value={reason}
        onChange={setReason}
        wrong={end.error instanceof Problem ? end.error.field('reason') : undefined}
      />
    </ActDialog>
  );
}
