import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';
import { pictures } from './pictures';

export default defineConfig({
  plugins: [react(), pictures()],
  build: {
    // The content policy allows no data: addresses for fonts and scripts.
    assetsInlineLimit: 0,
    target: 'es2022',
    chunkSizeWarningLimit: 700,
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
    proxy: { '/api': 'http://127.0.0.1:8088', '/go': 'http://127.0.0.1:8088' },
  },
  test: {
    environment: 'happy-dom',
    include: ['src/**/*.test.{ts,tsx}'],
  },
});
