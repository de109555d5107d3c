import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useLocation } from 'react-router';
import { answer, api } from '../api/client';
import { useLens } from '../shell/lens';
import { useSession } from '../shell/session';
import { TextField } from '../shell/TextField';
import { dayIn, tellShortDay } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { ActDialog } from './ActDialog';
import { CountsLine, isNothing } from './Counts';
import { useTray } from './gathering';

/** The draft tray at the foot of the desk: what gathers, and what it would do. */
export function Tray() {
  const tray = useTray();
  const { zone } = useSession();
  const { day } = useLens();
  const { pathname } = useLocation();
  const [opening, setOpening] = useState(false);
  const [shown, setShown] = useState(false);
  const aside = useAct((id: string) =>
    answer(
      api.PUT('/api/drafts/{id}/gathers', { params: { path: { id } }, body: { gathers: false } }),
    ),
  );
  if (tray === undefined || day !== undefined) {
    return null;
  }
  const open = tray.open;
  const others = tray.mine.length + tray.shared.length - (open === null ? 0 : 1);
  if (open === null) {
    return (
      <section className={`tray idle ${shown ? 'shown' : ''}`} aria-label={words.drafts.tray}>
        <TrayMark shown={shown} onShow={setShown}>
          {words.drafts.noneOpen}
        </TrayMark>
        <div className="tray-rest">
          <span>{pathname === '/desk/portal' ? words.drafts.gathers : words.drafts.atOnce}</span>
          <Button variant="link" onClick={() => setOpening(true)}>
            {words.drafts.open}
          </Button>
          <span className="grow" />
          {others > 0 && <Link to="/desk/drafts">{words.drafts.some(others)}</Link>}
        </div>
        {opening && <OpenDraft onClose={() => setOpening(false)} />}
      </section>
    );
  }
  const { draft } = open;
  const address = `/desk/drafts/${draft.id}`;
  const nothing =
    isNothing(open.now) && (open.later === null || isNothing(open.later)) && open.clashes === 0;
  return (
    <section className={`tray ${shown ? 'shown' : ''}`} aria-label={words.drafts.tray}>
      <TrayMark shown={shown} onShow={setShown}>
        {draft.name} · {words.drafts.edits(draft.edits)}
      </TrayMark>
      <div className="tray-rest">
        <b className="what">{words.drafts.one}</b>
        <Link to={address}>{draft.name}</Link>
        <span className="sums" role="status">
          <span className="edits">{words.drafts.edits(draft.edits)}</span>
          {pathname !== address && (
            <>
              {draft.edits > 0 && nothing && <span>{words.drafts.movesNobody}</span>}
              <CountsLine counts={open.now} />
              {open.later !== null && open.laterAt !== null && (
                <CountsLine
                  counts={open.later}
                  since={tellShortDay(dayIn(zone, new Date(open.laterAt)))}
                />
              )}
              {open.clashes > 0 && <b className="wait">{words.drafts.clashes(open.clashes)}</b>}
            </>
          )}
        </span>
        <span className="grow" />
        {others > 0 && <Link to="/desk/drafts">{words.drafts.others(others)}</Link>}
        <button type="button" className="quiet" onClick={() => aside.mutate(draft.id)}>
          {words.drafts.setAside}
        </button>
        {pathname !== address && (
          <Link className="btn btn-outline-primary" to={address}>
            {words.drafts.see}
          </Link>
        )}
        {draft.edits > 0 && pathname !== address && (
          <Link className="btn light" to={`${address}#publish`}>
            {words.drafts.publishOpen}
          </Link>
        )}
      </div>
    </section>
  );
}

/** What is seen of the tray on a phone until it is wanted. */
function TrayMark({
  shown,
  onShow,
  children,
}: {
  shown: boolean;
  onShow: (shown: boolean) => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className="tray-mark"
      aria-expanded={shown}
      onClick={() => onShow(!shown)}
    >
      {children} <span aria-hidden>{shown ? '▾' : '▴'}</span>
    </button>
  );
}

/** Opening a draft: from then on it gathers. */
export function OpenDraft({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState('');
  const open = useAct(() => answer(api.POST('/api/drafts', { body: { name } })), onClose);
  return (
    <ActDialog
      title={words.drafts.openTitle}
      act={words.drafts.openAct}
      error={open.error}
      disabled={name.trim() === '' || open.isPending}
      onAct={() => open.mutate()}
      onClose={onClose}
    >
      <p>{words.drafts.openHelp}</p>
      <TextField
        id="draft-name"
        required
        label={words.drafts.name}
        autoFocus
        maxLength={80}
        value={name}
        onChange={setName}
      />
    </ActDialog>
  );
}
