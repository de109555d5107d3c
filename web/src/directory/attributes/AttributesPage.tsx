import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { answer, api, Problem, type Schemas } from '../../api/client';
import { KeptNote } from '../../shell/KeptNote';
import { useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { useSession } from '../../shell/session';
import { useStale } from '../../shell/stale';
import { Failure, Loading, ProblemNote } from '../../shell/states';
import { Table } from '../../shell/Table';
import { TextField } from '../../shell/TextField';
import { useEdited } from '../../shell/useUnsent';
import { words } from '../../words/en';
import { DirectoryTabs } from '../Tabs';

type Line = Schemas['AttributeLine'];

const FRESH: Line = {
  name: '',
  label: '',
  type: 'text',
  many: false,
  personal: false,
  source: null,
  sourceName: null,
  people: 0,
};

/** What is kept about people. */
export function AttributesPage() {
  const { has } = useSession();
  const { asOf } = useLens();
  const [open, setOpen] = useState<{ line: Line; fresh: boolean }>();
  const attributes = useQuery({
    queryKey: ['attributes', asOf],
    queryFn: () => answer(api.GET('/api/attributes', { params: { query: { asOf } } })),
  });
  const may = has('settings.edit') && asOf === undefined;
  return (
    <>
      <DirectoryTabs />
      <header>
        <PageHeading>{words.attributes.title}</PageHeading>
        <span className="dim">{words.attributes.help}</span>
        <span className="grow" />
        {may && (
          <Button onClick={() => setOpen({ line: FRESH, fresh: true })}>
            {words.attributes.add}
          </Button>
        )}
      </header>
      {attributes.error ? (
        <Failure error={attributes.error} again={() => attributes.refetch()} />
      ) : attributes.data === undefined ? (
        <Loading what={words.attributes.title} />
      ) : (
        <div className="scroll">
          <Table>
            <thead>
              <tr>
                <th scope="col">{words.attributes.label}</th>
                <th scope="col">{words.attributes.name}</th>
                <th scope="col">{words.attributes.type}</th>
                <th scope="col">{words.attributes.many}</th>
                <th scope="col">{words.attributes.personal}</th>
                <th scope="col">{words.attributes.source}</th>
                <th scope="col" className="num">
                  {words.attributes.people}
                </th>
                {may && <td />}
              </tr>
            </thead>
            <tbody>
              {attributes.data.map((line) => (
                <tr key={line.name}>
                  <th scope="row">{line.label}</th>
                  <td className="mono">{line.name}</td>
                  <td>{words.attributes.types[line.type]}</td>
                  <td>{line.many ? words.attributes.several : words.attributes.one}</td>
                  <td>{line.personal ? words.attributes.yes : words.attributes.no}</td>
                  <td>{line.sourceName ?? words.attributes.byHand}</td>
                  <td className="num">{words.count(line.people)}</td>
                  {may && (
                    <td>
                      <Button
                        variant="link"
                        aria-label={`${words.attributes.change} ${line.label}`}
                        onClick={() => setOpen({ line, fresh: false })}
                      >
                        {words.attributes.change}
                      </Button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
      {open !== undefined && (
        <Define
          line={open.line}
          now={
            open.fresh
              ? null
              : (attributes.data?.find((one) => one.name === open.line.name) ?? open.line)
          }
          onClose={() => setOpen(undefined)}
        />
      )}
    </>
  );
}

function definition(line: Line) {
  return {
    label: line.label,
    type: line.type,
    many: line.many,
    personal: line.personal,
    source: line.source,
  };
}

/** Defining an attribute, or defining one anew; `now` is how it stands, null for a new one. */
function Define({ line, now, onClose }: { line: Line; now: Line | null; onClose: () => void }) {
  const queries = useQueryClient();
  const edited = useEdited(
    `attribute ${now?.name ?? 'new'}`,
    definition(now ?? FRESH),
    definition(line),
  );
  const [name, setName] = edited.typed('name', line.name);
  const form = { ...edited.wanted, name };
  const setForm = ({ name: named, ...wanted }: typeof form) => {
    edited.setWanted(wanted);
    if (named !== name) {
      setName(named);
    }
  };
  const sources = useQuery({
    queryKey: ['sources'],
    queryFn: () => answer(api.GET('/api/sources')),
  });
  const stale = useStale({
    now: definition(now ?? FRESH),
    wanted: edited.wanted,
    onChange: edited.setWanted,
    kept: edited,
    labels: words.attributes,
    tell: (part, value) =>
      part === 'type'
        ? (words.attributes.types[String(value)] ?? '')
        : part === 'source'
          ? (sources.data?.find((one) => one.id === value)?.name ?? words.attributes.byHand)
          : typeof value === 'boolean'
            ? value
              ? words.attributes.yes
              : words.attributes.no
            : String(value),
  });
  const define = useMutation({
    mutationFn: () =>
      answer(
        api.PUT('/api/attributes/{name}', {
          params: { path: { name: form.name.trim() || '-' } },
          body: { base: now === null ? null : stale.base, wanted: edited.wanted },
        }),
      ),
    onSuccess: async () => {
      edited.sent();
      onClose();
      await queries.invalidateQueries();
    },
    onError: () => queries.invalidateQueries({ queryKey: ['attributes'] }),
  });
  const wrong = (field: string) =>
    define.error instanceof Problem ? define.error.field(field) : undefined;
  const fixed = now !== null && now.people > 0;
  return (
    <Modal show onHide={onClose} aria-labelledby="define">
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          define.mutate();
        }}
      >
        <Modal.Body>
          <h2 id="define">{now === null ? words.attributes.add : line.label}</h2>
          {edited.fromBefore && <KeptNote onStartAgain={() => edited.sent()} />}
          {stale.note}
          <TextField
            id="define-label"
            label={words.attributes.label}
            autoFocus
            value={form.label}
            onChange={(value) => setForm({ ...form, label: value })}
            wrong={wrong('label')}
          />
          <TextField
            id="define-name"
            label={words.attributes.name}
            className="mono"
            value={form.name}
            disabled={now !== null}
            onChange={(value) => setForm({ ...form, name: value })}
            wrong={wrong('name')}
          />
          <Form.Group className="field" controlId="define-type">
            <Form.Label>{words.attributes.type}</Form.Label>
            <Form.Select
              value={form.type}
              disabled={fixed}
              onChange={(event) => setForm({ ...form, type: event.target.value })}
            >
              {Object.entries(words.attributes.types).map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group className="field" controlId="define-source">
            <Form.Label>{words.attributes.source}</Form.Label>
            <Form.Select
              value={form.source ?? ''}
              onChange={(event) => setForm({ ...form, source: event.target.value || null })}
            >
              <option value="">{words.attributes.byHand}</option>
              {(sources.data ?? []).map((source) => (
                <option key={source.id} value={source.id}>
                  {source.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Check
            id="define-many"
            label={`${words.attributes.many}: ${words.attributes.several}`}
            checked={form.many}
            disabled={fixed}
            onChange={(event) => setForm({ ...form, many: event.target.checked })}
          />
          <Form.Check
            id="define-personal"
            label={`${words.attributes.personal}: ${words.attributes.personalHelp}`}
            checked={form.personal}
            onChange={(event) => setForm({ ...form, personal: event.target.checked })}
          />
          <ProblemNote error={define.error} fields={['label', 'name']} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-primary" onClick={onClose}>
            {words.shell.cancel}
          </Button>
          <Button type="submit" disabled={stale.blocked || define.isPending}>
            {words.attributes.save}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
