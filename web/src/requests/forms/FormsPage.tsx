import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useParams } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import type { Chosen } from '../../directory/groups/PickThings';
import { Drafted } from '../../drafts/Drafted';
import { Head } from '../../shell/Head';
import { DeskLink } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { Failure, Loading } from '../../shell/states';
import { words } from '../../words/en';
import { ClearDialog, ScopesPage, scopeName } from '../Scopes';
import { FormDialog } from './FormDialog';
import { Tried } from './Tried';
import { useTried } from './useTried';

/** What people are asked when they ask for access. */
export function FormsPage() {
  const forms = useQuery({
    queryKey: ['forms'],
    queryFn: () => answer(api.GET('/api/forms')),
  });
  return (
    <ScopesPage
      path="/desk/forms"
      acts={/^REQUEST_FORM_/}
      title={words.forms.title}
      help={words.forms.lead}
      what={words.forms.questions}
      another={words.forms.another}
      lines={forms.data?.lines}
      error={forms.error}
      again={() => forms.refetch()}
      told={(line) => line.questions.join(' · ') || words.forms.none}
    />
  );
}

/** One form: as somebody would fill it in, and changing it. */
export function FormPage() {
  const scope = useParams().scope ?? '';
  const form = useQuery({
    queryKey: ['forms', scope],
    queryFn: () => answer(api.GET('/api/forms/{scope}', { params: { path: { scope } } })),
  });
  if (form.error) {
    return <Failure error={form.error} again={() => form.refetch()} />;
  }
  if (form.data === undefined) {
    return <Loading what={words.forms.title} />;
  }
  return <One key={scope} view={form.data} />;
}

function One({ view }: { view: Schemas['FormView'] }) {
  const { line, form } = view;
  const [changing, setChanging] = useState(false);
  const [clearing, setClearing] = useState(false);
  const [person, setPerson] = useState<Chosen>();
  const tried = useTried(form, person?.id);
  const conditions = form.questions.flatMap((question, at) => {
    const told = view.conditions[at]?.words ?? '';
    return told === '' ? [] : [{ key: question.key, label: question.label, told }];
  });
  return (
    <>
      <Head
        kind={<DeskLink to="/desk/forms">{words.forms.title}</DeskLink>}
        heading={
          <PageHeading title={`${scopeName(line)} · ${words.forms.title}`}>
            {scopeName(line)}
          </PageHeading>
        }
        lead={
          line.set || line.scope === 'all'
            ? words.forms.lasts(form.term.most ?? null, form.term.endless === true)
            : words.forms.notSet
        }
        figures={[
          {
            n: words.count(form.questions.length),
            of: words.forms.figure(form.questions.length),
          },
          { n: words.count(line.entitlements), of: words.routes.figure(line.entitlements) },
        ]}
      />
      <Drafted acts={/^REQUEST_FORM_/} />
      {line.mayEdit && (
        <p className="bar">
          <Button onClick={() => setChanging(true)}>
            {line.set ? words.routes.change : words.forms.setOwn}
          </Button>
          {line.set && (
            <Button variant="outline-danger" onClick={() => setClearing(true)}>
              {words.forms.clear}
            </Button>
          )}
        </p>
      )}
      {changing ? (
        <FormDialog view={view} onClose={() => setChanging(false)} />
      ) : (
        <>
          <Tried
            tried={tried.data}
            error={tried.error}
            again={() => tried.refetch()}
            person={person}
            onPerson={setPerson}
          />
          {conditions.length > 0 && (
            <section className="part">
              <h2>{words.forms.conditions}</h2>
              <dl className="answered">
                {conditions.map((one) => (
                  <div key={one.key}>
                    <dt>{one.label}</dt>
                    <dd>{words.forms.when(one.told)}</dd>
                  </div>
                ))}
              </dl>
            </section>
          )}
        </>
      )}
      {clearing && (
        <ClearDialog
          name={`form ${line.scope}`}
          title={words.forms.clearTitle(scopeName(line))}
          act={words.forms.clear}
          send={(reason, manner) =>
            answer(
              api.POST('/api/forms/{scope}/clear', {
                params: { path: { scope: line.scope } },
                headers: manner,
                body: { base: form, reason },
              }),
            )
          }
          onClose={() => setClearing(false)}
        >
          <p>{words.forms.clearHelp}</p>
        </ClearDialog>
      )}
    </>
  );
}
