/** How dates and numbers are written: as the organisation says, or else as the browser does. */
let chosen: string | undefined;
const made = new Map<string, unknown>();

export function setLocale(locale: string): void {
  const wanted = Intl.DateTimeFormat.supportedLocalesOf(locale === '' ? [] : [locale])[0];
  if (wanted !== chosen) {
    chosen = wanted;
    made.clear();
  }
}

/** Formats are slow to make, so each is made when it is first wanted. */
function once<T>(kind: string, options: object, make: (locale: string | undefined) => T): T {
  const key = kind + JSON.stringify(options);
  const found = (made.get(key) as T | undefined) ?? make(chosen);
  made.set(key, found);
  return found;
}

export function dates(options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  return once('dates', options, (locale) => new Intl.DateTimeFormat(locale, options));
}

export function numbers(): Intl.NumberFormat {
  return once('numbers', {}, (locale) => new Intl.NumberFormat(locale));
}
