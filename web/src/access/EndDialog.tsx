import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { type Manner, useForesight } from '../drafts/foresight';
import { Failure, Loading } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';
import { GroundCard } from './Grounds';

type Holding = Schemas['HoldingPage'];
type Ground = Schemas['GroundView'];
type Way = Schemas['WayOut'];

/** What a way cuts, each by a key: the grant, or places in groups. */
function cuts(way: Way): string[] {
  return way.cut === 'grant'
    ? [`grant ${way.grant}`]
    : way.places.map((place) => `place ${place.group.id} ${place.kind} ${place.member}`);
}

function taken(way: Way, chosen: string[]): boolean {
  const all = cuts(way);
  return all.length > 0 && all.every((one) => chosen.includes(one));
}

/** How many grounds are left when all that is chosen is cut. */
export function left(grounds: Ground[], ways: Way[], chosen: string[]): number {
  return grounds.filter(
    (ground) => !ways.some((way) => way.grant === ground.grant && taken(way, chosen)),
  ).length;
}

/** For every ground the way that does least beside, of those that can be gone here. */
export function gentlest(grounds: Ground[], ways: Way[]): string[] {
  const chosen = new Set<string>();
  for (const ground of grounds) {
    const open = ways.filter((way) => way.grant === ground.grant && way.may);
    const best = open.reduce<Way | undefined>(
      (least, way) => (least === undefined || harm(way) < harm(least) ? way : least),
      undefined,
    );
    for (const one of best === undefined ? [] : cuts(best)) {
      chosen.add(one);
    }
  }
  return [...chosen];
}

function harm(way: Way): number {
  return (way.others ?? 0) + (way.besides ?? 0);
}

/** Ending a holding: every ground is named, with each way to end it and what else that does. */
export function EndDialog({ holding, onClose }: { holding: Holding; onClose: () => void }) {
  const { person, entitlement, grounds } = holding;
  const [chosen, setChosen] = useState<string[]>(() =>
    grounds
      .filter((ground) => ground.by === 'person' && ground.mayEndGrant)
      .map((ground) => `grant ${ground.grant}`),
  );
  const kept = useTyped(`end ${person.id} ${entitlement.id}`);
  const [reason, setReason] = kept.typed('reason', '');
  const [key] = useState(repeatKey);
  const out = useQuery({
    queryKey: ['ways-out', person.id, entitlement.id],
    queryFn: () =>
      answer(
        api.GET('/api/people/{id}/holdings/{entitlement}/ways-out', {
          params: { path: { id: person.id, entitlement: entitlement.id } },
        }),
      ),
  });
  const ways = out.data?.ways ?? [];
  const send = (why: string, manner: Manner) =>
    answer(
      api.POST('/api/grants/end', {
        params: { header: { 'Idempotency-Key': key } },
        headers: manner,
        body: {
          grants: chosen.filter((one) => one.startsWith('grant ')).map((one) => one.slice(6)),
          memberships: chosen
            .filter((one) => one.startsWith('place '))
            .map((one) => one.split(' '))
            .map(([, group = '', kind = '', member = '']) => ({ group, kind, member })),
          reason: why,
        },
      }),
    );
  const foresight = useForesight(
    ['end', ...chosen],
    (manner) => send(words.access.ahead, manner),
    chosen.length > 0,
  );
  const end = useAct(
    () => send(reason, foresight.agreed),
    () => {
      kept.sent();
      onClose();
    },
  );
  const remaining = left(grounds, ways, chosen);
  const ended = grounds.length - remaining;
  const all = gentlest(grounds, ways);
  return (
    <ActDialog
      gathers
      large
      danger
      title={words.access.endTitle(person.displayed, entitlement.title)}
      act={
        chosen.length === 0 || out.data === undefined
          ? words.access.chooseEnd
          : remaining === 0
            ? words.access.endHolding
            : words.access.endGrounds(ended)
      }
      foresight={foresight}
      disabled={chosen.length === 0 || out.data === undefined || end.isPending}
      error={end.error}
      fields={['reason']}
      onAct={() => end.mutate()}
      onClose={onClose}
    >
      <div className="bar">
        <span>{words.access.endHelp(grounds.length)}</span>
        {grounds.length > 1 && all.length > 0 && (
          <Button variant="outline-primary" size="sm" onClick={() => setChosen(all)}>
            {words.access.endAll(left(grounds, ways, all))}
          </Button>
        )}
      </div>
      <ul className="plain">
        {grounds.map((ground) => (
          <GroundCard key={ground.grant} ground={ground}>
            {out.data === undefined ? (
              out.error === null && <Loading what={words.access.waysOut} lines={1} />
            ) : (
              <Ways
                ground={ground}
                ways={ways.filter((way) => way.grant === ground.grant)}
                chosen={chosen}
                onChoose={setChosen}
              />
            )}
          </GroundCard>
        ))}
      </ul>
      {out.error && <Failure error={out.error} again={() => out.refetch()} />}
      {out.data?.cutOff === true && <p className="dim small">{words.access.waysCut}</p>}
      {out.data !== undefined && (
        <div className={`note ${remaining === 0 ? 'calm' : 'wait'}`}>
          {remaining === 0
            ? words.access.endsIt(person.displayed)
            : words.access.staysOn(person.displayed, remaining)}
        </div>
      )}
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

/** The ways to end one ground, each with what it does beside. */
function Ways({
  ground,
  ways,
  chosen,
  onChoose,
}: {
  ground: Ground;
  ways: Way[];
  chosen: string[];
  onChoose: (chosen: string[]) => void;
}) {
  const open = ways.filter((way) => way.may);
  return (
    <>
      {open.map((way) => {
        const own = cuts(way);
        return (
          <Form.Check
            key={own.join(' ')}
            type="checkbox"
            id={`${way.grant}-${way.cut}`}
            label={
              <>
                {label(ground, way)} <span className="dim">{beside(way)}</span>
              </>
            }
            checked={taken(way, chosen)}
            onChange={(event) =>
              onChoose([
                ...chosen.filter((one) => !own.includes(one)),
                ...(event.target.checked ? own : []),
              ])
            }
          />
        );
      })}
      {ways.some((way) => !way.may) && (
        <p className="small dim">
          {open.length === 0
            ? words.access.notHere(ground.by, ground.form)
            : words.access.notAllHere(
                ways.some((way) => way.cut === 'attributes'),
                ways.some((way) => way.mirrored),
              )}
        </p>
      )}
    </>
  );
}

function label(ground: Ground, way: Way): string {
  if (way.cut === 'grant') {
    return ground.by === 'person' ? words.access.endOwn : words.access.endForAll(ground.covers);
  }
  return way.places
    .map((place) =>
      place.kind === 'person'
        ? words.access.takeOutOf(place.group.name)
        : words.access.takeGroupOutOf(place.name, place.group.name),
    )
    .join(words.access.andAlso);
}

/** What a way does to others, as far as the reader may know. */
function beside(way: Way): string {
  if (way.others === null || way.besides === null) {
    return words.access.besideUnknown;
  }
  return words.access.beside(way.others, way.besides);
}
