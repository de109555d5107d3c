import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { ProblemNote } from '../shell/states';
import { tellDate } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

const TAGS: Record<string, string> = { waiting: 'wait', accepted: 'calm', declined: 'loss' };

/** What one has suggested, and what was said to it. */
export function MySuggestions() {
  const mine = useQuery({
    queryKey: ['my', 'requests', 'suggestions'],
    queryFn: () => answer(api.GET('/api/my/suggestions')),
  });
  const all = mine.data?.suggestions ?? [];
  return all.length === 0 ? null : (
    <section aria-labelledby="my-suggestions">
      <h2 id="my-suggestions">{words.suggestions.mine}</h2>
      {all.map((one) => (
        <Mine key={one.id} suggestion={one} />
      ))}
    </section>
  );
}

function Mine({ suggestion }: { suggestion: Schemas['SuggestionView'] }) {
  const withdraw = useAct(() =>
    answer(
      api.POST('/api/my/suggestions/{id}/withdraw', { params: { path: { id: suggestion.id } } }),
    ),
  );
  return (
    <article className="sheet mine" aria-labelledby={`p-${suggestion.id}`}>
      <header>
        <h3 id={`p-${suggestion.id}`} dir="auto">
          {suggestion.name}
        </h3>
        <span className={`tag ${TAGS[suggestion.state] ?? ''}`}>
          {words.suggestions.states[suggestion.state]}
        </span>
        <span className="mono dim">{suggestion.number}</span>
        <span className="dim small" title={suggestion.at}>
          {tellDate(suggestion.at)}
        </span>
      </header>
      <p className="dim small mono">{suggestion.address}</p>
      {suggestion.decidedBy !== null && (
        <p>
          {words.suggestions.decided(
            suggestion.decidedBy,
            tellDate(suggestion.decidedAt ?? suggestion.at),
          )}{' '}
          {suggestion.answer !== '' && <span className="said">“{suggestion.answer}”</span>}
        </p>
      )}
      {suggestion.state === 'waiting' && (
        <Button
          size="sm"
          variant="outline-primary"
          disabled={withdraw.isPending}
          onClick={() => withdraw.mutate()}
        >
          {words.requests.withdraw}
        </Button>
      )}
      <ProblemNote error={withdraw.error} />
    </article>
  );
}
