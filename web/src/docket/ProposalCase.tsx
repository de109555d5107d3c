import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { PickWeight, type Weight } from '../apps/AppForms';
import { type Chosen, PickThings } from '../directory/groups/PickThings';
import { PickPicture } from '../pictures/PickPicture';
import { useSession } from '../shell/session';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';

/** An app that people have put forward; alike ones are decided together. */
export function ProposalCase({ id, onDecided }: { id: string; onDecided: () => void }) {
  const found = useQuery({
    queryKey: ['case', 'proposal', id],
    queryFn: () => answer(api.GET('/api/proposals/{id}', { params: { path: { id } } })),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} />;
  }
  return <Decide key={id} found={found.data} onDecided={onDecided} />;
}

function Decide({ found, onDecided }: { found: Schemas['ProposalCase']; onDecided: () => void }) {
  const { signed } = useSession();
  const first = found.proposals[0]?.proposal;
  const kept = useTyped(`decide ${first?.id ?? 'nothing'}`);
  const { typed } = kept;
  const [wanted, setWanted] = typed('wanted', {
    name: first?.name ?? '',
    line: '',
    picture: 'signpost',
    hue: 'slate',
    weight: 'LIGHT' as Weight,
    address: first?.address ?? '',
    role: 'User',
    requestable: true,
  });
  const [owner, setOwner] = typed<Chosen[]>('owner', [
    { kind: 'person', id: signed.person, name: signed.displayed },
  ]);
  const [also, setAlso] = typed<Chosen[]>('also', []);
  const [said, setSaid] = typed('said', '');
  const [key] = useState(repeatKey);
  const ids = found.proposals.map((one) => one.proposal.id);
  const header = { 'Idempotency-Key': key };
  const accept = useAct(
    () =>
      answer(
        api.POST('/api/proposals/accept', {
          params: { header },
          body: {
            ...wanted,
            proposals: ids,
            owner: owner[0]?.id ?? signed.person,
            also:
              also[0] === undefined ? null : { kind: also[0].kind, id: also[0].id, filter: null },
            answer: said,
          },
        }),
      ),
    () => {
      kept.sent();
      onDecided();
    },
  );
  const refuse = useAct(
    () =>
      answer(
        api.POST('/api/proposals/refuse', {
          params: { header },
          body: { proposals: ids, answer: said },
        }),
      ),
    () => {
      kept.sent();
      onDecided();
    },
  );
  if (first === undefined) {
    return null;
  }
  const error = accept.error ?? refuse.error;
  const wrong = (field: string) => (error instanceof Problem ? error.field(field) : undefined);
  const set = (change: Partial<typeof wanted>) => setWanted({ ...wanted, ...change });
  const waits = first.state === 'waiting';
  return (
    <>
      <header>
        <div className="dim small">
          {words.brought.kind} · <span className="mono">{first.number}</span>
          {found.proposals.length > 1 && ` · ${words.docket.alike(found.proposals.length)}`}
        </div>
        <h2 className="title" dir="auto">
          {first.name}
        </h2>
        <p>
          <span className="mono">{first.address}</span>{' '}
          {found.approved !== null && (
            <span className="tag calm">{words.brought.onList(found.approved)}</span>
          )}
        </p>
      </header>
      <section className="sheet" aria-label={words.brought.whoAsks}>
        <h3>{words.brought.whoAsks}</h3>
        <ul className="plain">
          {found.proposals.map(({ who, proposal }) => (
            <li key={proposal.id}>
              <b>{who.displayed}</b>{' '}
              <span className="dim small">
                {[who.unit, who.site].filter(Boolean).join(', ')} ·{' '}
                <span title={proposal.at}>{tellTime(proposal.at)}</span>
              </span>
              <div dir="auto">
                {words.brought.forWhom(proposal.whom)}{' '}
                <span className="said">“{proposal.why}”</span>
              </div>
            </li>
          ))}
        </ul>
      </section>
      {!waits ? (
        <p className="note calm">
          {words.brought.states[first.state]}.{' '}
          {first.decidedBy !== null &&
            words.brought.decided(first.decidedBy, tellTime(first.decidedAt ?? first.at))}{' '}
          {first.answer !== '' && <span dir="auto">“{first.answer}”</span>}
        </p>
      ) : found.mine ? (
        <p className="note wait">{words.brought.ownOne}</p>
      ) : (
        <>
          <section className="sheet" aria-label={words.brought.becomes}>
            <h3>{words.brought.becomes}</h3>
            <div className="pair-of-fields">
              <TextField
                id="accept-name"
                label={words.apps.name}
                value={wanted.name}
                onChange={(name) => set({ name })}
                wrong={wrong('name')}
              />
              <TextField
                id="accept-line"
                label={words.apps.line}
                value={wanted.line}
                onChange={(line) => set({ line })}
                wrong={wrong('line')}
              />
              <TextField
                id="accept-address"
                label={words.brought.address}
                value={wanted.address}
                onChange={(address) => set({ address })}
                wrong={wrong('address')}
              />
              <TextField
                id="accept-role"
                label={words.apps.roleName}
                value={wanted.role}
                onChange={(role) => set({ role })}
                wrong={wrong('roles')}
              />
            </div>
            <PickWeight
              id="accept-weight"
              label={words.apps.weight}
              weight={wanted.weight}
              onChange={(weight) => set({ weight })}
            />
            <PickPicture
              picture={wanted.picture}
              hue={wanted.hue}
              onChange={(picture, hue) => set({ picture, hue })}
            />
            <PickThings
              label={words.brought.owner}
              chosen={owner}
              onChange={(all) => setOwner(all.slice(-1))}
            />
            <PickThings
              label={words.brought.also(found.proposals.length)}
              chosen={also}
              groups
              onChange={(all) => setAlso(all.slice(-1))}
            />
            <Form.Check
              type="checkbox"
              id="accept-requestable"
              label={words.apps.requestable}
              checked={wanted.requestable}
              onChange={(event) => set({ requestable: event.target.checked })}
            />
          </section>
          <div className="decide sheet">
            <TextField
              id="accept-answer"
              label={words.brought.answer}
              value={said}
              dir="auto"
              onChange={setSaid}
              wrong={wrong('answer')}
            />
            <ProblemNote error={error} fields={['name', 'line', 'address', 'roles', 'answer']} />
            <div className="bar">
              <Button disabled={accept.isPending} onClick={() => accept.mutate()}>
                {words.brought.accept(found.proposals.length)}
              </Button>
              <Button
                variant="outline-danger"
                disabled={refuse.isPending}
                onClick={() => refuse.mutate()}
              >
                {words.brought.refuse}
              </Button>
            </div>
          </div>
        </>
      )}
    </>
  );
}
