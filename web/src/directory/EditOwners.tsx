import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Schemas } from '../api/client';
import { DeskLink } from '../shell/lens';
import { ProblemNote } from '../shell/states';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { type Chosen, PickThings } from './groups/PickThings';

/** Who answers for something, and changing that. */
export function EditOwners({
  owners,
  may,
  none,
  save,
}: {
  owners: Schemas['PersonLine'][];
  may: boolean;
  none: string;
  save: (base: string[], owners: string[]) => Promise<unknown>;
}) {
  const [chosen, setChosen] = useState<Chosen[]>();
  const set = useAct(
    () =>
      save(
        owners.map((owner) => owner.id),
        (chosen ?? []).map((one) => one.id),
      ),
    () => setChosen(undefined),
    words.groups.setOwners,
  );
  if (chosen !== undefined) {
    return (
      <>
        <PickThings label={words.groups.owners} chosen={chosen} onChange={setChosen} />
        <ProblemNote error={set.error} />
        <div className="bar flush">
          <Button onClick={() => set.mutate()} disabled={set.isPending}>
            {words.groups.setOwners}
          </Button>
          <Button variant="outline-primary" onClick={() => setChosen(undefined)}>
            {words.shell.cancel}
          </Button>
        </div>
      </>
    );
  }
  return (
    <>
      {owners.length === 0 ? (
        <p className="dim">{none}</p>
      ) : (
        <ul className="plain">
          {owners.map((owner) => (
            <li key={owner.id}>
              <DeskLink to={`/desk/people/${owner.id}`}>{owner.displayed}</DeskLink>{' '}
              <span className="dim small">{owner.unit}</span>
            </li>
          ))}
        </ul>
      )}
      {may && (
        <Button
          variant="outline-primary"
          size="sm"
          onClick={() =>
            setChosen(
              owners.map((owner) => ({ kind: 'person', id: owner.id, name: owner.displayed })),
            )
          }
        >
          {words.groups.setOwners}
        </Button>
      )}
    </>
  );
}
