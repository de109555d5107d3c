import { createContext, Fragment, memo, type ReactNode, useContext } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { Picture, Sign } from '../pictures/Picture';
import { useSession } from '../shell/session';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/portal';

type Section = Schemas['SectionView'];
type Tile = Schemas['TileView'];

/** How a preview shows what it arranges: the same shelves and tiles, in other hands. */
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

/** What a person can do with tiles and sections of their own page. */
export type Menus = {
  tile: (tile: Tile, section: Section, anchor: HTMLElement) => void;
  section: (section: Section, anchor: HTMLElement) => void;
};

/** The section of what is pinned; it is no collection. */
export const PINNED = 'pinned';

/** What somebody meets: collections in order, each with its tiles. */
export function Shelves({
  sections,
  marked,
  menus,
}: {
  sections: Section[];
  /** The tile that a link points out. */
  marked?: string;
  menus?: Menus;
}) {
  return sections.map((section) => (
    <Shelf key={section.id ?? 'also'} section={section} marked={marked} menus={menus} />
  ));
}

const Shelf = memo(function Shelf({
  section,
  marked,
  menus,
}: {
  section: Section;
  marked?: string;
  menus?: Menus;
}) {
  const hands = useContext(InHands);
  const id = `s-${section.id ?? 'also'}`;
  const own = section.id === null || section.id === PINNED;
  const heading = (
    <h2 id={id}>
      {section.id === null ? words.portal.also : section.name}{' '}
      <span className="line">
        {section.id === null
          ? [words.portal.alsoLine, section.line].filter((part) => part !== '').join('; ')
          : section.line}
      </span>
    </h2>
  );
  const inside = (
    <>
      {hands !== undefined ? (
        hands.heading(section, heading)
      ) : menus === undefined || own ? (
        heading
      ) : (
        <div className="head">
          {heading}
          <button
            type="button"
            className="more"
            aria-haspopup="menu"
            aria-label={words.portal.moreOfSection(section.name)}
            onClick={(event) => menus.section(section, event.currentTarget)}
          >
            ⋯
          </button>
        </div>
      )}
      <ul className="tiles">
        {(hands?.places(section) ?? section.tiles).map((tile) =>
          tile === null ? (
            <Fragment key="free">{hands?.free(section)}</Fragment>
          ) : (
            <OneTile
              key={tile.id}
              section={section}
              tile={tile}
              marked={marked === tile.id}
              menus={menus}
            />
          ),
        )}
      </ul>
    </>
  );
  const shelf = (
    <section className={section.id === PINNED ? 'shelf pinned' : 'shelf'} aria-labelledby={id}>
      {inside}
    </section>
  );
  return <div>{hands?.shelf(section, shelf) ?? shelf}</div>;
});

/** What is on a tile. */
export function TileFace({ tile, close = false }: { tile: Tile; close?: boolean }) {
  return (
    <>
      <Picture name={tile.picture} hue={tile.hue} />
      <span className="words">
        <b dir="auto">{tile.name}</b>
        <span dir="auto">{tile.line}</span>
      </span>
      <Tidings tile={tile} />
      {close && (
        <span className="pin">
          <Sign name="close" size={18} />
        </span>
      )}
    </>
  );
}

/** What a tile tells beside its name. */
function Tidings({ tile }: { tile: Tile }) {
  if (tile.offered !== null) {
    return <span className="asks">{words.portal.offered}</span>;
  }
  if (tile.ends !== null) {
    return <Ends until={tile.ends} />;
  }
  return tile.tidings === '' ? null : (
    <span className="tag calm">{words.portal.tidings[tile.tidings]}</span>
  );
}

function Ends({ until }: { until: string }) {
  const { zone } = useSession();
  return <span className="tag wait">{words.portal.endsOn(tellDay(lastDay(zone, until)))}</span>;
}

/** One tile in its place: a link that opens it, or leads to asking for it, and its menu. */
export const OneTile = memo(function OneTile({
  section,
  tile,
  marked,
  menus,
  first = false,
}: {
  section: Section;
  tile: Tile;
  marked: boolean;
  menus?: Menus;
  /** Whether Enter in the field opens it. */
  first?: boolean;
}) {
  const hands = useContext(InHands);
  const inside = (
    <>
      <TileFace tile={tile} close={section.id === PINNED} />
      {first && <kbd aria-hidden>Enter</kbd>}
    </>
  );
  const className = [
    'tile',
    tile.offered === null ? '' : 'offered',
    first ? 'first' : '',
    marked ? 'pointed' : '',
  ]
    .filter(Boolean)
    .join(' ');
  if (hands !== undefined) {
    return <li>{hands.tile(section, tile, inside, className)}</li>;
  }
  return (
    <li
      onContextMenu={
        menus === undefined
          ? undefined
          : (event) => {
              // The browser's own menu is still there on a second try, with Shift.
              if (!event.shiftKey || event.button < 0) {
                event.preventDefault();
                menus.tile(
                  tile,
                  section,
                  event.currentTarget.querySelector('a') ?? event.currentTarget,
                );
              }
            }
      }
    >
      {tile.offered !== null ? (
        <Link className={className} to={`/ask/${tile.offered}`} data-first={first || undefined}>
          {inside}
        </Link>
      ) : (
        <a
          className={className}
          href={`/go/${tile.id}`}
          data-first={first || undefined}
          aria-current={marked ? 'true' : undefined}
          {...(tile.apart ? { target: '_blank', rel: 'noopener' } : {})}
        >
          {inside}
        </a>
      )}
      {menus !== undefined && (
        <button
          type="button"
          className="more"
          aria-haspopup="menu"
          aria-label={words.portal.moreOf(tile.name)}
          onClick={(event) => menus.tile(tile, section, event.currentTarget)}
        >
          ⋯
        </button>
      )}
    </li>
  );
});
