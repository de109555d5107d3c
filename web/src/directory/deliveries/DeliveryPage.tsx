import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useNavigate, useParams } from 'react-router';
import { answer, api, repeatKey, type Schemas } from '../../api/client';
import { Foreseen, useForesight } from '../../drafts/foresight';
import { DeskLink } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { Failure, Loading, ProblemNote } from '../../shell/states';
import { Table } from '../../shell/Table';
import { TextField } from '../../shell/TextField';
import { words } from '../../words/en';
import { DirectoryTabs } from '../Tabs';

type Delivery = Schemas['DeliveryView'];
type Preview = Schemas['PreviewView'];

const PAGE = 100;
const VERDICTS = ['added', 'changed', 'ended', 'bad', 'same'] as const;
type Verdict = (typeof VERDICTS)[number];

/** A dropped file: what its columns are, what it does, and the button that does it. */
export function DeliveryPage() {
  const id = useParams().id ?? '';
  const delivery = useQuery({
    queryKey: ['delivery', id],
    queryFn: () => answer(api.GET('/api/deliveries/{id}', { params: { path: { id } } })),
  });
  return (
    <>
      <DirectoryTabs />
      {delivery.error ? (
        <Failure error={delivery.error} again={() => delivery.refetch()} />
      ) : delivery.data === undefined ? (
        <Loading what={words.deliveries.title} lines={10} />
      ) : (
        <>
          <header>
            <PageHeading>{delivery.data.fileName}</PageHeading>
            <span className="dim">
              {words.deliveries.rows(delivery.data.rows)}{' '}
              {words.people.from(delivery.data.sourceName)}
            </span>
          </header>
          {delivery.data.position === null ? (
            <Open delivery={delivery.data} />
          ) : (
            <Done position={delivery.data.position} />
          )}
        </>
      )}
    </>
  );
}

function Done({ position }: { position: number }) {
  return (
    <div className="note calm" role="status">
      {words.deliveries.done(position)}{' '}
      <DeskLink to={`/desk/ledger/${position}`}>{words.people.entry(position)}</DeskLink>{' '}
      <DeskLink to="/desk/people">{words.shell.people}</DeskLink>
    </div>
  );
}

