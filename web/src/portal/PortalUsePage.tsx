import { useQuery } from '@tanstack/react-query';
import { answer, api, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { Bars } from '../shell/Bars';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading } from '../shell/states';
import { Table } from '../shell/Table';
import { tellShortDay } from '../shell/times';
import { words } from '../words/en';
import { PortalTabs } from './PortalTabs';

/** What is opened over the weeks, what nobody opens, and what is looked for in vain. */
export function PortalUsePage() {
  const use = useQuery({
    queryKey: ['use'],
    queryFn: () => answer(api.GET('/api/portal/use')),
  });
  return (
    <>
      <PortalTabs />
      <header>
        <PageHeading>{words.use.title}</PageHeading>
      </header>
      {use.error ? (
        <Failure error={use.error} again={() => use.refetch()} />
      ) : use.data === undefined ? (
        <Loading what={words.use.title} lines={12} />
      ) : (
        <Told use={use.data} />
      )}
    </>
  );
}

function total(openings: number[]): number {
  return openings.reduce((sum, one) => sum + one, 0);
}

function Told({ use }: { use: Schemas['UseView'] }) {
  const tiles = use.tiles
    .map((tile) => ({ ...tile, sum: total(tile.openings) }))
    .sort((one, other) => other.sum - one.sum);
  const opened = tiles.filter((tile) => tile.sum > 0);
  const unopened = tiles.filter((tile) => tile.sum === 0);
  return (
    <div className="split">
      <div className="column">
        <section className="part" aria-labelledby="use-collections">
          <h2 id="use-collections">{words.use.collections}</h2>
          <p className="small dim">{words.use.collectionsHelp}</p>
          <Table className="use">
            <caption className="visually-hidden">{words.use.collections}</caption>
            <Head weeks={use.weeks} />
            <tbody>
              {use.collections.map((one) => (
                <tr key={one.id}>
                  <th scope="row">
                    <DeskLink to={`/desk/portal?collection=${one.id}`}>{one.name}</DeskLink>
                  </th>
                  <Weeks openings={one.openings} weeks={use.weeks} />
                </tr>
              ))}
            </tbody>
          </Table>
        </section>
        <section className="part" aria-labelledby="use-tiles">
          <h2 id="use-tiles">{words.use.tiles}</h2>
          <Table className="use">
            <caption className="visually-hidden">{words.use.tiles}</caption>
            <Head weeks={use.weeks} />
            <tbody>
              {opened.map((tile) => (
                <tr key={tile.id}>
                  <th scope="row">
                    <span className="pictured">
                      <Picture name={tile.picture} hue={tile.hue} size={22} />
                      <DeskLink to={`/desk/portal?tile=${tile.id}`}>{tile.name}</DeskLink>
                    </span>
                  </th>
                  <Weeks openings={tile.openings} weeks={use.weeks} />
                </tr>
              ))}
            </tbody>
          </Table>
          {opened.length === 0 && <Empty title={words.use.nothing} />}
        </section>
      </div>
      <aside className="margin" aria-label={words.use.hints}>
        <h2>{words.use.unopened(unopened.length)}</h2>
        <p className="small dim">{words.use.unopenedHelp}</p>
        <ul className="plain small">
          {unopened.map((tile) => (
            <li key={tile.id}>
              <DeskLink to={`/desk/portal?tile=${tile.id}`}>{tile.name}</DeskLink>{' '}
              <span className="dim">{words.use.couldOpen(tile.holders)}</span>
            </li>
          ))}
        </ul>
        <h3>{words.use.sought}</h3>
        <p className="small dim">{words.use.soughtHelp}</p>
        {use.sought.length === 0 ? (
          <p className="small">{words.use.noneSought}</p>
        ) : (
          <ol className="small">
            {use.sought.map((one) => (
              <li key={one.words}>
                “{one.words}” <span className="dim">{words.use.times(one.times)}</span>
              </li>
            ))}
          </ol>
        )}
      </aside>
    </div>
  );
}

function Head({ weeks }: { weeks: string[] }) {
  return (
    <thead>
      <tr>
        <th scope="col">
          <span className="visually-hidden">{words.use.what}</span>
        </th>
        <th scope="col" className="small dim">
          {words.use.weeks(
            weeks.length,
            tellShortDay(weeks[0] ?? ''),
            tellShortDay(weeks.at(-1) ?? ''),
          )}
        </th>
        <th scope="col" className="small dim number">
          {words.use.inAll}
        </th>
      </tr>
    </thead>
  );
}

/** A bar for each week, as high as its share of the row's best week, and the sum. */
function Weeks({ openings, weeks }: { openings: number[]; weeks: string[] }) {
  const peak = openings.indexOf(Math.max(...openings));
  return (
    <>
      <td>
        <Bars
          values={openings}
          label={words.use.told(
            total(openings),
            openings[peak] ?? 0,
            tellShortDay(weeks[peak] ?? ''),
            openings.at(-1) ?? 0,
          )}
          titles={openings.map((n, index) => words.use.week(tellShortDay(weeks[index] ?? ''), n))}
        />
      </td>
      <td className="mono number">{words.count(total(openings))}</td>
    </>
  );
}
