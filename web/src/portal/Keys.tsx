import { Dialog } from '../shell/Dialog';
import { words } from '../words/portal';

/** The keys of the front page. */
export function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title={words.shell.keys} onClose={onClose}>
      <dl className="pair">
        {words.portal.keysList.map(([key, does]) => (
          <div key={key} className="contents">
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
