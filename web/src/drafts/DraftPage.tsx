import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { answer, api, type Schemas } from '../api/client';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';
import { ActDialog } from './ActDialog';
import { Edits } from './Edits';
import { PublishForm } from './PublishForm';
import { Sheet } from './Sheet';

type Draft = Schemas['DraftView'];

/** A draft: its edits at the left, and beside them what exactly they would do. */
export function DraftPage({ id: given }: { id?: string }) {
  const parameter = useParams().id;
  const id = given ?? parameter ?? '';
  const { signed } = useSession();
  const [parameters, setParameters] = useSearchParams();
  const [seen, setSeen] = useState<string>();
  const draft = useQuery({
    queryKey: ['drafts', id],
    queryFn: () => answer(api.GET('/api/drafts/{id}', { params: { path: { id } } })),
  });
  const over = draft.data?.draft.stage === 'published' || draft.data?.draft.stage === 'dropped';
  const consequences = useQuery({
    queryKey: ['drafts', id, 'consequences', draft.data?.version, seen],
    queryFn: () =>
      answer(
        api.GET('/api/drafts/{id}/consequences', {
          params: { path: { id }, query: { seen } },
        }),
      ),
    enabled: draft.data !== undefined && !over,
  });
  const undo = useAct((seq: number) =>
    answer(api.DELETE('/api/drafts/{id}/edits/{seq}', { params: { path: { id, seq } } })),
  );
  if (draft.error) {
    return <Failure error={draft.error} again={() => draft.refetch()} />;
  }
  if (draft.data === undefined) {
    return <Loading what={words.drafts.one} lines={10} />;
  }
  const view = draft.data;
  const waits =
    view.draft.stage === 'waiting' &&
    view.plan !== null &&
    view.plan.publisher.id !== signed.person;
  return (
    <div className="draft">
      <section className="side" aria-label={words.drafts.edits(view.edits.length)}>
        <Head view={view} />
        {view.heldWhy !== null && (
          <div className="note wait">
            <b>{words.drafts.held}</b> {view.heldWhy}
          </div>
        )}
        <ProblemNote error={undo.error} />
        {view.edits.length === 0 ? (
          <p className="dim">{words.drafts.emptyHelp}</p>
        ) : (
          <Edits edits={view.edits} editable={view.editable} onUndo={(seq) => undo.mutate(seq)} />
        )}
        {view.clashing.map((other) => (
          <div key={other.holder.id + other.name} className="note wait small">
            {words.drafts.clashWith(
              other.holder.displayed,
              other.edits.map((seq) => words.drafts.edit(seq)).join(', '),
            )}{' '}
            {other.id !== null && <Link to={`/desk/drafts/${other.id}`}>{other.name}</Link>}
          </div>
        ))}
        {(view.editable || waits) && (
          <PublishForm
            key={view.draft.stage}
            draft={view}
            view={consequences.data}
            waits={waits}
            onGrown={setSeen}
          />
        )}
        {!view.editable && <Stage view={view} waits={waits} />}
        <Comments view={view} />
      </section>
      <div>
        {view.reverts !== null && <PutsBack reverts={view.reverts} />}
        {over ? (
          <Over view={view} />
        ) : consequences.error ? (
          <Failure error={consequences.error} again={() => consequences.refetch()} />
        ) : consequences.data === undefined ? (
          <Loading what={words.drafts.consequences} lines={10} />
        ) : (
          <>
            {consequences.data.grown && (
              <div className="note wait" role="alert">
                {words.drafts.grownNote}
              </div>
            )}
            <Sheet
              draft={id}
              view={consequences.data}
              at={Math.min(
                Number(parameters.get('moment') ?? 0),
                Math.max(0, consequences.data.moments.length - 1),
              )}
              onMoment={(index) =>
                setParameters(index === 0 ? {} : { moment: String(index) }, { replace: true })
              }
            />
            <p className="dim small">{words.drafts.revertHelp}</p>
          </>
        )}
      </div>
    </div>
  );
}

