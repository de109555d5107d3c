import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useId, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api } from '../../api/client';
import { words } from '../../words/en';

export type Chosen = { kind: 'person' | 'group' | 'entitlement'; id: string; name: string };

/** Finds people, and groups if wanted, or entitlements; gathers those that are chosen. */
export function PickThings({
  label,
  chosen,
  onChange,
  groups = false,
  entitlements = false,
}: {
  label: string;
  chosen: Chosen[];
  onChange: (chosen: Chosen[]) => void;
  groups?: boolean;
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
  const hits: (Chosen & { line: string })[] =
    wanted === ''
      ? []
      : [
          ...(entitlements ? (found.data?.entitlements ?? []) : []).map((one) => ({
            kind: 'entitlement' as const,
            id: one.id,
            name: one.title,
            line: one.line,
          })),
          ...(entitlements ? [] : (found.data?.people ?? []))
            .filter((person) => person.status !== 'departed')
            .map((person) => ({
              kind: 'person' as const,
              id: person.id,
              name: person.displayed,
              line: [person.unit, person.site].filter(Boolean).join(' · '),
            })),
          ...(groups ? (found.data?.groups ?? []) : []).map((group) => ({
            kind: 'group' as const,
            id: group.id,
            name: group.name,
            line: words.shell.groups,
          })),
        ];
  const open = hits.filter((hit) => !chosen.some((one) => one.id === hit.id));
  return (
    <div className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      {chosen.length > 0 && (
        <ul className="plain bar" style={{ marginBottom: 6 }}>
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
      <Form.Control
        id={id}
        type="text"
        autoComplete="off"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          const first = open[0];
          if (event.key === 'Enter' && first !== undefined) {
            event.preventDefault();
            onChange([...chosen, first]);
            setText('');
          }
        }}
      />
      <ul className="plain" aria-label={label}>
        {open.map((hit) => (
          <li key={hit.id}>
            <Button
              variant="link"
              onClick={() => {
                onChange([...chosen, { kind: hit.kind, id: hit.id, name: hit.name }]);
                setText('');
              }}
            >
              {hit.name}
            </Button>{' '}
            <span className="dim small">{hit.line}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
