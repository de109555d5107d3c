declare module 'wawoff2' {
  /** A font of WOFF 2 as TrueType or OpenType. */
  export function decompress(woff2: Uint8Array): Promise<Uint8Array>;
}
