import { words } from '../../words/en';

/** A filter in words, with its exact text one click away. */
export function FilterSaid({ said, filter }: { said: string; filter: string | null }) {
  if (filter === null || filter === said) {
    return <>{said}</>;
  }
  return (
    <span className="said-filter">
      {said}{' '}
      <details>
        <summary className="small">{words.filter.exact}</summary>
        <code>{filter}</code>
      </details>
    </span>
  );
}
