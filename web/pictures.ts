import { readFileSync, writeFileSync } from 'node:fs';
import type { Plugin } from 'vite';
import names from './src/pictures/names.json';

const OWN = {
  asks: 'hand-palm',
  leaves: 'sign-out',
  close: 'push-pin',
  front: 'house-line',
  requests: 'hourglass-medium',
  holds: 'hand-coins',
  me: 'user',
  day: 'calendar-blank',
};

/** Gathers the pictures of the set into one file, which browsers keep. */
export function pictures(): Plugin {
  return {
    name: 'pictures',
    buildStart() {
      const symbols = Object.entries({ ...names, ...OWN }).map(([word, file]) => {
        const svg = readFileSync(
          new URL(
            `./node_modules/@phosphor-icons/core/assets/duotone/${file}-duotone.svg`,
            import.meta.url,
          ),
          'utf8',
        );
        const inside = svg.slice(svg.indexOf('>') + 1, svg.lastIndexOf('</svg>'));
        return `<symbol id="${word}" viewBox="0 0 256 256" fill="currentColor">${inside}</symbol>`;
      });
      writeFileSync(
        new URL('./src/pictures/pictures.svg', import.meta.url),
        `<svg xmlns="http://www.w3.org/2000/svg">${symbols.join('')}</svg>\n`,
      );
    },
  };
}