function Open({ delivery }: { delivery: Delivery }) {
  const queries = useQueryClient();
  const match = useMutation({
    mutationFn: (wanted: { columns: Record<string, string>; scope: string }) =>
      answer(
        api.PUT('/api/deliveries/{id}', { params: { path: { id: delivery.id } }, body: wanted }),
      ),
    onSuccess: (changed) => queries.setQueryData(['delivery', delivery.id], changed),
  });
  const columns = Object.fromEntries(delivery.columns.map((one) => [one.heading, one.target]));
  const known = !delivery.newSource;
  return (
    <>
      <details className="sheet room-below-more" open={!known}>
        <summary>
          <b>{words.deliveries.match}</b>{' '}
          <span className="dim small">{words.deliveries.matchHelp}</span>
        </summary>
        <div className="scroll">
          <Table className="room-above">
            <thead>
              <tr>
                <th scope="col">{words.deliveries.heading}</th>
                <th scope="col">{words.deliveries.first}</th>
                <th scope="col">{words.deliveries.is}</th>
              </tr>
            </thead>
            <tbody>
              {delivery.columns.map((column) => (
                <tr key={column.heading}>
                  <th scope="row" className="mono">
                    {column.heading}
                  </th>
                  <td className="dim">{column.sample.join(', ')}</td>
                  <td>
                    <Form.Select
                      size="sm"
                      aria-label={`${words.deliveries.is}: ${column.heading}`}
                      value={column.target}
                      onChange={(event) =>
                        match.mutate({
                          columns: { ...columns, [column.heading]: event.target.value },
                          scope: delivery.scope,
                        })
                      }
                    >
                      {delivery.targets.map((target) => (
                        <option key={target.target} value={target.target}>
                          {target.label}
                        </option>
                      ))}
                    </Form.Select>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      </details>
      <fieldset className="sheet room-below-more">
        <legend>{words.deliveries.scope}</legend>
        {(['these_rows', 'all'] as const).map((scope) => (
          <Form.Check
            key={scope}
            type="radio"
            name="scope"
            id={`scope-${scope}`}
            label={
              scope === 'all'
                ? words.deliveries.scopeAll(delivery.sourceName)
                : words.deliveries.scopeRows
            }
            checked={delivery.scope === scope}
            onChange={() => match.mutate({ columns, scope })}
          />
        ))}
      </fieldset>
      <ProblemNote error={match.error} />
      <PreviewPart delivery={delivery} />
    </>
  );
}

function PreviewPart({ delivery }: { delivery: Delivery }) {
  const [verdict, setVerdict] = useState<Verdict>();
  const columns = JSON.stringify(delivery.columns.map((one) => one.target));
  const shown = verdict ?? 'added';
  const preview = useInfiniteQuery({
    queryKey: ['preview', delivery.id, delivery.scope, columns, shown],
    initialPageParam: 0,
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) =>
      answer(
        api.GET('/api/deliveries/{id}/preview', {
          params: {
            path: { id: delivery.id },
            query: { verdict: shown, offset: pageParam, limit: PAGE },
          },
        }),
      ),
    getNextPageParam: (last, pages) =>
      pages.length * PAGE < last.total ? pages.length * PAGE : undefined,
  });
  if (preview.error) {
    return <Failure error={preview.error} again={() => preview.refetch()} />;
  }
  const first = preview.data?.pages[0];
  if (first === undefined) {
    return <Loading what={words.deliveries.preview} lines={8} />;
  }
  if (first.problems.length > 0) {
    return (
      <div className="note loss" role="alert">
        {first.problems.map((problem) => (
          <div key={problem}>{problem}</div>
        ))}
      </div>
    );
  }
  const lines = preview.data?.pages.flatMap((page) => page.lines) ?? [];
  const tones: Record<Verdict, string> = {
    added: 'gain',
    changed: '',
    ended: 'loss',
    bad: 'loss',
    same: '',
  };
  return (
    <section aria-labelledby="preview">
      <h2 id="preview">{words.deliveries.preview}</h2>
      <div className="figures">
        {VERDICTS.map((one) => (
          <button
            key={one}
            type="button"
            className={first[one] === 0 ? '' : tones[one]}
            aria-pressed={one === shown}
            onClick={() => setVerdict(one)}
          >
            <b>
              {one === 'added' && first.added > 0 && '+'}
              {one === 'ended' && first.ended > 0 && '−'}
              {words.count(first[one])}
            </b>{' '}
            <span>{words.deliveries.verdicts[one]}</span>
          </button>
        ))}
      </div>
      {lines.length === 0 ? (
        <p className="dim">{words.deliveries.noLines}</p>
      ) : (
        <section
          className="scroll half-high"
          aria-label={words.deliveries.verdicts[shown]}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it is scrolled by the arrows
          tabIndex={0}
        >
          <Table aria-label={words.deliveries.verdicts[shown]}>
            <thead>
              <tr>
                {shown !== 'ended' && (
                  <th scope="col" className="num">
                    {words.deliveries.line}
                  </th>
                )}
                <th scope="col">{words.deliveries.key}</th>
                <th scope="col">{words.deliveries.who}</th>
                <th scope="col">{words.deliveries.what}</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line) => (
                <tr key={`${line.line ?? ''}${line.key}${line.label}`}>
                  {shown !== 'ended' && <td className="num">{line.line}</td>}
                  <td className="mono">{line.key}</td>
                  <td>{line.label}</td>
                  <td>
                    <What line={line} added={shown === 'added'} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          {preview.hasNextPage && (
            <div className="bar room-above">
              <Button variant="outline-primary" onClick={() => preview.fetchNextPage()}>
                {words.deliveries.more}
              </Button>
              <span className="dim">{words.deliveries.showing(lines.length, first.total)}</span>
            </div>
          )}
        </section>
      )}
      <HoldingsMoved delivery={delivery} preview={first} />
      <BringIn delivery={delivery} preview={first} />
    </section>
  );
}

function What({ line, added }: { line: Schemas['LineView']; added: boolean }) {
  if (line.wrong.length > 0) {
    return (
      <ul className="plain">
        {line.wrong.map((wrong) => (
          <li key={wrong}>{wrong}</li>
        ))}
      </ul>
    );
  }
  if (added) {
    return (
      <span>
        {line.differences
          .filter((difference) => difference.what !== 'Name')
          .map((difference) => difference.after)
          .join(' · ')}
      </span>
    );
  }
  return (
    <ul className="plain">
      {line.differences.map((difference) => (
        <li key={difference.what}>
          <span className="dim">{difference.what}: </span>
          <span className="before">{difference.before ?? words.deliveries.nothing}</span>
          <span aria-hidden> → </span>
          <span className="visually-hidden">{words.deliveries.to}</span>
          <span className="after">{difference.after ?? words.deliveries.nothing}</span>
        </li>
      ))}
    </ul>
  );
}

/** Whose holdings the file would move: the sheet of a draft, for what the file changes. */
function HoldingsMoved({ delivery, preview }: { delivery: Delivery; preview: Preview }) {
  const foresight = useForesight(
    ['bring-in', delivery.id, preview.digest],
    (manner) =>
      answer(
        api.POST('/api/deliveries/{id}/import', {
          params: { path: { id: delivery.id } },
          headers: manner,
          body: {
            digest: preview.digest,
            endings: null,
            leaveOutBad: true,
            invite: false,
            reason: null,
          },
        }),
      ),
    preview.added + preview.changed + preview.ended > 0,
  );
  return foresight.asked ? (
    <>
      <h2 className="room-above-more">{words.deliveries.holdings}</h2>
      <Foreseen of={foresight} />
    </>
  ) : null;
}

function BringIn({ delivery, preview }: { delivery: Delivery; preview: Preview }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [leaveOut, setLeaveOut] = useState(false);
  const [invite, setInvite] = useState(true);
  const [endings, setEndings] = useState('');
  const [reason, setReason] = useState('');
  const [key] = useState(repeatKey);
  const bringIn = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/deliveries/{id}/import', {
          params: { path: { id: delivery.id }, header: { 'Idempotency-Key': key } },
          body: {
            digest: preview.digest,
            endings: endings === '' ? null : Number(endings),
            leaveOutBad: leaveOut,
            invite,
            reason,
          },
        }),
      ),
    onSuccess: () => queries.invalidateQueries(),
    onError: () => queries.invalidateQueries({ queryKey: ['preview', delivery.id] }),
  });
  const forget = useMutation({
    mutationFn: () =>
      answer(api.DELETE('/api/deliveries/{id}', { params: { path: { id: delivery.id } } })),
    onSuccess: () => navigate('/desk/deliveries'),
  });
  const nothing = preview.added + preview.changed + preview.ended === 0;
  const ready =
    !nothing &&
    (preview.bad === 0 || leaveOut) &&
    (!preview.endsMany || endings === String(preview.ended));
  return (
    <Form
      className="sheet at-hand bar"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) {
          bringIn.mutate();
        }
      }}
    >
      {nothing && <p>{words.deliveries.nothingToDo}</p>}
      {preview.bad > 0 && (
        <Form.Check
          id="leave-out"
          label={words.deliveries.leaveOut(preview.bad)}
          checked={leaveOut}
          onChange={(event) => setLeaveOut(event.target.checked)}
        />
      )}
      {preview.added > 0 && !delivery.columns.some((column) => column.target === 'group') && (
        <Form.Check
          id="invite"
          label={words.deliveries.invite(preview.added)}
          checked={invite}
          onChange={(event) => setInvite(event.target.checked)}
        />
      )}
      {preview.endsMany && (
        <TextField
          id="endings"
          label={words.deliveries.typeEndings(preview.ended, preview.known)}
          inputMode="numeric"
          className="narrow"
          value={endings}
          onChange={(value) => setEndings(value.trim())}
        />
      )}
      <Form.Control
        className="grow at-least"
        aria-label={words.deliveries.why}
        placeholder={words.deliveries.why}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <ProblemNote error={bringIn.error ?? forget.error} />
      <div className="bar flush to-end">
        <Button type="submit" disabled={!ready || bringIn.isPending}>
          {words.deliveries.importAct(preview.added, preview.changed, preview.ended)}
        </Button>
        <Button variant="outline-primary" onClick={() => forget.mutate()}>
          {words.deliveries.forget}
        </Button>
        <span role="status">{bringIn.isPending && words.deliveries.busy}</span>
      </div>
    </Form>
  );
}
