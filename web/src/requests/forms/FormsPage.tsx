import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate, useParams } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import { AppsTabs } from '../../apps/AppsTabs';
import { type Chosen, PickThings } from '../../directory/groups/PickThings';
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
import { scopeName } from '../routes/steps';
import { FormDialog } from './FormDialog';
import { Tried } from './Tried';
import { useTried } from './useTried';

/** What whoever asks is asked: for everything, by sensitivity, and where something has its own. */
export function FormsPage() {
  const navigate = useNavigate();
  const forms = useQuery({
    queryKey: ['forms'],
    queryFn: () => answer(api.GET('/api/forms')),
  });
  if (forms.error) {
    return <Failure error={forms.error} again={() => forms.refetch()} />;
  }
  return (
    <>
      <AppsTabs />
      <header>
        <PageHeading>{words.forms.title}</PageHeading>
        <span className="dim">{words.forms.lead}</span>
      </header>
      <Drafted acts={/^REQUEST_FORM_/} />
      {forms.data === undefined ? (
        <Loading what={words.forms.title} />
      ) : (
        <>
          <Table className="lines" aria-label={words.forms.title}>
            <thead>
              <tr>
                <th scope="col">{words.routes.forWhat}</th>
                <th scope="col">{words.forms.questions}</th>
                <th scope="col" className="num">
                  {words.routes.entitlements}
                </th>
              </tr>
            </thead>
            <tbody>
              {forms.data.lines.map((line) => (
                <tr key={line.scope}>
                  <td>
                    <DeskLink to={`/desk/forms/${line.scope}`}>{scopeName(line)}</DeskLink>
                  </td>
                  <td>
                    {line.set || line.scope === 'all' ? (
                      line.questions.join(' · ') || words.forms.none
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
              label={words.forms.another}
              chosen={[]}
              onChange={([one]) => navigate(`/desk/forms/entitlement:${one?.id}`)}
            />
          </section>
        </>
      )}
    </>
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
        heading={<PageHeading>{scopeName(line)}</PageHeading>}
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
      {clearing && <ClearDialog view={view} onClose={() => setClearing(false)} />}
    </>
  );
}

function ClearDialog({ view, onClose }: { view: Schemas['FormView']; onClose: () => void }) {
  const { scope } = view.line;
  const [reason, setReason] = useState('');
  const send = (because: string, manner: Manner) =>
    answer(
      api.POST('/api/forms/{scope}/clear', {
        params: { path: { scope } },
        headers: manner,
        body: { base: view.form, reason: because },
      }),
    );
  const foresight = useForesight(
    ['clear-form', scope],
    (manner) => send(words.access.ahead, manner),
    true,
  );
  const clear = useAct(() => send(reason, foresight.agreed), onClose);
  return (
    <ActDialog
      gathers
      danger
      title={words.forms.clearTitle(scopeName(view.line))}
      act={words.forms.clear}
      foresight={foresight}
      disabled={clear.isPending}
      error={clear.error}
      onAct={() => clear.mutate()}
      onClose={onClose}
    >
      <p>{words.forms.clearHelp}</p>
      <TextField
        id="clear-form"
        label={words.groups.why}
        maxLength={500}
        value={reason}
        onChange={setReason}
      />
    </ActDialog>
  );
}
