import sprite from './pictures.svg?url';

/** A picture of the small set, in one of its colours; the name beside it says what it is. */
export function Picture({ name, hue, size = 42 }: { name: string; hue: string; size?: number }) {
  return (
    <span className={`picture hue-${hue}`} style={{ width: size, height: size }} aria-hidden>
      <Sign name={name} size={Math.round(size * 0.62)} />
    </span>
  );
}

/** A picture alone. */
export function Sign({ name, size = 20 }: { name: string; size?: number }) {
  return (
    <svg width={size} height={size} aria-hidden="true" focusable="false">
      <use href={`${sprite}#${name}`} />
    </svg>
  );
}
