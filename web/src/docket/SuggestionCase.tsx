import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { PickSensitivity, type Sensitivity } from '../apps/AppForms';
import { type Chosen, PickThings } from '../directory/groups/PickThings';
import { PickPicture } from '../pictures/PickPicture';
import { useSession } from '../shell/session';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';

/** An app that people have suggested; alike ones are decided together. */
export function SuggestionCase({ id, onDecided }: { id: string; onDecided: () => void }) {
  const found = useQuery({
    queryKey: ['case', 'suggestion', id],
    queryFn: () => answer(api.GET('/api/suggestions/{id}', { params: { path: { id } } })),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} />;
  }
  return <Decide key={id} found={found.data} onDecided={onDecided} />;
}

function Decide({ found, onDecided }: { found: Schemas['SuggestionCase']; onDecided: () => void }) {
  const { signed } = useSession();
  const first = found.suggestions[0]?.suggestion;
  const kept = useTyped(`decide ${first?.id ?? 'nothing'}`);
  const { typed } = kept;
  const [wanted, setWanted] = typed('wanted', {
    name: first?.name ?? '',
    line: '',
    picture: 'signpost',
    hue: 'slate',
    sensitivity: 'LOW' as Sensitivity,
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
  const ids = found.suggestions.map((one) => one.suggestion.id);
  const header = { 'Idempotency-Key': key };
  const accept = useAct(
    () =>
      answer(
        api.POST('/api/suggestions/accept', {
          params: { header },
          body: {
            ...wanted,
            suggestions: ids,
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
        api.POST('/api/suggestions/decline', {
          params: { header },
          body: { suggestions: ids, answer: said },
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
          {words.suggestions.kind} · <span className="mono">{first.number}</span>
          {found.suggestions.length > 1 && ` · ${words.docket.alike(found.suggestions.length)}`}
        </div>
        <h2 className="title" dir="auto">
          {first.name}
        </h2>
        <p>
          <span className="mono">{first.address}</span>{' '}
          {found.approved !== null && (
            <span className="tag calm">{words.suggestions.onList(found.approved)}</span>
          )}
        </p>
      </header>
      <section className="part" aria-label={words.suggestions.whoAsks}>
        <h3>{words.suggestions.whoAsks}</h3>
        <ul className="plain">
          {found.suggestions.map(({ who, suggestion }) => (
            <li key={suggestion.id}>
              <b>{who.displayed}</b>{' '}
              <span className="dim small">
                {[who.unit, who.site].filter(Boolean).join(', ')} ·{' '}
                <span title={suggestion.at}>{tellTime(suggestion.at)}</span>
              </span>
              <div dir="auto">
                {words.suggestions.forWhom(suggestion.whom)}{' '}
                <span className="said">“{suggestion.why}”</span>
              </div>
            </li>
          ))}
        </ul>
      </section>
      {!waits ? (
        <p className="note calm">
          {words.suggestions.states[first.state]}.{' '}
          {first.decidedBy !== null &&
            words.suggestions.decided(first.decidedBy, tellTime(first.decidedAt ?? first.at))}{' '}
          {first.answer !== '' && <span dir="auto">“{first.answer}”</span>}
        </p>
      ) : found.mine ? (
        <p className="note wait">{words.suggestions.ownOne}</p>
      ) : (
        <>
          <section className="part" aria-label={words.suggestions.becomes}>
            <h3>{words.suggestions.becomes}</h3>
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
                label={words.suggestions.address}
                value={wanted.address}
                onChange={(address) => set({ address })}
                wrong={wrong('address')}
              />
              <TextField
                id="accept-role"
                label={words.apps.entitlementName}
                value={wanted.role}
                onChange={(role) => set({ role })}
                wrong={wrong('roles')}
              />
            </div>
            <PickSensitivity
              id="accept-sensitivity"
              label={words.apps.sensitivity}
              sensitivity={wanted.sensitivity}
              onChange={(sensitivity) => set({ sensitivity })}
            />
            <PickPicture
              picture={wanted.picture}
              hue={wanted.hue}
              onChange={(picture, hue) => set({ picture, hue })}
            />
            <PickThings
              label={words.suggestions.owner}
              chosen={owner}
              onChange={(all) => setOwner(all.slice(-1))}
            />
            <PickThings
              label={words.suggestions.also(found.suggestions.length)}
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
              label={words.suggestions.answer}
              value={said}
              dir="auto"
              onChange={setSaid}
              wrong={wrong('answer')}
            />
            <ProblemNote error={error} fields={['name', 'line', 'address', 'roles', 'answer']} />
            <div className="bar">
              <Button disabled={accept.isPending} onClick={() => accept.mutate()}>
                {words.suggestions.accept(found.suggestions.length)}
              </Button>
              <Button
                variant="outline-danger"
                disabled={refuse.isPending}
                onClick={() => refuse.mutate()}
              >
                {words.suggestions.decline}
              </Button>
            </div>
          </div>
        </>
      )}
    </>
  );
}
