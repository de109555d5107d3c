import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { answer, api, gatherInto, Problem, type Schemas } from '../api/client';
import { FilterSaid } from '../directory/filter/FilterSaid';
import { ActDialog } from '../drafts/ActDialog';
import { useOpenDraft, useWorksWithDrafts } from '../drafts/gathering';
import { useAddress } from '../shell/addresses';
import { DeskLink, useDeskAddress } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { tellDate } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { HoldingsTabs } from './HoldingsTabs';

type Hint = Schemas['HintLine'];

const LONGEST_DRAFT_NAME = 80;

/** What could be less or simpler: a calm list with numbers, each opening as a draft. */
export function HintsPage() {
  const [get, set] = useAddress();
  const aside = get('aside') === 'yes';
  const [setting, setSetting] = useState(false);
  const hints = useQuery({
    queryKey: ['hints', aside],
    queryFn: () => answer(api.GET('/api/hints', { params: { query: { aside } } })),
  });
  return (
    <>
      <HoldingsTabs />
      <header>
        <PageHeading>{aside ? words.hints.asideTitle : words.hints.title}</PageHeading>
        <span className="grow" />
        {hints.data?.maySet && (
          <Button variant="outline-primary" onClick={() => setSetting(true)}>
            {words.hints.thresholds}
          </Button>
        )}
        <Button variant="outline-primary" onClick={() => set({ aside: aside ? '' : 'yes' })}>
          {aside ? words.hints.showOpen : words.hints.showAside(hints.data?.aside ?? 0)}
        </Button>
      </header>
      {hints.error && <Failure error={hints.error} again={() => hints.refetch()} />}
      {hints.isPending && <Loading what={words.hints.title} />}
      {hints.data?.kinds.length === 0 && (
        <Empty title={aside ? words.hints.noneAside : words.hints.none} />
      )}
      <div className="hints">
        {hints.data?.kinds.map((kind) => (
          <section key={kind.kind} className="part" aria-labelledby={`hint-${kind.kind}`}>
            <h2 id={`hint-${kind.kind}`}>
              {words.hints.kinds[kind.kind](hints.data.thresholds)}{' '}
              <span className="dim mono">{words.count(kind.total)}</span>
            </h2>
            <ul className="plain">
              {kind.hints.map((hint) => (
                <HintLine key={hint.key} hint={hint} thresholds={hints.data.thresholds} />
              ))}
            </ul>
            {kind.total > kind.hints.length && (
              <p className="dim small">{words.hints.more(kind.total - kind.hints.length)}</p>
            )}
          </section>
        ))}
      </div>
      {setting && hints.data !== undefined && (
        <ThresholdsDialog now={hints.data.thresholds} onClose={() => setSetting(false)} />
      )}
    </>
  );
}

function HintLine({ hint, thresholds }: { hint: Hint; thresholds: Schemas['ThresholdsForm'] }) {
  const works = useWorksWithDrafts();
  const open = useOpenDraft();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const [aside, setAside] = useState(false);
  const draft = useAct(
    () => intoDraft(hint, open?.id),
    (id) => navigate(address(`/desk/drafts/${id}`)),
  );
  const back = useAct(() => answer(api.POST('/api/hints/back', { body: { key: hint.key } })));
  return (
    <li className="hint-line">
      <div>
        <Told hint={hint} thresholds={thresholds} />
        {hint.aside !== null && (
          <div className="small dim">
            {words.hints.setAside(hint.aside.by, tellDate(hint.aside.at))}{' '}
            <span className="said">“{hint.aside.reason}”</span>
          </div>
        )}
        <ProblemNote error={draft.error ?? back.error} />
      </div>
      <span className="bar">
        {works && hint.draft.ends.length + hint.draft.gives.length > 0 && (
          <Button
            size="sm"
            variant="outline-primary"
            disabled={draft.isPending}
            onClick={() => draft.mutate()}
          >
            {draft.isPending
              ? words.hints.opening
              : words.hints.draft(hint.kind, hint.draft.ends.length)}
          </Button>
        )}
        {hint.aside === null ? (
          <Button size="sm" variant="link" onClick={() => setAside(true)}>
            {words.hints.asideAct}
          </Button>
        ) : (
          <Button size="sm" variant="link" onClick={() => back.mutate()}>
            {words.hints.back}
          </Button>
        )}
      </span>
      {aside && <AsideDialog hint={hint} onClose={() => setAside(false)} />}
    </li>
  );
}

