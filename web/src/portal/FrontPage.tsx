import {
  lazy,
  memo,
  Suspense,
  useCallback,
  useDeferredValue,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { Link } from 'react-router';
import { api, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import { fitting } from '../shell/fitting';
import { isTyping } from '../shell/keys';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading } from '../shell/states';
import { words } from '../words/portal';
import { useFront } from './front';
import { MyLinks, OwnTile } from './MyLinks';
import { Notices } from './Notices';
import { PortalFrame } from './PortalFrame';
import { type Menus, OneTile, PINNED, Shelves } from './Shelves';
import { seeking } from './seeking';
import { steer } from './steering';
import { type About, SectionMenu, TileMenu } from './TileMenu';
import { Tips } from './Tips';
import { FORMS, NO_OWN, useDevice, useForm, useOwnPortal } from './useOwnPortal';

type Section = Schemas['SectionView'];
type Tile = Schemas['TileView'];

// What opens over the page comes when it is wanted.
const WhyDialog = lazy(() => import('./over').then((all) => ({ default: all.WhyDialog })));
const HandBackDialog = lazy(() =>
  import('./over').then((all) => ({ default: all.HandBackDialog })),
);
const ComplaintDialog = lazy(() =>
  import('./over').then((all) => ({ default: all.ComplaintDialog })),
);
const Keys = lazy(() => import('./over').then((all) => ({ default: all.Keys })));

/** More than fit on a screen; who wants another types on. */
const MOST_HITS = 60;
const MOST_LATELY = 6;

/** On a page that is seen at one look, what was opened lately is in sight anyway. */
const MANY = 12;

/** The shape of what comes. */
const SKELETON = [1, 2, 3, 4, 5, 6, 7, 8];

/** Where tiles stand that are found by typing. */
const HITS: Section = { id: 'hits', name: '', line: '', tiles: [] };

type Opened =
  | { tile: Tile; section: Section; anchor: HTMLElement }
  | { tile: null; section: Section; anchor: HTMLElement };

/** What staff open: their collections with what they hold; typing anywhere finds a tile. */
export function FrontPage() {
  const { brand } = useSession();
  const field = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [opened, setOpened] = useState<Opened>();
  const [about, setAbout] = useState<{ what: About; tile: Tile }>();
  const [keys, setKeys] = useState(false);
  const front = useFront();
  const portal = useOwnPortal();
  const [get] = useAddress();
  const pointed = get('tile');
  const page = front.data;
  const own = page?.own ?? NO_OWN;
  const device = useDevice();
  const form = useForm(own);

  // Drawn in small pieces: what is typed meanwhile is answered first.
  const drawn = useDeferredValue<Schemas['PageView'] | null | undefined>(page, null);
  const typed = text.trim() !== '';
  const hits = useMemo(
    () => (typed && page ? fitting(seeking(page.sections, own.links), text) : []),
    [typed, page, own.links, text],
  );
  // Made ready while nobody waits for it.
  useEffect(() => {
    if (page) {
      const ready = setTimeout(() => seeking(page.sections, page.own?.links), 1000);
      return () => clearTimeout(ready);
    }
  }, [page]);

  // What finds nothing is told to whoever arranges the portal, without a name, once it is settled.
  const inVain = text.trim().length > 1 && page !== undefined && page !== null && hits.length === 0;
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

  // Letters typed anywhere on the page go into the field; arrows go through the tiles. As soon as
  // the tiles are there, so that no letter is lost.
  useLayoutEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const over = document.querySelector('.modal.show, .menu') !== null;
      if (over || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) {
        return;
      }
      const main = document.querySelector('main');
      if (event.target === field.current) {
        if (event.key === 'ArrowDown' && main !== null && steer('Home', main)) {
          event.preventDefault();
        }
      } else if (isTyping(event.target)) {
        return;
      } else if (event.key === '?') {
        setKeys(true);
      } else if (event.key === '/') {
        event.preventDefault();
        field.current?.focus();
      } else if (event.key === 'Escape') {
        field.current?.focus();
        setText('');
      } else if (event.key.length === 1 && event.key !== ' ') {
        field.current?.focus();
      } else if (main !== null && steer(event.key, main)) {
        event.preventDefault();
      }
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);

  const close = useCallback(() => setOpened(undefined), []);
  const over = useCallback(() => setAbout(undefined), []);
  const menus = useMemo<Menus>(
    () => ({
      tile: (tile, section, anchor) => setOpened({ tile, section, anchor }),
      section: (section, anchor) => setOpened({ tile: null, section, anchor }),
    }),
    [],
  );

  return (
    <PortalFrame
      form={form}
      search={
        <search className="seek">
          <input
            ref={field}
            type="text"
            className="form-control"
            aria-label={words.portal.seek}
            placeholder={device === 'phone' ? words.portal.seekPhone : words.portal.seek}
            autoComplete="off"
            enterKeyHint="go"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && typed) {
                event.preventDefault();
                document.querySelector<HTMLElement>('[data-first]')?.click();
              } else if (event.key === 'Escape') {
                setText('');
              }
            }}
          />
        </search>
      }
    >
      <PageHeading className="visually-hidden">{words.portal.front}</PageHeading>
      {front.error ? (
        <Failure error={front.error} again={() => front.refetch()} />
      ) : page === undefined || page === null ? (
        <Loading what={words.portal.front} lines={10} />
      ) : (
        <>
          <Notices page={page} />
          {page.sections.length > 0 && <Tips own={own} />}
          <div role="status" className="visually-hidden">
            {typed && words.portal.hits(hits.length)}
          </div>
          {typed && (
            <section className="shelf hits" aria-label={words.portal.hits(hits.length)}>
              {hits.length === 0 ? (
                <Empty
                  title={words.portal.noHit(text)}
                  action={
                    <Link to={`/ask?find=${encodeURIComponent(text)}`}>
                      {words.portal.askFor(text)}
                    </Link>
                  }
                />
              ) : (
                <>
                  <ul className="tiles">
                    {hits.slice(0, MOST_HITS).map(({ id, tile, link }, place) =>
                      tile === undefined ? (
                        <li key={id}>
                          <OwnTile link={link} first={place === 0} />
                        </li>
                      ) : (
                        <OneTile
                          key={id}
                          section={HITS}
                          tile={tile}
                          first={place === 0}
                          marked={false}
                          menus={menus}
                        />
                      ),
                    )}
                  </ul>
                  {hits.length > MOST_HITS && (
                    <p className="dim">{words.portal.moreHits(hits.length - MOST_HITS)}</p>
                  )}
                </>
              )}
            </section>
          )}
          {page.sections.length === 0 ? (
            <>
              <Nothing page={page} help={brand.help} />
              {own.links.length > 0 && <MyLinks links={own.links} />}
              <Bring />
            </>
          ) : (
            // Kept as it is while somebody types, so that it is there again at once.
            <div className="shelves" hidden={typed}>
              {drawn === undefined || drawn === null ? (
                <ul className="tiles" aria-hidden>
                  {SKELETON.map((place) => (
                    <li key={place} className="skeleton" />
                  ))}
                </ul>
              ) : (
                <Shelved page={drawn} form={form} pointed={pointed} menus={menus} />
              )}
            </div>
          )}
        </>
      )}
      {opened !== undefined &&
        (opened.tile === null ? (
          <SectionMenu
            section={opened.section}
            anchor={opened.anchor}
            onHide={portal.hide}
            onClose={close}
          />
        ) : (
          <TileMenu
            key={opened.tile.id}
            tile={opened.tile}
            close={own.pinned}
            inClose={opened.section.id === PINNED}
            anchor={opened.anchor}
            onAbout={(what) => setAbout({ what, tile: opened.tile })}
            onClose={close}
          />
        ))}
      <Suspense>
        {about?.what === 'why' && (
          <WhyDialog
            tile={about.tile}
            onHandBack={() => setAbout({ what: 'hand back', tile: about.tile })}
            onClose={over}
          />
        )}
        {about?.what === 'hand back' && <HandBackDialog tile={about.tile} onClose={over} />}
        {about?.what === 'report' && <ComplaintDialog tile={about.tile} onClose={over} />}
        {keys && <Keys onClose={() => setKeys(false)} />}
      </Suspense>
    </PortalFrame>
  );
}

