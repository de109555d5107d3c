import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useId, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../../api/client';
import { words } from '../../words/en';
import { FilterEditor } from '../filter/FilterEditor';
import { begun, group, type Shape, textOf } from '../filter/shape';

/** The text as it is some moments after the last key. */
function useStill(text: string): string {
  const [still, setStill] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setStill(text), 200);
    return () => clearTimeout(timer);
  }, [text]);
  return still;
}

export function useTriedFilter(filter: string, group?: string): Schemas['Tried'] | undefined {
  const still = useStill(filter);
  const tried = useQuery({
    queryKey: ['filter', still, group],
    queryFn: () =>
      answer(api.POST('/api/filters/try', { body: { filter: still, group: group ?? null } })),
    enabled: still.trim() !== '',
    placeholderData: keepPreviousData,
  });
  return still.trim() === '' || still !== filter ? undefined : tried.data;
}

/**
 * A filter, in lines of words or as text: what is wrong and where, or whom it fits. Both hold the
 * same filter; the text is what is sent.
 */
export function FilterField({
  value,
  onChange,
  group: of,
}: {
  value: string;
  onChange: (filter: string) => void;
  group?: string;
}) {
  const id = useId();
  const tried = useTriedFilter(value, of);
  const attributes = useQuery({
    queryKey: ['attributes'],
    queryFn: () => answer(api.GET('/api/attributes')),
  });
  const [asText, setAsText] = useState(false);
  // What the lines hold, which may be less than whole, and the text that they came to.
  const [lines, setLines] = useState<{ shape: Shape; text: string }>();
  const known = attributes.data ?? [];
  const typeOf = (name: string) => known.find((one) => one.name === name)?.type ?? 'text';
  const wrong = tried?.error ?? undefined;
  const read = lines?.text === value ? lines.shape : tried?.shape;
  const shape =
    read ?? (value.trim() === '' && known.length > 0 ? group('all', [begun(known)]) : undefined);
  // What cannot be read can be mended as text alone, and stays text while it is typed.
  if (wrong !== undefined && !asText) {
    setAsText(true);
  }
  const inText = asText;
  return (
    <div className="field filter-field">
      {inText ? (
        <Form.Group controlId={id}>
          <Form.Label>{words.groups.filter}</Form.Label>
          <Form.Control
            as="textarea"
            rows={3}
            className="mono"
            spellCheck={false}
            autoCapitalize="none"
            value={value}
            isInvalid={wrong !== undefined}
            aria-invalid={wrong !== undefined}
            aria-describedby={`${id}-told ${id}-help`}
            onChange={(event) => onChange(event.target.value)}
          />
          <Form.Text id={`${id}-help`}>
            {words.groups.filterHelp} {words.groups.filterAttributes}:{' '}
            <span className="mono">{known.map((attribute) => attribute.name).join(', ')}</span>
          </Form.Text>
        </Form.Group>
      ) : (
        shape !== undefined && (
          <FilterEditor
            shape={shape}
            attributes={known}
            onChange={(next) => {
              const text = textOf(next, typeOf);
              setLines({ shape: next, text });
              onChange(text);
            }}
          />
        )
      )}
      <div id={`${id}-told`} role="status" className="one-line-kept">
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
                `: ${tried.sample
                  .slice(0, 3)
                  .map((person) => person.displayed)
                  .join(
                    ', ',
                  )}${tried.count > 3 ? ` ${words.filter.andMore(tried.count - 3)}` : ''}`}
            </span>
            {inText && tried.words !== null && <div className="small">{tried.words}</div>}
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
      <Button
        variant="link"
        className="small"
        disabled={wrong !== undefined}
        onClick={() => setAsText(!inText)}
      >
        {inText ? words.filter.inLines : words.filter.asText}
      </Button>
    </div>
  );
}
