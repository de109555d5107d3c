import Button from 'react-bootstrap/Button';
import { words } from '../words/portal';

/** Says that a form holds what was typed into it at an earlier time. */
export function KeptNote({ onStartAgain }: { onStartAgain: () => void }) {
  return (
    <p className="small dim" role="status">
      {words.shell.keptFromBefore}{' '}
      <Button variant="link" onClick={onStartAgain}>
        {words.shell.startAgain}
      </Button>
    </p>
  );
}
