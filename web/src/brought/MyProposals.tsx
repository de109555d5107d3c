import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { ProblemNote } from '../shell/states';
import { tellDate } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

const TAGS: Record<string, string> = { waiting: 'wait', accepted: 'calm', refused: 'loss' };

/** What one has put forward, and what was said to it. */
export function MyProposals() {
  const mine = useQuery({
    queryKey: ['my', 'requests', 'proposals'],
    queryFn: () => answer(api.GET('/api/my/proposals')),
  });
  const all = mine.data?.proposals ?? [];
  return all.length === 0 ? null : (
    <section aria-labelledby="my-proposals">
      <h2 id="my-proposals">{words.brought.mine}</h2>
      {all.map((one) => (
        <Mine key={one.id} proposal={one} />
      ))}
    </section>
  );
}

function Mine({ proposal }: { proposal: Schemas['ProposalView'] }) {
  const withdraw = useAct(() =>
    answer(api.POST('/api/my/proposals/{id}/withdraw', { params: { path: { id: proposal.id } } })),
  );
  return (
    <article className="sheet mine" aria-labelledby={`p-${proposal.id}`}>
      <header>
        <h3 id={`p-${proposal.id}`} dir="auto">
          {proposal.name}
        </h3>
        <span className={`tag ${TAGS[proposal.state] ?? ''}`}>
          {words.brought.states[proposal.state]}
        </span>
        <span className="mono dim">{proposal.number}</span>
        <span className="dim small" title={proposal.at}>
          {tellDate(proposal.at)}
        </span>
      </header>
      <p className="dim small mono">{proposal.address}</p>
      {proposal.decidedBy !== null && (
        <p>
          {words.brought.decided(proposal.decidedBy, tellDate(proposal.decidedAt ?? proposal.at))}{' '}
          {proposal.answer !== '' && <span className="said">“{proposal.answer}”</span>}
        </p>
      )}
      {proposal.state === 'waiting' && (
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
