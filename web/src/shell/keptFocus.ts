const HEADINGS = 'h1, h2, h3';

/** What still stands of the places in which something stood, the innermost first. */
function standing(places: Element[]): Element | undefined {
  return places.find((one) => one.isConnected);
}

function takesFocus(element: Element): boolean {
  return element instanceof HTMLElement && element.tabIndex >= 0 && !element.matches(':disabled');
}

/** The nearest thing that can have the focus and says where one is. */
function nearest(place: Element): HTMLElement | undefined {
  for (let at: Element | null = place; at !== null; at = at.parentElement) {
    if (at !== place.ownerDocument.body && takesFocus(at)) {
      return at as HTMLElement;
    }
    const heading = [...at.querySelectorAll<HTMLElement>(HEADINGS)].find(
      (one) => one.closest('[hidden]') === null,
    );
    if (heading !== undefined) {
      return heading;
    }
  }
  return undefined;
}

/**
 * Keeps the focus on the page. Whatever had it may go away after an act, or be unable to act for a
 * moment; then it goes back there, or to the heading of the place where that stood.
 */
export function keepFocus(page: Document): () => void {
  let last: Element | undefined;
  let places: Element[] = [];
  const takes = (event: FocusEvent) => {
    if (event.target instanceof Element) {
      last = event.target;
      places = [];
      for (let at = last.parentElement; at !== null; at = at.parentElement) {
        places.push(at);
      }
    }
  };
  // Whoever presses beside what has the focus has left it on purpose.
  const leaves = (event: Event) => {
    const at = page.activeElement;
    const within = event.target instanceof Node && at?.contains(event.target);
    if (at === page.body || !within) {
      last = undefined;
    }
  };
  const mend = () => {
    if (last === undefined || (page.activeElement !== page.body && page.activeElement !== null)) {
      return;
    }
    if (last.isConnected) {
      if (takesFocus(last)) {
        (last as HTMLElement).focus({ preventScroll: true });
      }
      return;
    }
    const place = standing(places);
    const target = place === undefined ? undefined : nearest(place);
    if (target !== undefined) {
      if (!target.hasAttribute('tabindex') && !takesFocus(target)) {
        target.tabIndex = -1;
      }
      target.focus({ preventScroll: true });
    }
  };
  let wanted = false;
  const watch = new MutationObserver(() => {
    if (!wanted && last !== undefined && page.activeElement === page.body) {
      wanted = true;
      // A dialog that closes gives the focus back by itself, a moment later.
      setTimeout(() => {
        wanted = false;
        mend();
      }, 0);
    }
  });
  watch.observe(page.body, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ['disabled'],
  });
  page.addEventListener('focusin', takes);
  page.addEventListener('pointerdown', leaves, true);
  return () => {
    watch.disconnect();
    page.removeEventListener('focusin', takes);
    page.removeEventListener('pointerdown', leaves, true);
  };
}
