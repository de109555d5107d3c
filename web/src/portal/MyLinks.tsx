import { lazy, Suspense, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { Menu } from '../shell/Menu';
import { words } from '../words/portal';

const LinkDialog = lazy(() => import('./over').then((all) => ({ default: all.LinkDialog })));

type OwnLink = Schemas['OwnLinkView'];

/** Links that one keeps for oneself; nobody else sees them, and nobody notes that they are opened. */
export function MyLinks({ links }: { links: OwnLink[] }) {
  const navigate = useNavigate();
  const [menu, setMenu] = useState<{ link: OwnLink; anchor: HTMLElement }>();
  const [editing, setEditing] = useState<OwnLink>();
  return (
    <section className="shelf" aria-labelledby="my-links">
      <h2 id="my-links">
        {words.portal.myLinks} <span className="line">{words.portal.myLinksLine}</span>
      </h2>
      <ul className="tiles">
        {links.map((link) => (
          <li
            key={link.id}
            onContextMenu={(event) => {
              event.preventDefault();
              setMenu({
                link,
                anchor: event.currentTarget.querySelector('a') ?? event.currentTarget,
              });
            }}
          >
            <OwnTile link={link} />
            <button
              type="button"
              className="more"
              aria-haspopup="menu"
              aria-label={words.portal.moreOf(link.name)}
              onClick={(event) => setMenu({ link, anchor: event.currentTarget })}
            >
              ⋯
            </button>
          </li>
        ))}
      </ul>
      {menu !== undefined && (
        <Menu
          label={words.portal.moreOf(menu.link.name)}
          anchor={menu.anchor}
          items={[
            { name: words.portal.editLink, act: () => setEditing(menu.link) },
            {
              name: words.portal.suggestLink,
              act: () =>
                navigate(
                  `/suggest?name=${encodeURIComponent(menu.link.name)}&address=${encodeURIComponent(menu.link.address)}#suggest`,
                ),
            },
          ]}
          onClose={() => setMenu(undefined)}
        />
      )}
      <Suspense>
        {editing !== undefined && (
          <LinkDialog
            link={editing}
            isNew={false}
            maySuggest
            onClose={() => setEditing(undefined)}
          />
        )}
      </Suspense>
    </section>
  );
}

/** A link of one's own, drawn as a tile. */
export function OwnTile({ link, first = false }: { link: OwnLink; first?: boolean }) {
  const host = hostOf(link.address);
  const inside = (
    <>
      <Picture name={link.picture} hue={link.hue} />
      <span className="words">
        <b dir="auto">{link.name}</b>
        <span>{link.allowed ? host : words.portal.linkNotAllowed}</span>
      </span>
    </>
  );
  return link.allowed ? (
    <a
      className={first ? 'tile first' : 'tile'}
      data-first={first || undefined}
      href={link.address}
      rel="noopener noreferrer"
      target="_blank"
    >
      {inside}
    </a>
  ) : (
    <span className="tile offered">{inside}</span>
  );
}

function hostOf(address: string): string {
  try {
    return new URL(address).host;
  } catch {
    return address;
  }
}
