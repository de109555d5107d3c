import type { ReactNode } from 'react';

/** A figure with what it counts. */
export type Figure = { n: string; of: ReactNode; tone?: 'loss' | 'wait' };

/** Key figures, side by side, each with what it counts. */
export function Figures({ figures }: { figures: Figure[] }) {
  return (
    <ul className="plain figures">
      {figures.map((figure, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: they stand in a fixed order
        <li key={index} className={figure.tone}>
          <b>{figure.n}</b> <span>{figure.of}</span>
        </li>
      ))}
    </ul>
  );
}

/** The head of a page about one thing: what it is, its name, a line on it, and its key figures. */
export function Head({
  kind,
  picture,
  heading,
  lead,
  figures = [],
}: {
  kind: ReactNode;
  picture?: ReactNode;
  heading: ReactNode;
  lead: ReactNode;
  figures?: Figure[];
}) {
  return (
    <header className="head">
      {picture}
      <div className="who">
        <div className="kind">{kind}</div>
        {heading}
        <div className="lead">{lead}</div>
      </div>
      {figures.length > 0 && <Figures figures={figures} />}
    </header>
  );
}
