import Modal from 'react-bootstrap/Modal';
import type { Schemas } from '../api/client';
import { words } from '../words/portal';
import { SignInForm } from './SignInForm';

/** Signing in over the page, when the session has ended. */
export function SignedOut({ onDone }: { onDone: (session: Schemas['SessionView']) => unknown }) {
  return (
    <Modal show aria-labelledby="signed-out" backdrop="static" keyboard={false}>
      <Modal.Body>
        <p id="signed-out">{words.signOn.signedOut}</p>
        <SignInForm onDone={onDone} />
      </Modal.Body>
    </Modal>
  );
}
