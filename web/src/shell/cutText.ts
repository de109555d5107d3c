/** What is cut off with an ellipsis tells the whole of itself to a pointer that rests on it. */
export function tellCutText(page: Document): void {
  page.addEventListener('pointerover', (event) => {
    for (
      let at = event.target instanceof HTMLElement ? event.target : null;
      at !== null && at !== page.body;
      at = at.parentElement
    ) {
      if (at.scrollWidth > at.clientWidth && getComputedStyle(at).textOverflow === 'ellipsis') {
        at.title = at.textContent?.trim() ?? '';
        return;
      }
    }
  });
}
