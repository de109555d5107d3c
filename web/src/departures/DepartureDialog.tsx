import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useNavigate } from 'react-router';
import { answer, api, Problem, repeatKey } from '../api/client';
import { useDeskAddress } from '../shell/lens';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { SlipLines } from './SlipPage';

/** Ending all that one person has, after seeing what it comes to. */
export function DepartureDialog({
  id,
  name,
  onClose,
}: {
  id: string;
  name: string;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const address = useDeskAddress();
  const [reason, setReason] = useState('');
  const [key] = useState(repeatKey);
  const preview = useQuery({
    queryKey: ['departure', id],
    queryFn: () => answer(api.GET('/api/people/{id}/departure', { params: { path: { id } } })),
  });
  const run = useAct(
    () =>
      answer(
        api.POST('/api/people/{id}/departure', {
          params: { path: { id }, header: { 'Idempotency-Key': key } },
          body: { reason },
        }),
      ),
    () => navigate(address(`/desk/departures/${id}`)),
  );
  return (
    <Modal show onHide={onClose} size="lg" aria-labelledby="departure-title" scrollable>
      <Modal.Body>
        <h2 id="departure-title">{words.departures.title(name)}</h2>
        <p>{words.departures.help}</p>
        {preview.error ? (
          <Failure error={preview.error} again={() => preview.refetch()} />
        ) : preview.data === undefined ? (
          <Loading what={words.departures.slip} />
        ) : (
          <>
            <SlipLines slip={preview.data} heading="h3" />
            <Form
              id="departure"
              noValidate
              onSubmit={(event) => {
                event.preventDefault();
                run.mutate();
              }}
            >
              <TextField
                id="departure-reason"
                label={words.groups.why}
                value={reason}
                onChange={setReason}
                wrong={run.error instanceof Problem ? run.error.field('reason') : undefined}
              />
              <ProblemNote error={run.error} fields={['reason']} />
            </Form>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-primary" onClick={onClose}>
          {words.shell.cancel}
        </Button>
        <Button
          type="submit"
          form="departure"
          variant="outline-danger"
          disabled={preview.data === undefined || run.isPending}
        >
          {words.departures.run(preview.data?.lost.length ?? 0)}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
