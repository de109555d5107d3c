import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useId, useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useNavigate } from 'react-router';
import { answer, api } from '../api/client';
import { words } from '../words/en';
import { useDeskAddress } from './lens';
import { useSession } from './session';

type Hit = { to: string; title: string; line: string };

/** Finds people, groups, applications and entitlements by any part of a name, and goes there. */
export function Find({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const wanted = useDeferredValue(text.trim());
  const navigate = useNavigate();
  const address = useDeskAddress();
  const list = useId();
  const reads = useSession().has('people.read');
  const found = useQuery({
    queryKey: ['find', wanted],
    queryFn: () => answer(api.GET('/api/find', { params: { query: { text: wanted } } })),
    enabled: wanted !== '',
    placeholderData: keepPreviousData,
  });
  const data = wanted === '' ? undefined : found.data;
  const hits: Hit[] = [
    ...(reads ? (data?.people ?? []) : []).map((person) => ({
      to: `/desk/people/${person.id}`,
      title: person.familyFirst,
      line: [person.title, person.unit, person.site].filter(Boolean).join(' · '),
    })),
    ...(data?.groups ?? []).map((group) => ({
      to: `/desk/groups/${group.id}`,
      title: group.name,
      line: words.shell.groups,
    })),
    ...(data?.apps ?? []).map((app) => ({
      to: `/desk/apps/${app.id}`,
      title: app.name,
      line: `${words.shell.apps} · ${words.apps.states[app.state] ?? app.state}`,
    })),
    ...(data?.entitlements ?? []).map((one) => ({
      to: `/desk/entitlements/${one.id}`,
      title: one.title,
      line: one.line,
    })),
  ];
  const more =
    data === undefined
      ? 0
      : (reads ? data.peopleTotal - data.people.length : 0) + data.groupsTotal - data.groups.length;
  const go = (hit: Hit | undefined) => {
    if (hit !== undefined) {
      onClose();
      navigate(address(hit.to));
    }
  };
  return (
    <Modal show onHide={onClose} aria-label={words.shell.findLabel}>
      <Modal.Body>
        <Form.Control
          type="text"
          role="combobox"
          aria-expanded={hits.length > 0}
          aria-controls={list}
          aria-activedescendant={hits.length > 0 ? `${list}-${at}` : undefined}
          aria-label={words.shell.findLabel}
          placeholder={words.shell.findHint}
          autoFocus
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setAt(0);
          }}
          onKeyDown={(event) => {
            if (event.key === 'ArrowDown') {
              event.preventDefault();
              setAt(Math.min(at + 1, hits.length - 1));
            } else if (event.key === 'ArrowUp') {
              event.preventDefault();
              setAt(Math.max(at - 1, 0));
            } else if (event.key === 'Enter') {
              event.preventDefault();
              go(hits[at]);
            }
          }}
        />
        <div id={list} role="listbox" aria-label={words.shell.findLabel} style={{ marginTop: 8 }}>
          {hits.map((hit, index) => (
            <div
              key={hit.to}
              id={`${list}-${index}`}
              role="option"
              tabIndex={-1}
              aria-selected={index === at}
              className="bar"
              style={{
                margin: 0,
                padding: '6px 8px',
                cursor: 'pointer',
                background: index === at ? 'var(--here)' : undefined,
                boxShadow: index === at ? 'inset 4px 0 0 var(--marigold)' : undefined,
              }}
              onMouseEnter={() => setAt(index)}
              onClick={() => go(hit)}
              onKeyDown={() => undefined}
            >
              <b>{hit.title}</b> <span className="dim small">{hit.line}</span>
            </div>
          ))}
        </div>
        <div role="status" className="dim small">
          {data !== undefined && hits.length === 0 && words.shell.findNothing(wanted)}
          {more > 0 && words.shell.findMore(more)}
        </div>
      </Modal.Body>
    </Modal>
  );
}
