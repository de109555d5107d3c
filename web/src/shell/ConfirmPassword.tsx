import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { words } from '../words/portal';
import { TextField } from './TextField';

/** Asks for the password once more, over the page. */
export function ConfirmPassword({
  password,
  wrong,
  onType,
  onConfirm,
  onLeave,
}: {
  password: string;
  wrong: string | undefined;
  onType: (password: string) => void;
  onConfirm: () => void;
  onLeave: () => void;
}) {
  return (
    <Modal show onHide={onLeave} aria-labelledby="password-again">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          onConfirm();
        }}
      >
        <Modal.Body>
          <h2 id="password-again">{words.signOn.confirmTitle}</h2>
          <p className="dim">{words.signOn.confirmHelp}</p>
          <TextField
            id="password-again-field"
            label={words.signOn.password}
            type="password"
            autoFocus
            autoComplete="current-password"
            value={password}
            onChange={onType}
            wrong={wrong}
          />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-primary" onClick={onLeave}>
            {words.shell.cancel}
          </Button>
          <Button type="submit">{words.signOn.confirm}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
