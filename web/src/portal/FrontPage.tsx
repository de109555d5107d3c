import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';
import { fitting } from './fitting';
import { useFront } from './front';
import { PortalFrame } from './PortalFrame';

/** What staff open: their collections with what they hold; typing anywhere finds a tile. */
export function FrontPage() {
  const { zone } = useSession();
  const field = useRef<HTMLInputElement>(null);
  const first = useRef<HTMLAnchorElement>(null);
  const [text, setText] = useState('');
  const front = useFront();

  // Letters typed anywhere on the page go into the field.
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const target = event.target;
      const typing =
        target instanceof HTMLElement && ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
      if (
        !typing &&
        event.key.length === 1 &&
        event.key !== ' ' &&
        !event.ctrlKey &&
        !event.metaKey &&
        !event.altKey
      ) {
        field.current?.focus();
      }
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);

  const page = front.data;
  const sections = page === undefined || page === null ? [] : fitting(page.sections, text);
  const hits = sections.reduce((sum, section) => sum + section.tiles.length, 0);
  let marked = false;
  return (
    <PortalFrame
      search={
        <search className="seek">
          <input
            ref={field}
            type="text"
            className="form-control"
            aria-label={words.portal.seek}
            placeholder={words.portal.seek}
            autoComplete="off"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && text !== '') {
                event.preventDefault();
                first.current?.click();
              } else if (event.key === 'Escape') {
                setText('');
              }
            }}
          />
        </search>
      }
    >
      <h1 className="visually-hidden">{words.portal.front}</h1>
      {front.error ? (
        <Failure error={front.error} again={() => front.refetch()} />
      ) : page === undefined || page === null ? (
        <Loading what={words.portal.front} lines={10} />
      ) : (
        <>
          {page.notices.map((notice) => (
            <div key={notice.entitlement.id} className="notice">
              <span>
                <b>
                  {words.portal.ends(
                    notice.entitlement.title,
                    tellDay(lastDay(zone, notice.until)),
                  )}
                </b>{' '}
                {words.portal.endsItself}
              </span>
              <Link to={`/ask/${notice.entitlement.id}`}>{words.portal.keep}</Link>
            </div>
          ))}
          <div role="status" className="visually-hidden">
            {text !== '' && words.portal.hits(hits)}
          </div>
          {text !== '' && hits === 0 && (
            <Empty
              title={words.portal.noHit(text)}
              action={
                <Link to={`/ask?find=${encodeURIComponent(text)}`}>
                  {words.portal.askFor(text)}
                </Link>
              }
            />
          )}
          {page.sections.length === 0 && (
            <Empty title={words.portal.empty} action={<Link to="/ask">{words.portal.ask}</Link>}>
              {words.portal.emptyHelp}
            </Empty>
          )}
          {sections.map((section) => (
            <section
              key={section.id ?? 'also'}
              className="shelf"
              aria-labelledby={`s-${section.id ?? 'also'}`}
            >
              <h2 id={`s-${section.id ?? 'also'}`}>
                {section.id === null ? words.portal.also : section.name}{' '}
                <span className="line">
                  {section.id === null ? words.portal.alsoLine : section.line}
                </span>
              </h2>
              <ul className="tiles">
                {section.tiles.map((tile) => {
                  const mark = text !== '' && !marked;
                  marked = true;
                  return (
                    <li key={tile.id}>
                      <TileLink tile={tile} first={mark ? first : undefined} />
                    </li>
                  );
                })}
              </ul>
            </section>
          ))}
        </>
      )}
    </PortalFrame>
  );
}

function TileLink({
  tile,
  first,
}: {
  tile: Schemas['TileView'];
  first?: React.RefObject<HTMLAnchorElement | null>;
}) {
  const inside = (
    <>
      <Picture name={tile.picture} hue={tile.hue} />
      <span className="words">
        <b>{tile.name}</b>
        <span>{tile.line}</span>
      </span>
      {tile.offered !== null && <span className="tag">{words.portal.offered}</span>}
      {first !== undefined && <kbd aria-hidden>Enter</kbd>}
    </>
  );
  const className = `tile${tile.offered === null ? '' : ' offered'}${first === undefined ? '' : ' first'}`;
  return tile.offered === null ? (
    <a ref={first} className={className} href={`/go/${tile.id}`}>
      {inside}
    </a>
  ) : (
    <Link ref={first} className={className} to={`/ask/${tile.offered}`}>
      {inside}
    </Link>
  );
}
