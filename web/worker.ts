import { createHash } from 'node:crypto';
import type { Plugin } from 'vite';

const WORKER = 'worker.js';

/** What the portal needs where there is no network: not the desk, nor letters of other scripts. */
const LEFT_OUT = /Desk-|Calendar-|latin-ext|vietnamese|mono|^paper/;

/** Tells the worker which files to keep; those with a hash in their name never change. */
export function worker(): Plugin {
  return {
    name: 'worker',
    enforce: 'post',
    generateBundle(_, bundle) {
      const files = Object.values(bundle)
        .filter(({ fileName }) => fileName !== WORKER && !LEFT_OUT.test(fileName))
        .map((file) => ({
          url: `/${file.fileName}`,
          revision: file.fileName.startsWith('assets/')
            ? null
            : createHash('sha256')
                .update(file.type === 'asset' ? file.source : file.code)
                .digest('hex')
                .slice(0, 16),
        }));
      const own = bundle[WORKER];
      if (own?.type === 'chunk') {
        own.code = `const FILES=${JSON.stringify(files)};${own.code}`;
      }
    },
  };
}