/** Everything that stands on the page where nobody types. */
const Shelved = memo(function Shelved({
  page,
  form,
  pointed,
  menus,
}: {
  page: Schemas['PageView'];
  form: string;
  pointed: string;
  menus: Menus;
}) {
  const portal = useOwnPortal();
  const own = page.own ?? NO_OWN;
  const sections = useMemo(() => shown(page.sections, own), [page.sections, own]);

  // A link that points out a tile brings it into sight and under the keys.
  useEffect(() => {
    if (pointed !== '') {
      const found = document.querySelector<HTMLElement>('.tile.pointed');
      found?.scrollIntoView({ block: 'center' });
      found?.focus();
    }
  }, [pointed]);

  return (
    <>
      <div className="above">
        <Lately page={page} own={own} />
        <Drawn form={form} onChoose={portal.draw} />
        <Bring />
      </div>
      <Shelves
        sections={sections.filter((section) => section.id !== null)}
        marked={pointed || undefined}
        menus={menus}
      />
      {own.links.length > 0 && <MyLinks links={own.links} />}
      <Shelves
        sections={sections.filter((section) => section.id === null)}
        marked={pointed || undefined}
        menus={menus}
      />
      <Hidden sections={page.sections} own={own} onShow={portal.show} />
    </>
  );
});

