/**
 * Something in a form is not whole yet: a half-typed day, a condition without its value. Sent as it
 * is, the form would say something else than what stands in it.
 */
export function unfinishedIn(form: ParentNode): HTMLElement | undefined {
  return form.querySelector<HTMLElement>('[data-unfinished]') ?? undefined;
}

/** No form is sent while something in it is unfinished: that is gone to instead. */
export function keepUnfinished(page: Document): void {
  page.addEventListener(
    'submit',
    (event) => {
      const field =
        event.target instanceof HTMLFormElement ? unfinishedIn(event.target) : undefined;
      if (field !== undefined) {
        event.preventDefault();
        event.stopPropagation();
        field.focus();
        // Leaving it is when it says what is wrong.
        field.blur();
        field.focus();
      }
    },
    true,
  );
}
