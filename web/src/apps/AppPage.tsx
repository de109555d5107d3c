import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useParams } from 'react-router';
import { SensitivityTag } from '../access/SensitivityTag';
import { answer, api, type Schemas } from '../api/client';
import { EditOwners } from '../directory/EditOwners';
import { Drafted } from '../drafts/Drafted';
import { Picture } from '../pictures/Picture';
import { TileDialog } from '../portal/TileDialog';
import { Head } from '../shell/Head';
import { DeskLink, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Failure, Loading } from '../shell/states';
import { tellDate } from '../shell/times';
import { words } from '../words/en';
import { Roles } from './AppRoles';
import { States } from './AppStates';
import { StateTag } from './AppsPage';
import { DescribeDialog } from './DescribeDialog';
import { SeatsPart } from './Seats';
import { WayIn } from './WayIn';

type Page = Schemas['AppPage'];

/** An application: its entitlements, its way in, who answers for it. */
export function AppPage() {
  const id = useParams().id ?? '';
  const { asOf } = useLens();
  const page = useQuery({
    queryKey: ['app', id, asOf],
    queryFn: () => answer(api.GET('/api/apps/{id}', { params: { path: { id }, query: { asOf } } })),
  });
  if (page.error) {
    return <Failure error={page.error} again={() => page.refetch()} />;
  }
  if (page.data === undefined) {
    return <Loading what={words.apps.title} lines={12} />;
  }
  return <Whole page={page.data} />;
}

function Whole({ page }: { page: Page }) {
  const [describing, setDescribing] = useState(false);
  const [making, setMaking] = useState(false);
  const grants = page.entitlements.reduce((sum, one) => sum + one.grants, 0);
  return (
    <>
      <Head
        kind={words.apps.one}
        picture={<Picture name={page.app.picture} hue={page.app.hue} size={64} />}
        heading={<PageHeading>{page.app.name}</PageHeading>}
        lead={
          <>
            {page.line} <StateTag state={page.app.state} />
          </>
        }
        figures={[
          {
            n: words.count(page.entitlements.length),
            of: words.apps.figures.entitlements(page.entitlements.length),
          },
          { n: words.count(grants), of: words.apps.figures.grants(grants) },
          ...(page.seats === null
            ? []
            : [{ n: words.count(page.seats.count ?? 0), of: words.apps.figures.seats }]),
        ]}
      />
      <Drafted of={page.app.id} />
      {page.missing.length > 0 && page.app.state === 'proposed' && (
        <div className="note wait">
          {words.apps.missing(
            page.missing.map((one) => words.apps.missingParts[one] ?? one).join(', '),
          )}
        </div>
      )}
      <div className="split">
        <div className="parts">
          <Roles page={page} />
          <section className="part" aria-labelledby="app-profile">
            <h2 id="app-profile">{words.apps.profile}</h2>
            <dl className="pair">
              <dt>{words.apps.sensitivity}</dt>
              <dd>
                <SensitivityTag sensitivity={page.sensitivity} />
              </dd>
              <dt>{words.apps.contact}</dt>
              <dd>{page.contact || <span className="dim">{words.people.none}</span>}</dd>
              <dt>{words.apps.nicknames}</dt>
              <dd>
                {page.nicknames.join(', ') || <span className="dim">{words.people.none}</span>}
              </dd>
              <dt>{words.apps.columns.state}</dt>
              <dd title={page.since}>
                {words.apps.states[page.app.state]} {words.people.since(tellDate(page.since))}
              </dd>
            </dl>
            {page.mayEdit && (
              <Button
                variant="outline-primary"
                className="room-above"
                onClick={() => setDescribing(true)}
              >
                {words.apps.describe}
              </Button>
            )}
          </section>
        </div>
        <aside className="margin" aria-label={page.app.name}>
          <h3>{words.apps.owners}</h3>
          <EditOwners
            owners={page.owners}
            may={page.mayEdit}
            none={words.apps.noOwner}
            save={(base, owners) =>
              answer(
                api.PUT('/api/apps/{id}/owners', {
                  params: { path: { id: page.app.id } },
                  body: { base, owners },
                }),
              )
            }
          />
          <h3>{words.apps.wayIn}</h3>
          <WayIn page={page} />
          <SeatsPart page={page} />
          <h3>{words.curate.tiles}</h3>
          {page.tiles.length === 0 ? (
            <p className="dim">{words.apps.noTile}</p>
          ) : (
            <ul className="plain">
              {page.tiles.map((tile) => (
                <li key={tile.id}>
                  <DeskLink to={`/desk/portal?tile=${tile.id}`}>{tile.name}</DeskLink>
                </li>
              ))}
            </ul>
          )}
          {page.mayArrange && (
            <Button
              variant="outline-primary"
              size="sm"
              className="room-above"
              onClick={() => setMaking(true)}
            >
              {words.curate.makeTile}
            </Button>
          )}
          {page.mayEdit && (
            <>
              <h3>{words.holdings.do}</h3>
              <div className="bar">
                <States page={page} />
              </div>
            </>
          )}
        </aside>
      </div>
      {describing && <DescribeDialog page={page} onClose={() => setDescribing(false)} />}
      {making && <TileDialog app={page} tile={undefined} onClose={() => setMaking(false)} />}
    </>
  );
}
