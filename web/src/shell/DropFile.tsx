import { type ReactNode, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';

/** A place onto which a CSV file is dropped; a button does the same. */
export function DropFile({
  title,
  choose,
  busy,
  onFile,
  children,
}: {
  title: string;
  /** What the button and the field of the file are called. */
  choose: string;
  busy: boolean;
  onFile: (file: File) => void;
  children?: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const take = (file: File | undefined) => {
    if (file !== undefined && !busy) {
      onFile(file);
    }
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the button inside does the same
    <div
      className={over ? 'drop over' : 'drop'}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files[0]);
      }}
    >
      <p>
        <b>{title}</b>
      </p>
      <input
        ref={input}
        type="file"
        accept=".csv,text/csv"
        className="visually-hidden"
        tabIndex={-1}
        aria-label={choose}
        onChange={(event) => {
          const file = event.target.files?.[0];
          // The same file can be chosen again once it was corrected.
          event.target.value = '';
          take(file);
        }}
      />
      <Button variant="outline-primary" disabled={busy} onClick={() => input.current?.click()}>
        {choose}
      </Button>
      {children}
    </div>
  );
}
