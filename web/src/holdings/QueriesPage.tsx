import { useQuery } from '@tanstack/react-query';
import { answer, api, type Schemas } from '../api/client';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Failure, Loading } from '../shell/states';
import { tellDay } from '../shell/times';
import { words } from '../words/en';
import { HoldingsTabs } from './HoldingsTabs';

/** Queries that are ready, one's own, and those that others share. */
export function QueriesPage() {
  const queries = useQuery({
    queryKey: ['queries'],
    queryFn: () => answer(api.GET('/api/queries')),
  });
  return (
    <>
      <HoldingsTabs />
      <header>
        <PageHeading>{words.queries.title}</PageHeading>
        <span className="grow" />
        <DeskLink className="btn btn-outline-primary" to="/desk/reports">
          {words.queries.check}
        </DeskLink>
        <DeskLink className="btn btn-primary" to="/desk/queries/new">
          {words.queries.ask}
        </DeskLink>
      </header>
      {queries.error && <Failure error={queries.error} again={() => queries.refetch()} />}
      {queries.isPending && <Loading what={words.queries.title} />}
      {queries.data !== undefined && (
        <div className="queries">
          <List title={words.queries.ready} queries={queries.data.ready} />
          <List
            title={words.queries.mine}
            queries={queries.data.mine}
            none={words.queries.noneOfMine}
          />
          {queries.data.shared.length > 0 && (
            <List title={words.queries.shared} queries={queries.data.shared} />
          )}
        </div>
      )}
    </>
  );
}

function List({
  title,
  queries,
  none,
}: {
  title: string;
  queries: Schemas['QueryView'][];
  none?: string;
}) {
  return (
    <section className="part" aria-label={title}>
      <h2>{title}</h2>
      {queries.length === 0 && <p className="dim">{none}</p>}
      <ul className="plain">
        {queries.map((one) => (
          <li key={one.id}>
            <DeskLink to={`/desk/queries/${one.id}`}>
              <b>{one.name}</b>
            </DeskLink>
            {one.owner !== null && !one.mine && (
              <span className="dim small"> {words.access.by(one.owner.displayed)}</span>
            )}
            {one.mine && one.shared && <span className="tag">{words.queries.isShared}</span>}
            {one.next !== null && (
              <span className="dim small"> {words.queries.next(tellDay(one.next))}</span>
            )}
            {one.why !== '' && <div className="small">{one.why}</div>}
          </li>
        ))}
      </ul>
    </section>
  );
}
