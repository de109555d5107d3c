import { useInfiniteQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { useNavigate, useParams } from 'react-router';
import { answer, api } from '../api/client';
import { useWorksWithDrafts } from '../drafts/gathering';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { ChangeLines } from './ChangeLines';

const PAGE = 100;

/** One entry with its changes. */
export function EntryPage() {
  const position = Number(useParams().position);
  const entry = useInfiniteQuery({
    queryKey: ['entry', position],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      answer(
        api.GET('/api/ledger/{position}', {
          params: { path: { position }, query: { offset: pageParam, limit: PAGE } },
        }),
      ),
    getNextPageParam: (last, pages) =>
      pages.length * PAGE < last.entry.changes ? pages.length * PAGE : undefined,
  });
  const works = useWorksWithDrafts();
  const navigate = useNavigate();
  const revert = useAct(
    () =>
      answer(
        api.POST('/api/ledger/{position}/revert', {
          params: { path: { position } },
          body: { name: words.drafts.revertName(words.ledger.entry(position)) },
        }),
      ),
    (receipt) => navigate(`/desk/drafts/${receipt.result}`),
  );
  const first = entry.data?.pages[0];
  if (entry.error) {
    return <Failure error={entry.error} again={() => entry.refetch()} />;
  }
  if (first === undefined) {
    return <Loading what={words.ledger.entry(position)} lines={10} />;
  }
  const line = first.entry;
  const changes = entry.data?.pages.flatMap((page) => page.changes) ?? [];
  return (
    <>
      <header>
        <PageHeading>{words.ledger.entry(position)}</PageHeading>
        <DeskLink to="/desk/ledger">{words.ledger.title}</DeskLink>
        <span className="grow" />
        {works && line.changes > 0 && (
          <Button
            variant="outline-primary"
            title={words.drafts.revertHelp}
            disabled={revert.isPending}
            onClick={() => revert.mutate()}
          >
            {words.drafts.revert}
          </Button>
        )}
      </header>
      <ProblemNote error={revert.error} />
      <section className="part room-below-more">
        <dl className="pair">
          <dt>{words.ledger.when}</dt>
          <dd>
            {tellTime(line.instant)} <span className="mono dim">{line.instant}</span>
          </dd>
          <dt>{words.ledger.who}</dt>
          <dd>{words.ledger.actors[line.actorName] ?? line.actorName}</dd>
          <dt>{words.ledger.act}</dt>
          <dd>{words.ledger.acts[line.act]}</dd>
          {line.reason !== null && (
            <>
              <dt>{words.ledger.why}</dt>
              <dd>{line.reason === '' ? words.ledger.erased : line.reason}</dd>
            </>
          )}
          {Object.entries(line.details).map(([name, value]) => (
            <div key={name} className="contents">
              <dt>{words.ledger.detailNames[name] ?? name}</dt>
              <dd className="mono">
                {name === 'draft' ? (
                  <DeskLink to={`/desk/drafts/${value}`}>{words.drafts.theDraft}</DeskLink>
                ) : (
                  value
                )}
              </dd>
            </div>
          ))}
          <dt>{words.ledger.hash}</dt>
          <dd className="mono">{line.hash}</dd>
          <dt>{words.ledger.previous}</dt>
          <dd className="mono">{line.previous}</dd>
        </dl>
      </section>
      <section className="part" aria-labelledby="entry-changes">
        <h2 id="entry-changes">{words.ledger.changes}</h2>
        {line.changes === 0 ? (
          <p className="dim">{words.ledger.noChanges}</p>
        ) : (
          <>
            <p className="dim small">{words.ledger.showing(changes.length, line.changes)}</p>
            <ChangeLines changes={changes} at={line.instant} />
            {entry.hasNextPage && (
              <Button
                variant="outline-primary"
                disabled={entry.isFetchingNextPage}
                onClick={() => entry.fetchNextPage()}
              >
                {words.deliveries.more}
              </Button>
            )}
          </>
        )}
      </section>
    </>
  );
}
