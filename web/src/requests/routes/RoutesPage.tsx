import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useParams } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import { Drafted } from '../../drafts/Drafted';
import { Head } from '../../shell/Head';
import { DeskLink } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { Failure, Loading } from '../../shell/states';
import { words } from '../../words/en';
import { ClearDialog, ScopesPage, scopeName } from '../Scopes';
import { Drawn, type Example } from './Drawn';
import { RouteDialog } from './RouteDialog';
import { formsOf, stepsOf, told } from './steps';

/** Who decides on requests. */
export function RoutesPage() {
  const routes = useQuery({
    queryKey: ['routes'],
    queryFn: () => answer(api.GET('/api/routes')),
  });
  return (
    <ScopesPage
      path="/desk/routes"
      acts={/^ROUTE_/}
      title={words.routes.title}
      help={words.routes.help}
      what={words.routes.steps}
      another={words.routes.another}
      lines={routes.data?.lines}
      error={routes.error}
      again={() => routes.refetch()}
      told={(line) => told(line.steps)}
    />
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
        heading={
          <PageHeading title={`${scopeName(line)} · ${words.routes.title}`}>
            {scopeName(line)}
          </PageHeading>
        }
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
        <RouteDialog view={view} first={example} onClose={() => setChanging(false)} />
      ) : (
        <Drawn steps={stepsOf(line.steps)} example={example} onExample={setExample} />
      )}
      {clearing && (
        <ClearDialog
          name={`route ${line.scope}`}
          title={words.routes.clearTitle(scopeName(line))}
          act={words.routes.clear}
          send={(reason, manner) =>
            answer(
              api.POST('/api/routes/{scope}/clear', {
                params: { path: { scope: line.scope } },
                headers: manner,
                body: { base: formsOf(stepsOf(line.steps)), reason },
              }),
            )
          }
          onClose={() => setClearing(false)}
        >
          <p>{words.routes.clearHelp}</p>
        </ClearDialog>
      )}
    </>
  );
}