function Bring() {
  return (
    <p className="bring">
      <Link to="/suggest">{words.portal.add}</Link>
    </p>
  );
}

/** What a person sees of their page: what they have pinned before all, what they hid not at all. */
export function shown(sections: Section[], own: Schemas['OwnView']): Section[] {
  const tiles = new Map<string, Tile>();
  for (const section of sections) {
    for (const tile of section.tiles) {
      if (tile.offered === null) {
        tiles.set(tile.id, tile);
      }
    }
  }
  const pinned = own.pinned.flatMap((id) => tiles.get(id) ?? []);
  const rest = sections.filter(
    (section) => section.id === null || !own.hidden.includes(section.id),
  );
  if (pinned.length === 0) {
    return rest;
  }
  // What is pinned stands above alone; its section says how many of it are there.
  const below = rest.flatMap((section) => {
    const left = section.tiles.filter((tile) => !own.pinned.includes(tile.id));
    const above = section.tiles.length - left.length;
    if (above === 0) {
      return section;
    }
    return left.length === 0 && section.id === null
      ? []
      : {
          ...section,
          line: [section.line, words.portal.pinnedAbove(above, left.length)]
            .filter((part) => part !== '')
            .join('; '),
          tiles: left,
        };
  });
  return [
    { id: PINNED, name: words.portal.pinned, line: words.portal.pinnedLine, tiles: pinned },
    ...below,
  ];
}

/** Nothing is held yet: what happens next, and whom to ask. */
function Nothing({ page, help }: { page: Schemas['PageView']; help: string }) {
  return (
    <Empty
      title={words.portal.empty}
      action={
        <Link className="btn btn-primary" to="/ask">
          {words.portal.ask}
        </Link>
      }
    >
      {words.portal.emptyHelp} {page.waiting > 0 && words.portal.emptyWaits(page.waiting)}{' '}
      {page.whom !== '' && words.portal.whom(page.whom)}{' '}
      {help !== '' && `${words.portal.help} ${help}`}
    </Empty>
  );
}

/** What was opened last, in one short row. */
function Lately({ page, own }: { page: Schemas['PageView']; own: Schemas['OwnView'] }) {
  const tiles = new Map(
    page.sections
      .flatMap((section) => section.tiles)
      .filter((tile) => tile.offered === null)
      .map((tile) => [tile.id, tile]),
  );
  const lately = page.recent
    .filter((id) => !own.pinned.includes(id))
    .flatMap((id) => tiles.get(id) ?? [])
    .slice(0, MOST_LATELY);
  if (tiles.size <= MANY || lately.length === 0) {
    return <span className="grow" />;
  }
  return (
    <nav className="lately" aria-label={words.portal.lately}>
      <span className="dim">{words.portal.lately}</span>
      {lately.map((tile) => (
        <a
          key={tile.id}
          href={`/go/${tile.id}`}
          {...(tile.apart ? { target: '_blank', rel: 'noopener' } : {})}
        >
          <Picture name={tile.picture} hue={tile.hue} size={24} />
          <span dir="auto">{tile.name}</span>
        </a>
      ))}
    </nav>
  );
}

/** How tiles are drawn on this kind of device. */
function Drawn({
  form,
  onChoose,
}: {
  form: string;
  onChoose: (form: 'tiles' | 'lines' | 'marks') => void;
}) {
  return (
    <div className="drawn" role="group" aria-label={words.portal.showAs}>
      <span className="dim" aria-hidden>
        {words.portal.showAs}
      </span>
      {FORMS.map((one) => (
        <button key={one} type="button" aria-pressed={form === one} onClick={() => onChoose(one)}>
          {words.portal.forms[one]}
        </button>
      ))}
    </div>
  );
}

/** Sections that somebody has hidden for themselves, so that nothing is ever lost. */
function Hidden({
  sections,
  own,
  onShow,
}: {
  sections: Section[];
  own: Schemas['OwnView'];
  onShow: (collection: string) => void;
}) {
  const hidden = sections.filter((one) => one.id !== null && own.hidden.includes(one.id));
  return hidden.length === 0 ? null : (
    <p className="hidden-ones">
      <span className="dim">{words.portal.hidden}</span>{' '}
      {hidden.map((section) => (
        <button
          key={section.id}
          type="button"
          className="link"
          onClick={() => onShow(section.id ?? '')}
        >
          {words.portal.showAgain(section.name)}
        </button>
      ))}
    </p>
  );
}