function Told({
  hint,
  thresholds,
}: {
  hint: Hint;
  thresholds: Schemas['ThresholdsForm'];
}): ReactNode {
  switch (hint.kind) {
    case 'UNUSED':
      return (
        <>
          <Role of={hint.entitlement} />: {words.hints.unused(hint.people, thresholds.days)}
        </>
      );
    case 'UNLIKE':
      return (
        <>
          <DeskLink to={`/desk/people/${hint.person.id}/holdings?holding=${hint.entitlement.id}`}>
            <b>{hint.person.familyFirst}</b>
          </DeskLink>{' '}
          {words.hints.holds}{' '}
          <DeskLink to={`/desk/entitlements/${hint.entitlement.id}`}>
            {hint.entitlement.title}
          </DeskLink>
          : {words.hints.unlike(hint.alike, hint.peers)}{' '}
          <span className="dim small">
            {[hint.person.title, hint.person.unit].filter(Boolean).join(', ')}
          </span>
        </>
      );
    case 'RULE':
      return (
        <>
          <Role of={hint.entitlement} />: {words.hints.rule(hint.people, hint.draft.ends.length)}{' '}
          <FilterSaid said={hint.filterWords} filter={hint.filter} />
        </>
      );
    case 'IDLE':
      return (
        <>
          <Role of={hint.entitlement} />: {words.hints.idle}{' '}
          {hint.subject.kind === 'group' ? (
            <DeskLink to={`/desk/groups/${hint.subject.id}`}>{hint.subject.name}</DeskLink>
          ) : (
            <code>{hint.subject.name}</code>
          )}{' '}
          {words.hints.idleFor(hint.people)}
        </>
      );
    case 'SAME':
      return (
        <>
          {hint.groups.map((group, index) => (
            <span key={group.id}>
              {index > 0 && ` ${words.hints.and} `}
              <DeskLink to={`/desk/groups/${group.id}`}>
                <b>{group.name}</b>
              </DeskLink>
            </span>
          ))}
          : {words.hints.same(hint.people)}
        </>
      );
  }
}

/** The entitlement that a hint is about, first in its line. */
function Role({ of }: { of: Schemas['EntitlementRef'] }) {
  return (
    <b>
      <DeskLink to={`/desk/entitlements/${of.id}`}>{of.title}</DeskLink>
    </b>
  );
}

/** What a draft that a hint opens is about. */
function titleOf(hint: Hint): string {
  return hint.kind === 'SAME' ? (hint.groups[1]?.name ?? '') : hint.entitlement.title;
}

/**
 * Gathers what a hint offers into the draft that is open, or into one opened for it; its sheet
 * tells what that moves.
 */
async function intoDraft(hint: Hint, open: string | undefined): Promise<string> {
  if (open !== undefined) {
    await gather(hint);
    return open;
  }
  const name = words.hints.draftName(hint.kind, titleOf(hint)).slice(0, LONGEST_DRAFT_NAME);
  const opened = await answer(api.POST('/api/drafts', { body: { name } }));
  gatherInto(opened.result);
  try {
    await gather(hint);
  } catch (error) {
    // What was done of it is nobody's draft; why it failed is told.
    gatherInto(undefined);
    await answer(api.DELETE('/api/drafts/{id}', { params: { path: { id: opened.result } } }));
    throw error;
  }
  return opened.result;
}

async function gather(hint: Hint): Promise<void> {
  const reason = words.hints.reason(hint.kind);
  for (const give of hint.draft.gives) {
    await answer(
      api.POST('/api/entitlements/{id}/grants', {
        params: { path: { id: give.entitlement } },
        body: {
          subjects: [
            give.kind === 'filter'
              ? { kind: 'filter', id: null, filter: give.subject }
              : { kind: give.kind, id: give.subject, filter: null },
          ],
          from: null,
          until: null,
          reason,
        },
      }),
    );
  }
  if (hint.draft.ends.length > 0) {
    await answer(
      api.POST('/api/grants/end', { body: { grants: hint.draft.ends, memberships: [], reason } }),
    );
  }
}

function AsideDialog({ hint, onClose }: { hint: Hint; onClose: () => void }) {
  const [reason, setReason] = useState('');
  const act = useAct(
    () => answer(api.POST('/api/hints/aside', { body: { key: hint.key, reason } })),
    onClose,
  );
  return (
    <ActDialog
      title={words.hints.asideDialog}
      act={words.hints.asideAct}
      disabled={act.isPending}
      error={act.error}
      fields={['reason']}
      onAct={() => act.mutate()}
      onClose={onClose}
    >
      <p>{words.hints.asideHelp}</p>
      <TextField
        id="hint-reason"
        label={words.hints.why}
        value={reason}
        onChange={setReason}
        wrong={act.error instanceof Problem ? act.error.field('reason') : undefined}
      />
    </ActDialog>
  );
}

function ThresholdsDialog({
  now,
  onClose,
}: {
  now: Schemas['ThresholdsForm'];
  onClose: () => void;
}) {
  const [form, setForm] = useState(now);
  const act = useAct(() => answer(api.PUT('/api/hints/thresholds', { body: form })), onClose);
  return (
    <ActDialog
      title={words.hints.thresholds}
      act={words.hints.setThresholds}
      disabled={act.isPending}
      error={act.error}
      fields={['days', 'peers', 'share', 'nearlyAll']}
      onAct={() => act.mutate()}
      onClose={onClose}
    >
      {(['days', 'peers', 'share', 'nearlyAll'] as const).map((name) => (
        <TextField
          key={name}
          id={`threshold-${name}`}
          type="number"
          label={words.hints.fields[name]}
          value={String(form[name])}
          onChange={(text) => setForm({ ...form, [name]: Number(text) })}
          wrong={act.error instanceof Problem ? act.error.field(name) : undefined}
        />
      ))}
    </ActDialog>
  );
}
