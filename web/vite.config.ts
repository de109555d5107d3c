import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';
import { paper } from './paper';
import { pictures } from './pictures';
import { worker } from './worker';

// While developing: the server takes acts from its own address only.
const ADDRESS = process.env.ELEUTHERIA ?? 'http://127.0.0.1:8080';
const SERVER = { target: ADDRESS, headers: { origin: ADDRESS } };

export default defineConfig({
  plugins: [react(), pictures(), paper(), worker()],
  build: {
    // The content policy allows no data: addresses for fonts and scripts.
    assetsInlineLimit: 0,
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    rollupOptions: {
      input: { index: 'index.html', worker: 'worker/worker.ts' },
      output: {
        // Its address is the same for ever, so that browsers find a newer one.
        entryFileNames: ({ name }) => (name === 'worker' ? '[name].js' : 'assets/[name]-[hash].js'),
      },
    },
  },
  css: {
    preprocessorOptions: {
      scss: {
        quietDeps: true,
        silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
      },
    },
  },
  server: {
    proxy: { '/api': SERVER, '/go': SERVER },
  },
  test: {
    environment: 'happy-dom',
    include: ['src/**/*.test.{ts,tsx}'],
    setupFiles: ['src/testing/everyTest.ts'],
    // One page for all files: to make a browser anew for each takes longer than the tests do.
    pool: 'threads',
    isolate: false,
    testTimeout: 60_000,
  },
});
