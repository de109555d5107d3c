import { words } from '../words/portal';

/** The first thing the keyboard meets: past all that stands above a page. */
export function ToMain() {
  return (
    <a className="to-main" href="#main">
      {words.shell.toMain}
    </a>
  );
}
