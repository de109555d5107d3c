/** Relative luminance of `#rrggbb` (WCAG 2.2); undefined for what is no colour. */
function luminance(colour: string): number | undefined {
  const found = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(colour.trim());
  if (found === null) {
    return undefined;
  }
  const [red, green, blue] = found.slice(1).map((channel) => {
    const value = Number.parseInt(channel, 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * (red ?? 0) + 0.7152 * (green ?? 0) + 0.0722 * (blue ?? 0);
}

/** Contrast of two colours, from 1 to 21; undefined if one of them is none. The server decides. */
export function contrast(one: string, other: string): number | undefined {
  const first = luminance(one);
  const second = luminance(other);
  return first === undefined || second === undefined
    ? undefined
    : (Math.max(first, second) + 0.05) / (Math.min(first, second) + 0.05);
}
