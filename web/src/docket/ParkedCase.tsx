import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, Problem, repeatKey } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { DeskLink } from '../shell/lens';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

/** Something that was given up after many tries: what it was, what went wrong, and what now. */
export function ParkedCase({ id, onDecided }: { id: string; onDecided: () => void }) {
  const [dropping, setDropping] = useState(false);
  const [reason, setReason] = useState('');
  const [key] = useState(repeatKey);
  const path = { params: { path: { id }, header: { 'Idempotency-Key': key } } };
  const found = useQuery({
    queryKey: ['case', 'parked', id],
    queryFn: () => answer(api.GET('/api/parked/{id}', { params: { path: { id } } })),
  });
  const retry = useAct(() => answer(api.POST('/api/parked/{id}/retry', path)), onDecided);
  const drop = useAct(
    () => answer(api.POST('/api/parked/{id}/drop', { ...path, body: { reason } })),
    onDecided,
  );
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} />;
  }
  const { kind, person, position, since, due, failed, attempts, error } = found.data;
  return (
    <>
      <header>
        <div className="dim small">{words.parked.kind}</div>
        <h2 className="title">{words.parked.tasks[kind] ?? kind}</h2>
        <p className="said">{words.parked.help(attempts, tellTime(failed))}</p>
      </header>
      <div className="evidence">
        <section className="part">
          <h3>{words.parked.what}</h3>
          <dl className="pair">
            {person !== null && (
              <>
                <dt>{words.parked.for}</dt>
                <dd>
                  <DeskLink to={`/desk/people/${person.id}`}>{person.displayed}</DeskLink>{' '}
                  <span className="dim small">{person.unit}</span>
                </dd>
              </>
            )}
            <dt>{words.parked.because}</dt>
            <dd>
              <DeskLink to={`/desk/ledger/${position}`}>{words.parked.entry(position)}</DeskLink>,{' '}
              {tellTime(since)}
            </dd>
            {due !== null && (
              <>
                <dt>{words.parked.due}</dt>
                <dd>{tellTime(due)}</dd>
              </>
            )}
          </dl>
        </section>
        <section className="part">
          <h3>{words.parked.error}</h3>
          <p className="mono small wrap">{error}</p>
        </section>
      </div>
      <div className="decide sheet">
        <ProblemNote error={retry.error} />
        <div className="bar">
          <Button disabled={retry.isPending} onClick={() => retry.mutate()}>
            {words.parked.retry}
          </Button>
          <Button variant="outline-danger" onClick={() => setDropping(true)}>
            {words.parked.drop}
          </Button>
        </div>
      </div>
      {dropping && (
        <ActDialog
          danger
          title={words.parked.dropTitle}
          act={words.parked.drop}
          error={drop.error}
          fields={['reason']}
          disabled={drop.isPending}
          onAct={() => drop.mutate()}
          onClose={() => setDropping(false)}
        >
          <p>{words.parked.dropHelp}</p>
          <TextField
            id="parked-reason"
            required
            label={words.groups.why}
            value={reason}
            onChange={setReason}
            wrong={drop.error instanceof Problem ? drop.error.field('reason') : undefined}
          />
        </ActDialog>
      )}
    </>
  );
}