function Head({ view }: { view: Draft }) {
  const { draft } = view;
  const navigate = useNavigate();
  const [naming, setNaming] = useState(false);
  const [dropping, setDropping] = useState(false);
  const gather = useAct((gathers: boolean) =>
    answer(
      api.PUT('/api/drafts/{id}/gathers', {
        params: { path: { id: draft.id } },
        body: { gathers },
      }),
    ),
  );
  const take = useAct(() =>
    answer(api.POST('/api/drafts/{id}/holder', { params: { path: { id: draft.id } } })),
  );
  const drop = useAct(
    () => answer(api.DELETE('/api/drafts/{id}', { params: { path: { id: draft.id } } })),
    () => navigate('/desk/drafts'),
  );
  return (
    <header className="draft-head">
      <div className="dim small">
        {words.drafts.openedBy(view.openedBy.displayed, tellTime(draft.openedAt))}
        {draft.holder.id !== view.openedBy.id &&
          ` · ${words.drafts.heldBy(draft.holder.displayed)}`}
        {draft.shared && ` · ${words.drafts.shared}`}
      </div>
      <PageHeading>{draft.name}</PageHeading>
      <div className="bar">
        {view.editable && !view.gathers && (
          <Button size="sm" variant="outline-primary" onClick={() => gather.mutate(true)}>
            {words.drafts.goOn}
          </Button>
        )}
        {draft.mine && draft.stage !== 'published' && draft.stage !== 'dropped' && (
          <Button size="sm" variant="link" onClick={() => setNaming(true)}>
            {words.drafts.nameAndShare}
          </Button>
        )}
        {view.editable && (
          <Button size="sm" variant="link" onClick={() => setDropping(true)}>
            {words.drafts.drop}
          </Button>
        )}
        {!draft.mine && (draft.stage === 'open' || draft.stage === 'held') && (
          <Button size="sm" variant="outline-primary" onClick={() => take.mutate()}>
            {words.drafts.takeOver}
          </Button>
        )}
      </div>
      <ProblemNote error={gather.error ?? take.error} />
      {naming && <NameAndShare view={view} onClose={() => setNaming(false)} />}
      {dropping && (
        <ActDialog
          danger
          title={words.drafts.dropTitle(draft.name)}
          act={words.drafts.dropAct(draft.edits)}
          error={drop.error}
          disabled={drop.isPending}
          onAct={() => drop.mutate()}
          onClose={() => setDropping(false)}
        >
          <p>{words.drafts.dropHelp}</p>
        </ActDialog>
      )}
    </header>
  );
}

function NameAndShare({ view, onClose }: { view: Draft; onClose: () => void }) {
  const { draft } = view;
  const [name, setName] = useState(draft.name);
  const [shared, setShared] = useState(draft.shared);
  const save = useAct(
    () =>
      answer(
        api.PUT('/api/drafts/{id}', {
          params: { path: { id: draft.id } },
          body: { name, shared },
        }),
      ),
    onClose,
  );
  return (
    <ActDialog
      title={words.drafts.nameAndShare}
      act={words.drafts.keepName}
      error={save.error}
      disabled={name.trim() === '' || save.isPending}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <TextField
        id="draft-rename"
        label={words.drafts.name}
        maxLength={80}
        value={name}
        onChange={setName}
      />
      <Form.Check
        id="draft-shared"
        label={words.drafts.shareHelp}
        checked={shared}
        onChange={(event) => setShared(event.target.checked)}
      />
    </ActDialog>
  );
}

/** Where a draft stands that cannot be changed as it is, and what can be done about that. */
function Stage({ view, waits }: { view: Draft; waits: boolean }) {
  const { draft, plan } = view;
  const { signed } = useSession();
  const navigate = useNavigate();
  const [note, setNote] = useState('');
  const reopen = useAct(() =>
    answer(
      api.POST('/api/drafts/{id}/reopen', {
        params: { path: { id: draft.id } },
        body: { text: note },
      }),
    ),
  );
  const back = useAct(
    () =>
      answer(
        api.POST('/api/drafts/{id}/revert', {
          params: { path: { id: draft.id } },
          body: { name: words.drafts.revertName(draft.name) },
        }),
      ),
    ({ result }) => navigate(`/desk/drafts/${result}`),
  );
  const mine = draft.mine || plan?.publisher.id === signed.person;
  return (
    <section aria-label={words.drafts.stage}>
      <div className="note">
        <b>{words.drafts.stages[draft.stage]}</b>
        {plan?.at != null && ` ${tellTime(plan.at)}`}
        {plan !== null && (
          <div className="small">
            {words.drafts.by(plan.publisher.displayed)}: {plan.reason}
          </div>
        )}
        {plan?.revertAt != null && (
          <div className="small">{words.drafts.revertsOn(tellTime(plan.revertAt))}</div>
        )}
        {view.publishedAt !== null && (
          <div className="small">
            <Link to={`/desk/ledger/${view.publishedAt}`}>
              {words.ledger.entry(view.publishedAt)}
            </Link>
          </div>
        )}
      </div>
      {waits && (
        <TextField
          id="no-reason"
          as="textarea"
          rows={2}
          maxLength={500}
          label={words.drafts.noWhy}
          value={note}
          onChange={setNote}
        />
      )}
      <div className="bar">
        {(waits || (mine && (draft.stage === 'waiting' || draft.stage === 'scheduled'))) && (
          <Button
            variant={waits ? 'outline-danger' : 'outline-primary'}
            disabled={reopen.isPending || (waits && note.trim() === '')}
            onClick={() => reopen.mutate()}
          >
            {waits ? words.drafts.no : words.drafts.takeBack}
          </Button>
        )}
        {draft.stage === 'published' && (
          <Button variant="outline-primary" disabled={back.isPending} onClick={() => back.mutate()}>
            {words.drafts.revert}
          </Button>
        )}
      </div>
      <ProblemNote error={reopen.error ?? back.error} />
    </section>
  );
}

