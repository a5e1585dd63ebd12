import { defineConfig } from 'vite';
// @ts-expect-error: the scripts are plain JavaScript
import { pageAlias, pagePlugins, quietSass, smallest } from '../scripts/lib/page-build.mjs';

/** What is built: the elements, one module with what it fetches when it is needed beside it; or, in the mode `light`, the function alone. */
const inputs = { light: { light: 'light.ts' }, production: { embed: 'main.ts' } };

export default defineConfig(({ mode }) => ({
  plugins: pagePlugins,
  resolve: { alias: pageAlias },
  base: './',
  build: {
    outDir: '../dist/web',
    emptyOutDir: false,
    target: 'es2022',
    ...smallest,
    // On pages of others every byte counts.
    terserOptions: {
      module: true,
      ecma: 2020,
      compress: { passes: 4, ecma: 2020, unsafe_arrows: true, unsafe_methods: true, hoist_props: true },
    },
    modulePreload: false,
    rollupOptions: {
      input: inputs[mode as keyof typeof inputs],
      preserveEntrySignatures: 'strict',
      output: {
        entryFileNames: mode === 'light' ? 'embed/light.js' : 'embed.js',
        chunkFileNames: 'embed/[name]-[hash].js',
      },
    },
  },
  css: { preprocessorOptions: quietSass },
}));
