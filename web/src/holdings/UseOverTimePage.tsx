import { useQuery } from '@tanstack/react-query';
import { answer, api, Problem, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { Bars } from '../shell/Bars';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Failure, Loading } from '../shell/states';
import { Table } from '../shell/Table';
import { tellShortDay, tellTime } from '../shell/times';
import { words } from '../words/en';
import { HoldingsTabs } from './HoldingsTabs';

/** Sign-ins and openings over two years; nobody is named here. */
export function UseOverTimePage() {
  const use = useQuery({
    queryKey: ['use-over-time'],
    queryFn: () => answer(api.GET('/api/use')),
  });
  return (
    <>
      <HoldingsTabs />
      <header>
        <PageHeading>{words.used.title}</PageHeading>
        {use.data !== undefined && (
          <span className="dim">
            {words.used.weeks(
              use.data.weeks.length,
              tellShortDay(use.data.weeks[0] ?? ''),
              tellShortDay(use.data.weeks.at(-1) ?? ''),
            )}
          </span>
        )}
      </header>
      {use.error && <Failure error={use.error} again={() => use.refetch()} />}
      {use.isPending && <Loading what={words.used.title} lines={12} />}
      {use.data !== undefined && <Whole use={use.data} />}
    </>
  );
}

function Whole({ use }: { use: Schemas['UseOverTime'] }) {
  return (
    <div className="split wide">
      <div className="column">
        {use.signIns.length > 0 && (
          <section className="part two-charts" aria-label={words.used.signIns}>
            <div>
              <h2>{words.used.signIns}</h2>
              <Bars values={use.signIns} label={words.used.told(words.used.signIns, use.signIns)} />
              <p className="small dim">{words.used.peak(...peak(use.signIns, use.weeks))}</p>
            </div>
            <div>
              <h2>{words.used.failures}</h2>
              <Bars
                values={use.failures}
                label={words.used.told(words.used.failures, use.failures)}
              />
              <p className="small dim">{words.used.peak(...peak(use.failures, use.weeks))}</p>
            </div>
          </section>
        )}
        <section className="part" aria-label={words.used.apps}>
          <h2>{words.used.apps}</h2>
          <Table className="use">
            <caption className="visually-hidden">{words.used.apps}</caption>
            <thead>
              <tr>
                <th scope="col">{words.used.app}</th>
                <th scope="col">{words.used.openings}</th>
                <th scope="col" className="num">
                  {words.used.lastWeeks}
                </th>
                <th scope="col" className="num">
                  {words.used.aYearAgo}
                </th>
                <th scope="col" className="num">
                  {words.used.holders}
                </th>
              </tr>
            </thead>
            <tbody>
              {use.apps.map((one) => (
                <tr key={one.app.id}>
                  <th scope="row">
                    <span className="pictured">
                      <Picture name={one.app.picture} hue={one.app.hue} size={22} />
                      <DeskLink to={`/desk/apps/${one.app.id}`}>{one.app.name}</DeskLink>
                    </span>
                  </th>
                  <td>
                    <Bars
                      values={one.openings}
                      label={words.used.told(one.app.name, one.openings)}
                    />
                  </td>
                  <td className="num mono">{words.count(sum(one.openings.slice(-5, -1)))}</td>
                  <td className="num mono">{words.count(sum(one.openings.slice(-57, -53)))}</td>
                  <td className="num mono">{words.count(one.holders)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </section>
      </div>
      <aside className="margin" aria-label={words.used.about}>
        <h2>{words.used.about}</h2>
        <p className="small">{words.used.aboutHelp(use.keptDays)}</p>
        <p className="small">{words.used.personHelp}</p>
      </aside>
    </div>
  );
}

function sum(values: number[]): number {
  return values.reduce((all, one) => all + one, 0);
}

function peak(values: number[], weeks: string[]): [number, string, number] {
  const most = Math.max(...values);
  return [most, tellShortDay(weeks[values.indexOf(most)] ?? ''), values.at(-2) ?? 0];
}

/** When one person signed in and what they opened, for whoever may see that. */
export function PersonUse({ id }: { id: string }) {
  const use = useQuery({
    queryKey: ['person-use', id],
    queryFn: () => answer(api.GET('/api/people/{id}/use', { params: { path: { id } } })),
    retry: false,
  });
  if (use.error instanceof Problem && use.error.view.status === 404) {
    return null;
  }
  if (use.error) {
    return <Failure error={use.error} again={() => use.refetch()} />;
  }
  if (use.data === undefined) {
    return <Loading what={words.used.ofPerson} lines={4} />;
  }
  const { data } = use;
  return (
    <section className="part" aria-labelledby="person-use">
      <h2 id="person-use">{words.used.ofPerson}</h2>
      <div className="two-charts">
        <div>
          <h3>{words.used.signIns}</h3>
          <Bars values={data.signIns} label={words.used.told(words.used.signIns, data.signIns)} />
          <p className="small">
            {data.lastSignIn === null
              ? words.used.never
              : words.used.lastSignIn(tellTime(data.lastSignIn))}
            {data.failed.length > 0 && (
              <>
                {' '}
                {words.used.failedTimes(sum(data.failures))}{' '}
                <span className="dim">
                  {words.used.lastFailed(
                    tellTime(data.failed[0]?.at ?? ''),
                    data.failed[0]?.address ?? '',
                  )}
                </span>
              </>
            )}
          </p>
        </div>
        <Table className="use">
          <caption className="visually-hidden">{words.used.openings}</caption>
          <tbody>
            {data.tiles.map((one) => (
              <tr key={one.tile}>
                <th scope="row">{one.name}</th>
                <td>
                  <Bars values={one.openings} label={words.used.told(one.name, one.openings)} />
                </td>
                <td className="nowrap small">{tellTime(one.last)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </section>
  );
}