function Comments({ view }: { view: Draft }) {
  const { typed, sent } = useTyped(`comment ${view.draft.id}`);
  const [text, setText] = typed('text', '');
  const say = useAct(
    () =>
      answer(
        api.POST('/api/drafts/{id}/comments', {
          params: { path: { id: view.draft.id } },
          body: { text },
        }),
      ),
    sent,
  );
  return (
    <section aria-labelledby="comments" className="comments">
      <h2 id="comments">{words.drafts.comments}</h2>
      <ul className="plain small">
        {view.comments.map((comment) => (
          <li key={comment.at + comment.text}>
            <b>{comment.author}</b> <span className="dim">{tellTime(comment.at)}</span>
            <div>{comment.text}</div>
          </li>
        ))}
      </ul>
      <form
        className="bar"
        onSubmit={(event) => {
          event.preventDefault();
          say.mutate();
        }}
      >
        <Form.Control
          aria-label={words.drafts.comment}
          placeholder={words.drafts.comment}
          maxLength={500}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button
          type="submit"
          size="sm"
          variant="outline-primary"
          disabled={text.trim() === '' || say.isPending}
        >
          {words.drafts.say}
        </Button>
      </form>
      <ProblemNote error={say.error} />
    </section>
  );
}

/** What a draft that puts something back does of it, and what it cannot. */
function PutsBack({ reverts }: { reverts: Schemas['RevertView'] }) {
  // What stands again as it was needs nothing, and is no failure.
  const same = reverts.lines
    .filter((line) => line.fate === 'already_so')
    .reduce((sum, line) => sum + line.count, 0);
  const left = reverts.lines.filter(
    (line) => line.fate !== 'applies' && line.fate !== 'already_so',
  );
  return (
    <section className="part" aria-labelledby="puts-back">
      <h2 id="puts-back">
        {words.drafts.reverts}{' '}
        <Link to={`/desk/ledger/${reverts.position}`}>{words.ledger.entry(reverts.position)}</Link>
      </h2>
      <p className="small">
        {words.drafts.since(reverts.since)}{' '}
        {left.length === 0 ? words.drafts.allBack : words.drafts.notBack}
        {same > 0 && ` ${words.drafts.backAlready(same)}`}
      </p>
      {left.length > 0 && (
        <ul className="plain small">
          {left.map((line) => (
            <li key={line.kind + line.subject + line.fate}>
              <span className="tag wait">{words.drafts.backFates[line.fate]}</span>{' '}
              {[words.ledger.kinds[line.kind], line.subject]
                .filter((part) => part !== '')
                .join(' · ')}
              {line.count > 1 && ` (${words.count(line.count)})`}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What is over shows what it was; its consequences have become what is so. */
function Over({ view }: { view: Draft }) {
  return (
    <section className="part">
      <h2>{words.drafts.overTitle[view.draft.stage]}</h2>
      <p>
        {view.publishedAt === null ? (
          words.drafts.droppedHelp
        ) : (
          <Link to={`/desk/ledger/${view.publishedAt}`}>{words.drafts.inLedger}</Link>
        )}
      </p>
    </section>
  );
}
