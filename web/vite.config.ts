import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
// @ts-expect-error: the scripts are plain JavaScript
import { pageAlias, pagePlugins, quietSass, smallest } from '../scripts/lib/page-build.mjs';

/** Where the server listens while the page is worked on (`npm run dev`). */
const api = process.env.SORVIK_API ?? 'http://127.0.0.1:4310';

export default defineConfig({
  plugins: [react(), ...pagePlugins],
  resolve: { alias: pageAlias },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    ...smallest,
    chunkSizeWarningLimit: 850,
  },
  css: { preprocessorOptions: quietSass },
  server: { proxy: { '/api': api, '/healthz': api } },
});
