import { readFileSync } from 'node:fs';
import type { Plugin } from 'vite';
import { decompress } from 'wawoff2';

/** The faces of the product that reports on paper are set in: where a file lies, what it is called. */
const FACES = {
  'text-400': 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal',
  'text-ext-400':
    'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal',
  'text-700': 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal',
  'text-ext-700':
    'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal',
  'title-700': 'bricolage-grotesque/files/bricolage-grotesque-latin-700-normal',
  'title-ext-700': 'bricolage-grotesque/files/bricolage-grotesque-latin-ext-700-normal',
};

/** Unpacks the faces for the server, whose PDF writer reads no WOFF 2. Browsers never ask for them. */
export function paper(): Plugin {
  return {
    name: 'paper',
    apply: 'build',
    async generateBundle() {
      for (const [name, file] of Object.entries(FACES)) {
        const packed = readFileSync(
          new URL(`./node_modules/@fontsource/${file}.woff2`, import.meta.url),
        );
        this.emitFile({
          type: 'asset',
          fileName: `paper/${name}.ttf`,
          source: await decompress(packed),
        });
      }
    },
  };
}
