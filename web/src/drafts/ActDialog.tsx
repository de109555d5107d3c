import { type ReactNode, useId } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { answer, api, gatherInto } from '../api/client';
import { KeptNote } from '../shell/KeptNote';
import { useSaysDone } from '../shell/said';
import type { Stale } from '../shell/stale';
import { ProblemNote } from '../shell/states';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { useEnsureDraft } from './ensuring';
import { Foreseen, type Foresight } from './foresight';
import { useOpenDraft, useWorksWithDrafts } from './gathering';

const LONGEST_DRAFT_NAME = 80;

/** A form over the page that does one act: what is typed, what stands in the way, what it does. */
export function ActDialog({
  title,
  act,
  danger = false,
  disabled = false,
  large = false,
  gathers = false,
  foresight,
  stale,
  kept,
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
  /** What it would do, told below the form; without having seen that, nobody does it. */
  foresight?: Foresight;
  /** Whether somebody else has changed what it is about. */
  stale?: Stale<unknown>;
  /** What was typed at an earlier time and never sent. */
  kept?: { fromBefore: boolean; sent: () => void };
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
  // Where all edits of a page go into a draft, the first of them opens it.
  const ensuring = useEnsureDraft();
  const opens = gathers ? ensuring.name : undefined;
  const first = useAct(ensuring.ensure, () => onAct());
  const into = draft?.name ?? opens;
  const works = useWorksWithDrafts();
  const sends = useSaysDone(into === undefined ? act : words.drafts.intoAct(act), error);
  const ready = foresight === undefined || foresight.may;
  const asDraft = useAct(
    async () => {
      const name = title.slice(0, LONGEST_DRAFT_NAME);
      const opened = await answer(api.POST('/api/drafts', { body: { name } }));
      gatherInto(opened.result);
    },
    () => onAct(),
  );
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
            sends();
            if (opens === undefined) {
              onAct();
            } else {
              first.mutate();
            }
          }}
        >
          {into !== undefined && <div className="note wait small">{words.drafts.into(into)}</div>}
          {kept?.fromBefore && <KeptNote onStartAgain={kept.sent} />}
          {stale?.note}
          {children}
          {foresight !== undefined && (foresight.seen !== undefined || foresight.asked) && (
            <Foreseen of={foresight} />
          )}
          <ProblemNote error={error ?? asDraft.error ?? first.error} fields={fields} />
        </Form>
        {below}
      </Modal.Body>
      <Modal.Footer>
        {beside}
        {gathers && works && into === undefined && foresight !== undefined && (
          <Button
            variant="link"
            className="start"
            title={words.drafts.asDraftHelp}
            disabled={disabled || !foresight.draftable || asDraft.isPending}
            onClick={() => asDraft.mutate()}
          >
            {words.drafts.asDraft}
          </Button>
        )}
        <Button variant="outline-primary" onClick={onClose}>
          {words.shell.cancel}
        </Button>
        <Button
          type="submit"
          form={id}
          variant={danger ? 'outline-danger' : 'primary'}
          disabled={
            disabled || !ready || stale?.blocked === true || asDraft.isPending || first.isPending
          }
        >
          {into === undefined ? act : words.drafts.intoAct(act)}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
