import type { Schemas } from '../api/client';
import { useSession } from '../shell/session';
import { lastDay, tellDate, tellDay } from '../shell/times';
import { words } from '../words/en';

type Edit = Schemas['EditView'];

type Phrase = Schemas['Phrase'];

const NAMED = 4;

/** Wishes that differ only in whom they are about, as one: "Oda, Liv and 3 more join …". */
export function folded(phrases: Phrase[], more: number): (Phrase & { plural: boolean })[] {
  const folds: { first: Phrase; names: string[] }[] = [];
  for (const phrase of phrases) {
    const last = folds.at(-1);
    if (
      last !== undefined &&
      last.first.kind === phrase.kind &&
      last.first.object === phrase.object &&
      last.first.value === phrase.value &&
      last.first.from === phrase.from &&
      last.first.until === phrase.until
    ) {
      last.names.push(phrase.subject);
    } else {
      folds.push({ first: phrase, names: [phrase.subject] });
    }
  }
  return folds.map(({ first, names }, index) => {
    const unnamed =
      Math.max(0, names.length - NAMED) +
      (index === folds.length - 1 && names.length > 1 ? more : 0);
    return {
      ...first,
      subject: words.drafts.fold(names.slice(0, NAMED), unnamed),
      plural: names.length > 1,
    };
  });
}

/** What one wish says. */
export function PhraseLine({ phrase }: { phrase: Phrase & { plural: boolean } }) {
  const { zone } = useSession();
  const tell = words.drafts.phrases[phrase.kind];
  const days = [
    phrase.from === null ? '' : words.drafts.fromDay(tellDate(phrase.from)),
    phrase.until === null ? '' : words.drafts.untilDay(tellDay(lastDay(zone, phrase.until))),
  ].filter((part) => part !== '');
  return (
    <>
      <b>{phrase.subject}</b> {tell(phrase)}
      {days.length > 0 && `, ${days.join(' ')}`}
    </>
  );
}

/** The edits of a draft, each with what became of it and its undoing. */
export function Edits({
  edits,
  editable,
  onUndo,
}: {
  edits: Edit[];
  editable: boolean;
  onUndo: (seq: number) => void;
}) {
  return (
    <ol className="plain edits">
      {edits.map((edit) => (
        <li key={edit.seq} id={`edit-${edit.seq}`} className={edit.fate}>
          {folded(edit.phrases, edit.more).map((phrase, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: wishes of an edit never move
            <div key={index}>
              <PhraseLine phrase={phrase} />
            </div>
          ))}
          {edit.phrases.length === 0 && <div>{words.ledger.acts[edit.act]}</div>}
          {edit.more > 0 && folded(edit.phrases, 0).length === edit.phrases.length && (
            <div>{words.drafts.moreWishes(edit.more)}</div>
          )}
          {edit.fate === 'already_so' && <div className="tag">{words.drafts.alreadySo}</div>}
          {edit.fate === 'clashes' && (
            <div className="tag wait">
              {words.drafts.reasons[edit.reason ?? '']?.(edit.object ?? '') ??
                words.drafts.clashing}
            </div>
          )}
          <div className="dim small">
            {words.drafts.edit(edit.seq)} · {edit.author}
            {editable && (
              <>
                {' · '}
                <button
                  type="button"
                  className="btn btn-link small"
                  aria-label={words.drafts.undoLabel(edit.seq)}
                  onClick={() => onUndo(edit.seq)}
                >
                  {words.drafts.undo}
                </button>
              </>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}
