import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { ProblemNote } from '../shell/states';
import { tellDate } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

/** Problems that one has reported, and what was said to them. */
export function MyComplaints() {
  const mine = useQuery({
    queryKey: ['my', 'requests', 'complaints'],
    queryFn: () => answer(api.GET('/api/my/complaints')),
  });
  const all = mine.data?.complaints ?? [];
  return all.length === 0 ? null : (
    <section aria-labelledby="my-complaints">
      <h2 id="my-complaints">{words.complaints.mine}</h2>
      {all.map((one) => (
        <Mine key={one.id} complaint={one} />
      ))}
    </section>
  );
}

function Mine({ complaint }: { complaint: Schemas['ReportView'] }) {
  const takeBack = useAct(() =>
    answer(
      api.POST('/api/complaints/{id}/answer', {
        params: { path: { id: complaint.id } },
        body: { text: '' },
      }),
    ),
  );
  const state = complaint.takenBack
    ? 'taken back'
    : complaint.answeredAt === null
      ? 'waits'
      : 'answered';
  return (
    <article className="sheet mine" aria-labelledby={`t-${complaint.id}`}>
      <header>
        <h3 id={`t-${complaint.id}`} dir="auto">
          {complaint.tile}
        </h3>
        <span className={`tag ${state === 'waits' ? 'wait' : state === 'answered' ? 'calm' : ''}`}>
          {words.complaints.states[state]}
        </span>
        <span className="mono dim">{complaint.number}</span>
        <span className="dim small" title={complaint.at}>
          {tellDate(complaint.at)}
        </span>
      </header>
      <p className="said" dir="auto">
        “{complaint.text}”
      </p>
      {state === 'answered' && (
        <p>
          {words.complaints.said(
            complaint.answeredBy ?? '',
            tellDate(complaint.answeredAt ?? complaint.at),
          )}{' '}
          <span className="said" dir="auto">
            “{complaint.answer}”
          </span>
        </p>
      )}
      {state === 'waits' && (
        <Button
          size="sm"
          variant="outline-primary"
          disabled={takeBack.isPending}
          onClick={() => takeBack.mutate()}
        >
          {words.complaints.takeBack}
        </Button>
      )}
      <ProblemNote error={takeBack.error} />
    </article>
  );
}
