import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { FilterEditor } from '../../directory/filter/FilterEditor';
import { type Attribute, begun, group, type Shape, textOf } from '../../directory/filter/shape';

/** When a question is shown, or a step is needed: always, or if something is so. */
export function EditCondition({
  filter,
  shape,
  known,
  said,
  wrong,
  onChange,
}: {
  filter: string;
  /** The filter as the server reads it. */
  shape: Shape | undefined;
  /** What a condition may name. */
  known: Attribute[];
  said: { always: string; add: string; legend: string; remove: string; unreadable: string };
  wrong: string | undefined;
  onChange: (filter: string, shape?: Shape) => void;
}) {
  // What the lines hold, which may be less than whole, and the text that they came to.
  const [lines, setLines] = useState<{ shape: Shape; text: string }>();
  const read = lines?.text === filter ? lines.shape : shape;
  const clear = () => {
    setLines(undefined);
    onChange('');
  };
  const set = (next: Shape) => {
    if (next.parts.length === 0) {
      clear();
      return;
    }
    const text = textOf(next, (name) => known.find((one) => one.name === name)?.type ?? 'text');
    setLines({ shape: next, text });
    onChange(text, next);
  };
  const always = filter === '' && lines?.text !== '';
  return (
    <div className="field edit-condition">
      {always ? (
        <div className="bar">
          <span className="dim">{said.always}</span>
          {known.length > 0 && (
            <Button
              size="sm"
              variant="outline-primary"
              onClick={() => set(group('all', [begun(known)]))}
            >
              {said.add}
            </Button>
          )}
        </div>
      ) : read === undefined ? (
        <>
          {wrong !== undefined && <span>{said.unreadable}</span>}
          <pre className="mono">{filter}</pre>
        </>
      ) : (
        <FilterEditor needed shape={read} attributes={known} label={said.legend} onChange={set} />
      )}
      {!always && (
        <Button size="sm" variant="link" onClick={clear}>
          {said.remove}
        </Button>
      )}
      {wrong !== undefined && <div className="invalid-feedback d-block">{wrong}</div>}
    </div>
  );
}
