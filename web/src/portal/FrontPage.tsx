import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api } from '../api/client';
import { useAddress } from '../shell/addresses';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';
import { fitting } from './fitting';
import { useFront } from './front';
import { PortalFrame } from './PortalFrame';
import { Shelves } from './Shelves';

/** What staff open: their collections with what they hold; typing anywhere finds a tile. */
export function FrontPage() {
  const { zone, brand } = useSession();
  const field = useRef<HTMLInputElement>(null);
  const first = useRef<HTMLAnchorElement>(null);
  const [text, setText] = useState('');
  const front = useFront();
  const [get] = useAddress();
  const pointed = get('tile');
  const there = front.data?.sections.some((section) =>
    section.tiles.some((tile) => tile.id === pointed),
  );

  // A link that points out a tile brings it into sight and under the keys.
  useEffect(() => {
    if (there) {
      const found = document.getElementById(`t-${pointed}`);
      found?.scrollIntoView({ block: 'center' });
      found?.focus();
    }
  }, [there, pointed]);

  // What finds nothing is told to whoever arranges the portal, without a name, once it is settled.
  const inVain =
    text.trim().length > 1 &&
    front.data !== undefined &&
    front.data !== null &&
    fitting(front.data.sections, text).length === 0;
  useEffect(() => {
    if (!inVain) {
      return;
    }
    const timer = setTimeout(() => {
      // Nobody waits for it, and nobody misses it.
      void api.POST('/api/front/sought', { body: { words: text } }).catch(() => undefined);
    }, 1500);
    return () => clearTimeout(timer);
  }, [inVain, text]);

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
          {page.notice !== '' && (
            <div className="notice" dir="auto">
              <span>{page.notice}</span>
            </div>
          )}
          {page.ends.map((notice) => (
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
              {words.portal.emptyHelp} {page.whom !== '' && words.portal.whom(page.whom)}{' '}
              {brand.help !== '' && `${words.portal.help} ${brand.help}`}
            </Empty>
          )}
          <Shelves
            sections={sections}
            first={text === '' ? undefined : first}
            marked={get('tile') || undefined}
          />
        </>
      )}
    </PortalFrame>
  );
}
