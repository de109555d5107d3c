import { type ReactNode, useId } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useOpenDraft } from '../drafts/gathering';
import { words } from '../words/en';
import { ProblemNote } from './states';

/** A form over the page that does one act: what is typed, what stands in the way, what it does. */
export function ActDialog({
  title,
  act,
  danger = false,
  disabled = false,
  large = false,
  gathers = false,
  error,
  fields = [],
  onAct,
  onClose,
  below,
  beside,
  children,
}: {
  title: string;
  /** What the button says: what happens. */
  act: string;
  danger?: boolean;
  disabled?: boolean;
  large?: boolean;
  /** Whether a draft gathers it, if one is open. */
  gathers?: boolean;
  error: unknown;
  /** The fields that tell themselves what is wrong with them. */
  fields?: string[];
  onAct: () => void;
  onClose: () => void;
  /** What stands below the form, and acts for itself. */
  below?: ReactNode;
  beside?: ReactNode;
  children: ReactNode;
}) {
  const id = useId();
  const open = useOpenDraft();
  const draft = gathers ? open : undefined;
  return (
    <Modal
      show
      onHide={onClose}
      size={large ? 'lg' : undefined}
      aria-labelledby={`${id}-title`}
      scrollable
    >
      <Modal.Body>
        <h2 id={`${id}-title`}>{title}</h2>
        <Form
          id={id}
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            onAct();
          }}
        >
          {draft !== undefined && (
            <div className="note wait small">{words.drafts.into(draft.name)}</div>
          )}
          {children}
          <ProblemNote error={error} fields={fields} />
        </Form>
        {below}
      </Modal.Body>
      <Modal.Footer>
        {beside}
        <Button variant="outline-primary" onClick={onClose}>
          {words.shell.cancel}
        </Button>
        <Button
          type="submit"
          form={id}
          variant={danger ? 'outline-danger' : 'primary'}
          disabled={disabled}
        >
          {draft === undefined ? act : words.drafts.intoAct(act)}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
