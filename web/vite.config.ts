import { fileURLToPath } from 'node:url';
import { parse } from '@formatjs/icu-messageformat-parser';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/** Where the server listens while the page is worked on (`npm run dev`). */
const api = process.env.SORVIK_API ?? 'http://127.0.0.1:4310';

/** What decorates the properties of spec classes: how documents are checked, which the server does. */
const decorations = /^__decorateClass\(\[\n[\s\S]*?^\], [\w$]+\.prototype, "[\w$]+", \d\);$/gm;

/** Takes the checks out of the spec classes of the core: with them go the validators, and all that only those need. */
const withoutChecks: Plugin = {
  name: 'without-checks',
  enforce: 'post',
  apply: 'build',
  transform: (code, id) =>
    /\/core\/\w+\//.test(id) ? { code: code.replace(decorations, ''), map: null } : null,
};

/**
 * Parses the messages of the catalogues while building: the page fills in slots and needs no parser for that, which
 * would be four times as large.
 */
const parsedMessages: Plugin = {
  name: 'parsed-messages',
  enforce: 'pre',
  transform(code, id) {
    if (!/\/messages\/(\w+\/)?\w+\.json$/.test(id)) return null;
    const messages = Object.entries(JSON.parse(code) as Record<string, string>).map(([name, text]) => [
      name,
      parse(text, { ignoreTag: true }),
    ]);
    return { code: JSON.stringify(Object.fromEntries(messages)), map: null };
  },
};

export default defineConfig({
  plugins: [react(), parsedMessages, withoutChecks],
  resolve: {
    alias: [
      {
        find: /^@formatjs\/icu-messageformat-parser$/,
        replacement: '@formatjs/icu-messageformat-parser/no-parser.js',
      },
      {
        find: /^(class-validator|class-transformer|reflect-metadata\/lite)$/,
        replacement: fileURLToPath(new URL('./without-validation.ts', import.meta.url)),
      },
    ],
  },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    // Smaller than the default makes it, at twenty seconds more of building.
    minify: 'terser',
    terserOptions: { compress: { passes: 2 } },
    chunkSizeWarningLimit: 850,
  },
  css: {
    preprocessorOptions: {
      scss: {
        quietDeps: true,
        silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
      },
    },
  },
  server: { proxy: { '/api': api, '/healthz': api } },
});
