import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../api/client';
import { FilterField } from '../directory/groups/FilterField';
import { type Chosen, PickThings } from '../directory/groups/PickThings';
import { words } from '../words/en';

type View = Schemas['AudienceView'];
type Seen = Pick<Schemas['SubjectView'], 'kind' | 'id' | 'name' | 'filter'>;

/** An audience as it is edited: its subjects with their names. */
export type Audience = { everyone: boolean; firstDays: number; subjects: Seen[] };

export const NOBODY: Audience = { everyone: false, firstDays: 0, subjects: [] };
export const EVERYONE: Audience = { everyone: true, firstDays: 0, subjects: [] };

export function audienceOf(view: View): Audience {
  return {
    everyone: view.everyone,
    firstDays: view.firstDays,
    subjects: view.subjects.map(({ kind, id, name, filter }) => ({ kind, id, name, filter })),
  };
}

/** As it is sent. */
export function sent(audience: Audience): Schemas['AudienceForm'] {
  return {
    everyone: audience.everyone,
    firstDays: audience.firstDays,
    subjects: audience.subjects.map((one) =>
      one.kind === 'filter'
        ? { kind: 'filter', id: null, filter: one.filter }
        : { kind: one.kind, id: one.id, filter: null },
    ),
  };
}

/** Somebody who is in an audience, to look at the portal as; undefined where nobody is named. */
export async function someoneOf(audience: Audience): Promise<string | undefined> {
  const first = audience.everyone ? undefined : audience.subjects[0];
  switch (first?.kind) {
    case 'person':
      return first.id ?? undefined;
    case 'group': {
      const { lines } = await answer(
        api.GET('/api/groups/{id}/members', {
          params: { path: { id: first.id ?? '' }, query: { limit: 1 } },
        }),
      );
      return lines[0]?.person.id;
    }
    case 'filter': {
      const tried = await answer(
        api.POST('/api/filters/try', { body: { filter: first.filter ?? '', group: null } }),
      );
      return tried.sample[0]?.id;
    }
    default:
      return undefined;
  }
}

/** In words. */
export function tellAudience(
  audience: Pick<View, 'everyone' | 'firstDays'> & { subjects: Seen[] },
) {
  const parts = [
    ...(audience.everyone ? [words.curate.everyone] : []),
    ...audience.subjects.map((one) => one.name),
    ...(audience.firstDays > 0 ? [words.arrange.firstDays(audience.firstDays)] : []),
  ];
  return parts.length === 0 ? words.curate.nobody : parts.join(', ');
}

/** Who is in an audience: everyone, or people, groups, a filter, and whoever is new. */
export function AudienceFields({
  name,
  legend,
  value,
  onChange,
  help,
  wrong,
}: {
  name: string;
  legend: string;
  value: Audience;
  onChange: (audience: Audience) => void;
  help?: string;
  wrong?: string;
}) {
  // Units, sites and titles are chosen by name, and are filters; any other filter is edited below.
  const [own, setOwn] = useState(
    () => value.subjects.find((one) => one.kind === 'filter')?.filter ?? '',
  );
  const chosen = value.subjects.flatMap((one): Chosen[] =>
    one.kind === 'filter'
      ? one.filter === null || one.filter === own
        ? []
        : [{ kind: 'filter', id: one.filter, name: one.name }]
      : one.id !== null && (one.kind === 'person' || one.kind === 'group')
        ? [{ kind: one.kind, id: one.id, name: one.name }]
        : [],
  );
  const [filtered, setFiltered] = useState(own !== '');
  const [news, setNews] = useState(value.firstDays > 0);
  const put = (things: Chosen[], filter: string) => {
    setOwn(filter);
    onChange({
      ...value,
      subjects: [
        ...things.map((one) =>
          one.kind === 'filter'
            ? { kind: 'filter', id: null, name: one.name, filter: one.id }
            : { kind: one.kind, id: one.id, name: one.name, filter: null },
        ),
        ...(filter === '' ? [] : [{ kind: 'filter', id: null, name: filter, filter }]),
      ],
    });
  };
  return (
    <fieldset className="field full">
      <legend>{legend}</legend>
      <Form.Check
        type="radio"
        name={name}
        id={`${name}-everyone`}
        label={words.curate.everyone}
        checked={value.everyone}
        onChange={() => onChange({ ...value, everyone: true })}
      />
      <Form.Check
        type="radio"
        name={name}
        id={`${name}-some`}
        label={words.curate.theseOnly}
        checked={!value.everyone}
        onChange={() => onChange({ ...value, everyone: false })}
      />
      {!value.everyone && (
        <div className="indented">
          <PickThings
            label={words.curate.theseNamed}
            chosen={chosen}
            onChange={(next) => put(next, own)}
            groups
            places
          />
          <Form.Check
            type="checkbox"
            id={`${name}-news`}
            label={words.arrange.newcomers}
            checked={news}
            onChange={(event) => {
              setNews(event.target.checked);
              onChange({ ...value, firstDays: event.target.checked ? 30 : 0 });
            }}
          />
          {news && (
            <Form.Group className="field" controlId={`${name}-days`}>
              <Form.Label>{words.arrange.howLong}</Form.Label>
              <Form.Control
                type="number"
                min={1}
                max={366}
                className="narrow"
                value={value.firstDays === 0 ? '' : value.firstDays}
                onChange={(event) => onChange({ ...value, firstDays: Number(event.target.value) })}
              />
            </Form.Group>
          )}
          <Form.Check
            type="checkbox"
            id={`${name}-filtered`}
            label={words.arrange.byFilter}
            checked={filtered}
            onChange={(event) => {
              setFiltered(event.target.checked);
              if (!event.target.checked) {
                put(chosen, '');
              }
            }}
          />
          {filtered && <FilterField value={own} onChange={(filter) => put(chosen, filter)} />}
        </div>
      )}
      {wrong !== undefined && (
        <div className="invalid-feedback" role="alert">
          {wrong}
        </div>
      )}
      {help !== undefined && <p className="small dim">{help}</p>}
    </fieldset>
  );
}
