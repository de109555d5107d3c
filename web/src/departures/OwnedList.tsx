import type { Schemas } from '../api/client';
import { DeskLink } from '../shell/lens';
import { words } from '../words/en';

const PLACES: Record<string, (id: string) => string> = {
  group: (id) => `/desk/groups/${id}`,
  application: (id) => `/desk/apps/${id}`,
  collection: (id) => `/desk/portal?collection=${id}`,
};

/** Things that someone owns, each with the way to it. */
export function OwnedList({ things }: { things: Schemas['OwnedThing'][] }) {
  return (
    <ul className="plain">
      {things.map((thing) => (
        <li key={thing.id}>
          <DeskLink to={PLACES[thing.kind]?.(thing.id) ?? '/desk'}>{thing.name}</DeskLink>{' '}
          <span className="dim small">{words.departures.kinds[thing.kind] ?? thing.kind}</span>
        </li>
      ))}
    </ul>
  );
}
