import sprite from './pictures.svg?url';

const OWN = 'own:';

/** A picture of the small set in one of its colours, or an uploaded one; the name beside it says what it is. */
export function Picture({ name, hue, size = 42 }: { name: string; hue: string; size?: number }) {
  return name.startsWith(OWN) ? (
    <span className="picture own" style={{ width: size, height: size }}>
      <Uploaded word={name} size={size} />
    </span>
  ) : (
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

/** An uploaded picture: never anything but an image. */
export function Uploaded({ word, size }: { word: string; size: number }) {
  return (
    <img
      src={`/api/pictures/${word.slice(OWN.length)}`}
      alt=""
      width={size}
      height={size}
      decoding="async"
    />
  );
}
