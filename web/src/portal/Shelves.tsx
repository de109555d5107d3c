import { createContext, Fragment, type ReactNode, type RefObject, useContext } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { words } from '../words/en';

type Section = Schemas['SectionView'];
type Tile = Schemas['TileView'];

/** How a proof shows what it arranges: the same shelves and tiles, in other hands. */
export type Hands = {
  /** A tile that cannot be opened but taken up. */
  tile: (section: Section, tile: Tile, inside: ReactNode, className: string) => ReactNode;
  /** What stands on a shelf while something is carried: places, and the one that is free. */
  places: (section: Section) => (Tile | null)[];
  free: (section: Section) => ReactNode;
  shelf: (section: Section, inside: ReactNode) => ReactNode;
  heading: (section: Section, inside: ReactNode) => ReactNode;
};

const InHands = createContext<Hands | undefined>(undefined);
export const HandsOn = InHands.Provider;

/** What somebody meets: collections in order, each with its tiles. */
export function Shelves({
  sections,
  first,
  marked,
}: {
  sections: Section[];
  /** Marks the first tile, where Enter opens it. */
  first?: RefObject<HTMLAnchorElement | null>;
  /** The tile that a link points out. */
  marked?: string;
}) {
  const hands = useContext(InHands);
  let pending = first !== undefined;
  return sections.map((section) => {
    const id = `s-${section.id ?? 'also'}`;
    const heading = (
      <h2 id={id}>
        {section.id === null ? words.portal.also : section.name}{' '}
        <span className="line">{section.id === null ? words.portal.alsoLine : section.line}</span>
      </h2>
    );
    const inside = (
      <>
        {hands === undefined ? heading : hands.heading(section, heading)}
        <ul className="tiles">
          {(hands?.places(section) ?? section.tiles).map((tile) => {
            if (tile === null) {
              return <Fragment key="free">{hands?.free(section)}</Fragment>;
            }
            const mark = pending;
            pending = false;
            return (
              <li key={tile.id}>
                <OneTile
                  section={section}
                  tile={tile}
                  first={mark ? first : undefined}
                  marked={marked === tile.id}
                />
              </li>
            );
          })}
        </ul>
      </>
    );
    const shelf = (
      <section className="shelf" aria-labelledby={id}>
        {inside}
      </section>
    );
    return <div key={section.id ?? 'also'}>{hands?.shelf(section, shelf) ?? shelf}</div>;
  });
}

/** What is on a tile. */
export function TileFace({ tile }: { tile: Tile }) {
  return (
    <>
      <Picture name={tile.picture} hue={tile.hue} />
      <span className="words">
        <b dir="auto">{tile.name}</b>
        <span dir="auto">{tile.line}</span>
      </span>
      {tile.offered !== null && <span className="tag">{words.portal.offered}</span>}
    </>
  );
}

function OneTile({
  section,
  tile,
  first,
  marked,
}: {
  section: Section;
  tile: Tile;
  first?: RefObject<HTMLAnchorElement | null>;
  marked: boolean;
}) {
  const hands = useContext(InHands);
  const inside = (
    <>
      <TileFace tile={tile} />
      {first !== undefined && <kbd aria-hidden>Enter</kbd>}
    </>
  );
  const className = [
    'tile',
    tile.offered === null ? '' : 'offered',
    first === undefined ? '' : 'first',
    marked ? 'pointed' : '',
  ]
    .filter(Boolean)
    .join(' ');
  if (hands !== undefined) {
    return hands.tile(section, tile, inside, className);
  }
  if (tile.offered !== null) {
    return (
      <Link ref={first} className={className} to={`/ask/${tile.offered}`}>
        {inside}
      </Link>
    );
  }
  return (
    <a
      ref={first}
      id={`t-${tile.id}`}
      className={className}
      href={`/go/${tile.id}`}
      aria-current={marked ? 'true' : undefined}
      {...(tile.apart ? { target: '_blank', rel: 'noopener' } : {})}
    >
      {inside}
    </a>
  );
}
