import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { type Chosen, PickThings } from '../directory/groups/PickThings';
import { DeskLink } from '../shell/lens';
import { ProblemNote } from '../shell/states';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

const PLACES: Record<string, (id: string) => string> = {
  group: (id) => `/desk/groups/${id}`,
  application: (id) => `/desk/apps/${id}`,
  collection: (id) => `/desk/portal?collection=${id}`,
};

/** Where somebody else is made the owner of a thing. */
const OWNERS: Record<string, (id: string, base: string[], owners: string[]) => Promise<unknown>> = {
  group: (id, base, owners) =>
    answer(
      api.PUT('/api/groups/{id}/owners', { params: { path: { id } }, body: { base, owners } }),
    ),
  application: (id, base, owners) =>
    answer(api.PUT('/api/apps/{id}/owners', { params: { path: { id } }, body: { base, owners } })),
  collection: (id, base, owners) =>
    answer(
      api.PUT('/api/collections/{id}/owners', { params: { path: { id } }, body: { base, owners } }),
    ),
};

/** Things that someone owns alone, each with the way to it and a new owner in place. */
export function OwnedList({
  things,
  owner,
}: {
  things: Schemas['OwnedThing'][];
  /** Who owns them now; where that is not said, nobody else is made their owner here. */
  owner?: string;
}) {
  const [naming, setNaming] = useState<string>();
  return (
    <ul className="plain owned">
      {things.map((thing) => (
        <li key={thing.id}>
          <DeskLink to={PLACES[thing.kind]?.(thing.id) ?? '/desk'}>
            <b>{thing.name}</b>
          </DeskLink>{' '}
          <span className="dim small">{words.departures.kinds[thing.kind] ?? thing.kind}</span>{' '}
          {owner !== undefined && OWNERS[thing.kind] !== undefined && naming !== thing.id && (
            <Button
              variant="outline-primary"
              size="sm"
              aria-label={words.departures.nameOwnerOf(thing.name)}
              onClick={() => setNaming(thing.id)}
            >
              {words.departures.nameOwner}
            </Button>
          )}
          {owner !== undefined && naming === thing.id && (
            <NameOwner thing={thing} owner={owner} onClose={() => setNaming(undefined)} />
          )}
        </li>
      ))}
    </ul>
  );
}

function NameOwner({
  thing,
  owner,
  onClose,
}: {
  thing: Schemas['OwnedThing'];
  owner: string;
  onClose: () => void;
}) {
  const [chosen, setChosen] = useState<Chosen[]>([]);
  const name = useAct(
    async () =>
      OWNERS[thing.kind]?.(
        thing.id,
        [owner],
        chosen.map((one) => one.id),
      ),
    onClose,
    words.departures.nameOwnerOf(thing.name),
  );
  return (
    <div className="brief">
      <PickThings label={words.departures.newOwner} chosen={chosen} onChange={setChosen} />
      <ProblemNote error={name.error} />
      <div className="bar">
        <Button
          size="sm"
          disabled={chosen.length === 0 || name.isPending}
          onClick={() => name.mutate()}
        >
          {words.departures.setOwner(chosen.map((one) => one.name).join(', '))}
        </Button>
        <Button size="sm" variant="outline-primary" onClick={onClose}>
          {words.shell.cancel}
        </Button>
      </div>
    </div>
  );
}
