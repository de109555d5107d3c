import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { answer, api, Problem, raw, type Schemas } from '../../api/client';
import { DropFile } from '../../shell/DropFile';
import { DeskLink, useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { Failure, Loading, ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { tellTime } from '../../shell/times';
import { words } from '../../words/en';
import { DirectoryTabs } from '../Tabs';

const NEW = 'new';

/** Where a file is dropped. */
export function DeliveriesPage() {
  const navigate = useNavigate();
  const { day } = useLens();
  const sources = useQuery({
    queryKey: ['sources'],
    queryFn: () => answer(api.GET('/api/sources')),
  });
  const [chosen, setChosen] = useState<string>();
  const [name, setName] = useState('');
  const source = chosen ?? sources.data?.[0]?.id ?? NEW;
  const drop = useMutation({
    mutationFn: async (file: File) => {
      const form = new FormData();
      form.set('file', file);
      form.set(source === NEW ? 'sourceName' : 'source', source === NEW ? name : source);
      const response = await raw('/api/deliveries', { method: 'POST', body: form });
      return (await response.json()) as Schemas['DeliveryView'];
    },
    onSuccess: (delivery) => navigate(`/desk/deliveries/${delivery.id}`),
  });
  const wrongName = drop.error instanceof Problem ? drop.error.field('sourceName') : undefined;
  return (
    <>
      <DirectoryTabs />
      <header>
        <PageHeading>{words.deliveries.title}</PageHeading>
      </header>
      {day !== undefined && <p className="dim">{words.shell.noPast}</p>}
      {sources.error ? (
        <Failure error={sources.error} again={() => sources.refetch()} />
      ) : sources.data === undefined ? (
        <Loading what={words.deliveries.sources} />
      ) : (
        <div className="split">
          <div>
            <fieldset className="field">
              <legend>{words.deliveries.source}</legend>
              {sources.data.map((one) => (
                <Form.Check
                  key={one.id}
                  type="radio"
                  name="source"
                  id={`source-${one.id}`}
                  label={one.name}
                  checked={source === one.id}
                  onChange={() => setChosen(one.id)}
                />
              ))}
              <Form.Check
                type="radio"
                name="source"
                id="source-new"
                label={words.deliveries.sourceNew}
                checked={source === NEW}
                onChange={() => setChosen(NEW)}
              />
            </fieldset>
            {source === NEW && (
              <TextField
                id="source-name"
                label={words.deliveries.sourceName}
                value={name}
                onChange={setName}
                wrong={wrongName}
              />
            )}
            <DropFile
              title={words.deliveries.drop}
              choose={words.deliveries.choose}
              busy={drop.isPending}
              onFile={(file) => drop.mutate(file)}
            >
              <p className="dim small flush room-above">{words.deliveries.dropHelp}</p>
              <div role="status">
                {drop.isPending && words.deliveries.reading(drop.variables.name)}
              </div>
            </DropFile>
            <ProblemNote error={drop.error} fields={['sourceName']} />
          </div>
          <aside className="margin" aria-label={words.deliveries.sources}>
            <h2>{words.deliveries.sources}</h2>
            {sources.data.length === 0 && <p className="dim">{words.people.none}</p>}
            <ul className="plain">
              {sources.data.map((one) => (
                <li key={one.id} className="room-below">
                  <b>{one.name}</b>
                  <div>
                    {words.deliveries.ofPeople(one.people)}
                    {one.groups > 0 && `, ${words.deliveries.ofGroups(one.groups)}`}
                  </div>
                  <div className="dim small">
                    {one.last === null
                      ? words.deliveries.never
                      : words.deliveries.last(tellTime(one.last))}{' '}
                    {one.position !== null && (
                      <DeskLink to={`/desk/ledger/${one.position}`}>
                        {words.people.entry(one.position)}
                      </DeskLink>
                    )}
                  </div>
                </li>
              ))}
            </ul>
          </aside>
        </div>
      )}
    </>
  );
}
