import { type ReactNode, useId } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { words } from '../words/portal';
import { useSaysDone } from './said';
import { ProblemNote } from './states';

/** A form over the page, for what staff do about their own things; without an act it only tells. */
export function Dialog({
  title,
  act,
  danger = false,
  disabled = false,
  error,
  fields = [],
  beside,
  onAct,
  onClose,
  children,
}: {
  title: string;
  /** What the button says: what happens. */
  act?: string;
  danger?: boolean;
  disabled?: boolean;
  error?: unknown;
  /** The fields that tell themselves what is wrong with them. */
  fields?: string[];
  beside?: ReactNode;
  onAct?: () => void;
  onClose: () => void;
  children: ReactNode;
}) {
  const id = useId();
  const sends = useSaysDone(act ?? '', error);
  return (
    <Modal show onHide={onClose} aria-labelledby={`${id}-title`} scrollable>
      <Modal.Body>
        <h2 id={`${id}-title`}>{title}</h2>
        <Form
          id={id}
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            sends();
            onAct?.();
          }}
        >
          {children}
          <ProblemNote error={error} fields={fields} />
        </Form>
      </Modal.Body>
      <Modal.Footer>
        {beside}
        <Button variant="outline-primary" onClick={onClose}>
          {act === undefined ? words.shell.close : words.shell.cancel}
        </Button>
        {act !== undefined && (
          <Button
            type="submit"
            form={id}
            variant={danger ? 'outline-danger' : 'primary'}
            disabled={disabled}
          >
            {act}
          </Button>
        )}
      </Modal.Footer>
    </Modal>
  );
}
