import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useId, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../../api/client';
import { Combobox, type Option } from '../../shell/Combobox';
import { useSession } from '../../shell/session';
import { words } from '../../words/en';

/** A filter has its own text as its id. */
export type Chosen = {
  kind: 'person' | 'group' | 'entitlement' | 'filter';
  id: string;
  name: string;
};

/** Attributes whose values are places that people look for by name. */
const PLACES = ['unit', 'site', 'title'] as const;

/** The same as it is sent, to whom something is given or shown. */
export function subjectOf({ kind, id }: Chosen): Schemas['SubjectForm'] {
  return kind === 'filter' ? { kind, id: null, filter: id } : { kind, id, filter: null };
}

/** Finds people, and groups if wanted, or entitlements; gathers those that are chosen. */
export function PickThings({
  label,
  chosen,
  onChange,
  groups = false,
  places = false,
  entitlements = false,
}: {
  label: string;
  chosen: Chosen[];
  onChange: (chosen: Chosen[]) => void;
  groups?: boolean;
  /** Units, sites and titles too, each as the filter that it is. */
  places?: boolean;
  /** Entitlements alone. */
  entitlements?: boolean;
}) {
  const id = useId();
  const [text, setText] = useState('');
  const wanted = useDeferredValue(text.trim());
  const found = useQuery({
    queryKey: ['find', wanted],
    queryFn: () => answer(api.GET('/api/find', { params: { query: { text: wanted } } })),
    enabled: wanted !== '',
    placeholderData: keepPreviousData,
  });
  const { has } = useSession();
  const placed = useQueries({
    queries: PLACES.map((name) => ({
      queryKey: ['attribute-values', name, wanted],
      queryFn: () =>
        answer(
          api.GET('/api/attributes/{name}/values', {
            params: { path: { name }, query: { find: wanted } },
          }),
        ),
      enabled: places && has('people.read') && wanted !== '',
    })),
  });
  const hits: (Option & { thing: Chosen })[] = [
    ...(entitlements ? (found.data?.entitlements ?? []) : []).map((one) => ({
      key: one.id,
      title: one.title,
      line: one.line,
      thing: { kind: 'entitlement' as const, id: one.id, name: one.title },
    })),
    ...(entitlements ? [] : (found.data?.people ?? []))
      .filter((person) => person.status !== 'departed')
      .map((person) => ({
        key: person.id,
        title: person.displayed,
        // Namesakes are told apart by where they work and how they sign in.
        line: [person.unit, person.site, person.userName].filter(Boolean).join(' · '),
        thing: { kind: 'person' as const, id: person.id, name: person.displayed },
      })),
    ...(groups ? (found.data?.groups ?? []) : []).map((group) => ({
      key: group.id,
      title: group.name,
      line: words.shell.group,
      thing: { kind: 'group' as const, id: group.id, name: group.name },
    })),
    ...PLACES.flatMap((name, at) =>
      (places ? (placed[at]?.data ?? []) : []).slice(0, 4).map((one) => ({
        key: `${name} ${one.value}`,
        title: one.value,
        line: `${words.groups.places[name]} · ${words.groups.people(one.people)}`,
        thing: {
          kind: 'filter' as const,
          id: `${name} eq ${JSON.stringify(one.value)}`,
          name: `${words.groups.places[name]} ${one.value}`,
        },
      })),
    ),
  ];
  const open =
    wanted === '' ? [] : hits.filter((hit) => !chosen.some((one) => one.id === hit.thing.id));
  const known = wanted !== '' && wanted === text.trim() && found.data !== undefined;
  return (
    <div className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      {chosen.length > 0 && (
        <ul className="plain bar room-below">
          {chosen.map((one) => (
            <li key={one.id} className="tag">
              {one.name}{' '}
              <Button
                variant="link"
                className="small"
                aria-label={`${words.groups.remove} ${one.name}`}
                onClick={() => onChange(chosen.filter((other) => other.id !== one.id))}
              >
                {words.groups.remove}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Combobox
        label={label}
        text={text}
        onText={setText}
        options={open}
        onTake={({ thing }) => {
          onChange([...chosen, thing]);
          setText('');
        }}
        nothing={
          !known || found.isPlaceholderData
            ? undefined
            : placed.some((one) => one.isFetching)
              ? undefined
              : hits.length > 0
                ? words.groups.chosenAlready
                : entitlements
                  ? words.groups.findNoEntitlement(wanted)
                  : words.groups.findNothing(wanted)
        }
        field={{ id }}
      />
    </div>
  );
}
