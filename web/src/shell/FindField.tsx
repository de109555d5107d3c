import { useEffect, useRef, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useAddress } from './addresses';

/**
 * A field whose text stands in the address. It keeps what is typed itself and tells the address,
 * which follows a moment later; so no letter is lost, however fast they come.
 */
export function FindField({
  name = 'find',
  label,
  className,
}: {
  name?: string;
  label: string;
  className?: string;
}) {
  const [get, set] = useAddress();
  const known = get(name);
  const [text, setText] = useState(known);
  const sent = useRef<string[]>([]);
  useEffect(() => {
    const own = sent.current.indexOf(known);
    if (own >= 0) {
      sent.current.splice(0, own + 1);
    } else {
      // It came from elsewhere: a filter that was taken away, the way back.
      sent.current = [];
      setText(known);
    }
  }, [known]);
  return (
    <Form.Control
      type="text"
      autoComplete="off"
      aria-label={label}
      placeholder={label}
      className={className}
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        sent.current.push(event.target.value);
        set({ [name]: event.target.value });
      }}
    />
  );
}
