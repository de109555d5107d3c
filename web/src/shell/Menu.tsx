import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';

export type Item = {
  name: string;
  /** What is done; an item without it only tells. */
  act: () => void;
  /** Whether a line stands above it. */
  apart?: boolean;
};

/**
 * A menu beside what it belongs to (WAI-ARIA menu button pattern): arrows move, Enter acts, Escape
 * closes and gives the focus back.
 */
export function Menu({
  label,
  anchor,
  items,
  head,
  onClose,
}: {
  label: string;
  anchor: HTMLElement;
  items: Item[];
  head?: ReactNode;
  onClose: () => void;
}) {
  const menu = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<{ left: number; top: number }>();

  useLayoutEffect(() => {
    const own = menu.current;
    if (own === null) {
      return;
    }
    const by = anchor.getBoundingClientRect();
    const left = Math.max(
      8,
      Math.min(by.right - own.offsetWidth, innerWidth - own.offsetWidth - 8),
    );
    const below = by.bottom + 4;
    const top =
      below + own.offsetHeight + 8 <= innerHeight
        ? below
        : Math.max(8, by.top - own.offsetHeight - 4);
    setPlace({ left, top });
  }, [anchor]);

  // What is not in its place yet takes no focus.
  const placed = place !== undefined;
  useEffect(() => {
    if (placed) {
      menu.current?.querySelector<HTMLElement>('[role="menuitem"]')?.focus({ preventScroll: true });
    }
  }, [placed]);

  useEffect(() => {
    const away = (event: Event) => {
      if (event.target instanceof Node && !menu.current?.contains(event.target)) {
        onClose();
      }
    };
    document.addEventListener('pointerdown', away);
    window.addEventListener('resize', onClose);
    return () => {
      document.removeEventListener('pointerdown', away);
      window.removeEventListener('resize', onClose);
    };
  }, [onClose]);

  const back = () => {
    onClose();
    anchor.focus({ preventScroll: true });
  };
  // Over the page: what it belongs to may keep its own things inside its borders.
  return createPortal(
    <div
      ref={menu}
      className="menu"
      role="menu"
      tabIndex={-1}
      aria-label={label}
      style={place ?? { visibility: 'hidden', left: 0, top: 0 }}
      onKeyDown={(event) => {
        event.stopPropagation();
        const all = [...(menu.current?.querySelectorAll<HTMLElement>('[role="menuitem"]') ?? [])];
        const at = all.indexOf(document.activeElement as HTMLElement);
        const to = {
          ArrowDown: (at + 1) % all.length,
          ArrowUp: (at - 1 + all.length) % all.length,
          Home: 0,
          End: all.length - 1,
        }[event.key];
        if (to !== undefined) {
          event.preventDefault();
          all[to]?.focus();
        } else if (event.key === 'Escape' || event.key === 'Tab') {
          event.preventDefault();
          back();
        }
      }}
    >
      {head}
      {items.map((item) => (
        <button
          key={item.name}
          type="button"
          role="menuitem"
          tabIndex={-1}
          className={item.apart ? 'apart' : undefined}
          onClick={() => {
            back();
            item.act();
          }}
        >
          {item.name}
        </button>
      ))}
    </div>,
    document.body,
  );
}
