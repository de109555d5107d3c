import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../../api/client';
import { words } from '../../words/en';

/** The text as it is some moments after the last key. */
function useSettled(text: string): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), 200);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}

export function useTriedFilter(filter: string, group?: string): Schemas['Tried'] | undefined {
  const settled = useSettled(filter);
  const tried = useQuery({
    queryKey: ['filter', settled, group],
    queryFn: () =>
      answer(api.POST('/api/filters/try', { body: { filter: settled, group: group ?? null } })),
    enabled: settled.trim() !== '',
    placeholderData: keepPreviousData,
  });
  return settled.trim() === '' || settled !== filter ? undefined : tried.data;
}

/** A filter as it is typed: what is wrong and where, or how many people fit. */
export function FilterField({
  value,
  onChange,
  group,
}: {
  value: string;
  onChange: (filter: string) => void;
  group?: string;
}) {
  const tried = useTriedFilter(value, group);
  const attributes = useQuery({
    queryKey: ['attributes'],
    queryFn: () => answer(api.GET('/api/attributes')),
  });
  const wrong = tried?.error ?? undefined;
  return (
    <Form.Group className="field" controlId="filter" style={{ maxWidth: '46rem' }}>
      <Form.Label>{words.groups.filter}</Form.Label>
      <Form.Control
        as="textarea"
        rows={3}
        className="mono"
        spellCheck={false}
        autoCapitalize="none"
        value={value}
        isInvalid={wrong !== undefined}
        aria-describedby="filter-told filter-help"
        onChange={(event) => onChange(event.target.value)}
      />
      <div id="filter-told" role="status" style={{ minHeight: '1.5rem' }}>
        {value.trim() === '' ? null : tried === undefined ? (
          <span className="dim">{words.groups.filterCounting}</span>
        ) : wrong === undefined ? (
          <>
            <b>{words.groups.filterCount(tried.count)}</b>
            {tried.more !== null && tried.fewer !== null && (
              <span>; {words.groups.filterMore(tried.more, tried.fewer)}</span>
            )}
            <span className="dim small">
              {tried.sample.length > 0 &&
                `: ${tried.sample.map((person) => person.displayed).join(', ')}${tried.count > tried.sample.length ? ' …' : ''}`}
            </span>
          </>
        ) : (
          <>
            <span className="invalid-feedback">{wrong}</span>
            <div className="echo">
              {value.slice(0, tried.from)}
              <mark>{value.slice(tried.from, tried.until) || '␣'}</mark>
              {value.slice(Math.max(tried.until, tried.from))}
            </div>
          </>
        )}
      </div>
      <Form.Text id="filter-help">
        {words.groups.filterHelp} {words.groups.filterAttributes}:{' '}
        <span className="mono">
          {(attributes.data ?? []).map((attribute) => attribute.name).join(', ')}
        </span>
      </Form.Text>
    </Form.Group>
  );
}
