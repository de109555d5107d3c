import { useEffect } from 'react';
import Button from 'react-bootstrap/Button';
import ButtonGroup from 'react-bootstrap/ButtonGroup';
import { useAddress } from '../../shell/addresses';
import { isTyping } from '../../shell/keys';
import { words } from '../../words/en';
import type { Arranging } from './useArranging';

/** Over the preview: with the draft or without, undo and redo. */
export function Tools({
  before,
  drafted,
  arranging,
}: {
  /** Whether the portal is shown without the draft. */
  before: boolean;
  /** Whether there is a draft. */
  drafted: boolean;
  arranging: Arranging;
}) {
  const [, set] = useAddress();
  return (
    <>
      <ButtonGroup aria-label={words.arrange.draftOrNot}>
        <Button
          size="sm"
          variant="outline-primary"
          active={before}
          aria-pressed={before}
          disabled={!drafted}
          onClick={() => set({ before: 'draft' })}
        >
          {words.arrange.before}
        </Button>
        <Button
          size="sm"
          variant="outline-primary"
          active={!before}
          aria-pressed={!before}
          onClick={() => set({ before: '' })}
        >
          {words.arrange.after}
        </Button>
      </ButtonGroup>
      <Button
        size="sm"
        variant="outline-primary"
        disabled={arranging.undo === undefined}
        onClick={() => arranging.undo?.()}
      >
        {words.arrange.undo} <kbd>Ctrl Z</kbd>
      </Button>
      <Button
        size="sm"
        variant="outline-primary"
        disabled={arranging.redo === undefined}
        onClick={() => arranging.redo?.()}
      >
        {words.arrange.redo}
      </Button>
    </>
  );
}

/** Undo and redo by the keys that everybody knows; not while something is typed. */
export function useUndoKeys(arranging: Arranging) {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || isTyping(event.target)) {
        return;
      }
      const key = event.key.toLowerCase();
      if (key === 'z' && !event.shiftKey && arranging.undo !== undefined) {
        event.preventDefault();
        arranging.undo();
      } else if ((key === 'y' || (key === 'z' && event.shiftKey)) && arranging.redo !== undefined) {
        event.preventDefault();
        arranging.redo();
      }
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, [arranging]);
}
