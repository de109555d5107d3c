import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate, useParams } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import { AppsTabs } from '../../apps/AppsTabs';
import { PickThings } from '../../directory/groups/PickThings';
import { ActDialog } from '../../drafts/ActDialog';
import { Drafted } from '../../drafts/Drafted';
import { type Manner, useForesight } from '../../drafts/foresight';
import { Head } from '../../shell/Head';
import { DeskLink } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { Failure, Loading } from '../../shell/states';
import { Table } from '../../shell/Table';
import { TextField } from '../../shell/TextField';
import { useAct } from '../../shell/useAct';
import { words } from '../../words/en';
import { Drawn, type Example } from './Drawn';
import { RouteDialog } from './RouteDialog';
import { formsOf, scopeName, stepsOf, told } from './steps';

/** Who decides on requests: for everything, by sensitivity, and where something has its own. */
export function RoutesPage() {
  const navigate = useNavigate();
  const routes = useQuery({
    queryKey: ['routes'],
    queryFn: () => answer(api.GET('/api/routes')),
  });
  if (routes.error) {
    return <Failure error={routes.error} again={() => routes.refetch()} />;
  }
  return (
    <>
      <AppsTabs />
      <header>
        <PageHeading>{words.routes.title}</PageHeading>
        <span className="dim">{words.routes.help}</span>
      </header>
      <Drafted acts={/^ROUTE_/} />
      {routes.data === undefined ? (
        <Loading what={words.routes.title} />
      ) : (
        <>
          <Table className="lines" aria-label={words.routes.title}>
            <thead>
              <tr>
                <th scope="col">{words.routes.forWhat}</th>
                <th scope="col">{words.routes.steps}</th>
                <th scope="col" className="num">
                  {words.routes.entitlements}
                </th>
              </tr>
            </thead>
            <tbody>
              {routes.data.lines.map((line) => (
                <tr key={line.scope}>
                  <td>
                    <DeskLink to={`/desk/routes/${line.scope}`}>{scopeName(line)}</DeskLink>
                  </td>
                  <td>
                    {line.set || line.scope === 'all' ? (
                      told(line.steps)
                    ) : (
                      <span className="dim">{words.routes.asAll}</span>
                    )}
                  </td>
                  <td className="num">{words.count(line.entitlements)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          <section className="part room-above">
            <PickThings
              entitlements
              label={words.routes.another}
              chosen={[]}
              onChange={([one]) => navigate(`/desk/routes/entitlement:${one?.id}`)}
            />
          </section>
        </>
      )}
    </>
  );
}

/** One route: its steps with the people as they are now, and changing it. */
export function RoutePage() {
  const scope = useParams().scope ?? '';
  const route = useQuery({
    queryKey: ['routes', scope],
    queryFn: () => answer(api.GET('/api/routes/{scope}', { params: { path: { scope } } })),
  });
  if (route.error) {
    return <Failure error={route.error} again={() => route.refetch()} />;
  }
  if (route.data === undefined) {
    return <Loading what={words.routes.title} />;
  }
  return <One key={scope} view={route.data} />;
}

function One({ view }: { view: Schemas['RouteView'] }) {
  const line = view.route;
  const [changing, setChanging] = useState(false);
  const [clearing, setClearing] = useState(false);
  const [example, setExample] = useState<Example>({
    person: undefined,
    entitlement:
      view.example === null
        ? undefined
        : { kind: 'entitlement', id: view.example.id, name: view.example.title },
  });
  return (
    <>
      <Head
        kind={<DeskLink to="/desk/routes">{words.routes.title}</DeskLink>}
        heading={<PageHeading>{scopeName(line)}</PageHeading>}
        lead={line.set || line.scope === 'all' ? told(line.steps) : words.routes.notSet}
        figures={[
          { n: words.count(line.entitlements), of: words.routes.figure(line.entitlements) },
          { n: words.count(view.open), of: words.routes.openFigure(view.open) },
        ]}
      />
      <Drafted acts={/^ROUTE_/} />
      {line.mayEdit && (
        <p className="bar">
          <Button onClick={() => setChanging(true)}>
            {line.set ? words.routes.change : words.routes.setOwn}
          </Button>
          {line.set && (
            <Button variant="outline-danger" onClick={() => setClearing(true)}>
              {words.routes.clear}
            </Button>
          )}
        </p>
      )}
      {changing ? (
        <RouteDialog
          line={line}
          first={example}
          open={view.open}
          onClose={() => setChanging(false)}
        />
      ) : (
        <Drawn steps={stepsOf(line.steps)} example={example} onExample={setExample} />
      )}
      {clearing && <ClearDialog line={line} onClose={() => setClearing(false)} />}
    </>
  );
}

function ClearDialog({ line, onClose }: { line: Schemas['RouteLine']; onClose: () => void }) {
  const [reason, setReason] = useState('');
  const send = (because: string, manner: Manner) =>
    answer(
      api.POST('/api/routes/{scope}/clear', {
        params: { path: { scope: line.scope } },
        headers: manner,
        body: { base: formsOf(stepsOf(line.steps)), reason: because },
      }),
    );
  const foresight = useForesight(
    ['clear-route', line.scope],
    (manner) => send(words.access.ahead, manner),
    true,
  );
  const clear = useAct(() => send(reason, foresight.agreed), onClose);
  return (
    <ActDialog
      gathers
      danger
      title={words.routes.clearTitle(scopeName(line))}
      act={words.routes.clear}
      foresight={foresight}
      disabled={clear.isPending}
      error={clear.error}
      onAct={() => clear.mutate()}
      onClose={onClose}
    >
      <p>{words.routes.clearHelp}</p>
      <TextField
        id="clear-route"
        label={words.groups.why}
        maxLength={500}
        value={reason}
        onChange={setReason}
      />
    </ActDialog>
  );
}
