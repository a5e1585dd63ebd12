import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { command } from './command.mjs';
import { say } from './say.mjs';

const sources = [
  'formula',
  'core',
  'view',
  'embed',
  'server',
  'web',
  'demo',
  'package-lock.json',
  'tsconfig.json',
  'scripts/lib/build.mjs',
  'scripts/lib/page-build.mjs',
];

function addTo(hash, path, entry) {
  const files = readdirSync(path, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
  for (const file of files) {
    if (file.name === 'node_modules' || file.name.includes('.test.')) continue;
    const full = join(path, file.name);
    if (file.isDirectory()) addTo(hash, full, `${entry}/${file.name}`);
    else hash.update(`${entry}/${file.name}\0`).update(readFileSync(full));
  }
}

function sourceHash(root) {
  const hash = createHash('sha256');
  for (const source of sources) {
    const path = join(root, source);
    if (source.includes('.')) hash.update(readFileSync(path));
    else addTo(hash, path, source);
  }
  return hash.digest('hex');
}

/** How a Node entry is bundled: the project's own modules go in, packages stay outside. */
const bundled = (root, entry, outfile, plugins = []) => ({
  absWorkingDir: root,
  entryPoints: [entry],
  outfile,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  logLevel: 'warning',
  plugins: [
    {
      name: 'packages-stay-outside',
      setup(api) {
        api.onResolve({ filter: /^[^./]/ }, ({ path }) =>
          path.startsWith('@sorvik/') ? undefined : { path, external: true },
        );
      },
    },
    ...plugins,
  ],
});

/** Bundles a Node entry. */
export async function bundle(root, entry, outfile) {
  const { build } = await import('esbuild');
  await build(bundled(root, entry, outfile));
}

/** Bundles a Node entry again whenever one of its files changes; `onBuilt` after each time that it could be. */
export async function watchBundle(root, entry, outfile, onBuilt) {
  const { context } = await import('esbuild');
  const telling = {
    name: 'tell',
    setup(api) {
      api.onEnd(({ errors }) => (errors.length ? undefined : onBuilt()));
    },
  };
  const made = await context(bundled(root, entry, outfile, [telling]));
  await made.watch();
  return made;
}

/** Bundles what draws pictures on the server, and writes the style sheet that they go by beside it. */
export async function buildPainter(root, folder) {
  const { compile } = await import('sass');
  await bundle(root, 'server/pictures/painter.ts', join(folder, 'painter.js'));
  const { css } = compile(join(root, 'view/theme/picture.scss'), {
    loadPaths: [join(root, 'node_modules')],
    style: 'compressed',
    quietDeps: true,
    silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
  });
  writeFileSync(join(root, folder, 'picture.css'), css);
}

/** Bundles what draws shows on the server: what a browser has, and then the program of the page with its fonts measured here. */
export async function buildShowThread(root, folder) {
  const { build } = await import('esbuild');
  const measure = join(root, 'server/pictures/page-measure.ts');
  const fontsOfTheServer = {
    name: 'fonts-of-the-server',
    setup(api) {
      api.onResolve({ filter: /\/measure-text$/ }, ({ path, importer }) =>
        path === '@sorvik/view/measure-text' ||
        (path === './measure-text' && dirname(importer) === join(root, 'view'))
          ? { path: measure }
          : undefined,
      );
    },
  };
  await build(bundled(root, 'web/drawn/thread.ts', join(folder, 'show-thread.js')));
  await build({
    ...bundled(root, 'web/drawn/draw.tsx', join(folder, 'show-draw.js'), [fontsOfTheServer]),
    jsx: 'automatic',
  });
}

/** Files of fewer bytes are sent as they are. */
const fewBytes = 1024;

/** Compresses what browsers fetch, once: the server sends it as it lies. */
function packFiles(folder) {
  for (const file of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, file.name);
    if (file.isDirectory()) packFiles(path);
    if (!file.isFile() || !/\.(js|css|html|svg|json)$/.test(file.name)) continue;
    const content = readFileSync(path);
    if (content.length < fewBytes) continue;
    const quality = { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } };
    writeFileSync(`${path}.br`, brotliCompressSync(content, quality));
    writeFileSync(`${path}.gz`, gzipSync(content, { level: 9 }));
  }
}

/** Runs Vite in a folder. */
const vite = (root, folder, ...args) =>
  command(
    process.execPath,
    [join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn', ...args],
    {
      cwd: join(root, folder),
    },
  );

/** Builds the elements for other pages beside the web application, and as a package that can be published. */
export async function buildEmbed(root) {
  await vite(root, 'embed');
  await vite(root, 'embed', '--mode', 'light');
  const folder = join(root, 'dist/package');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (const name of ['embed.js', 'embed'])
    cpSync(join(root, 'dist/web', name), join(folder, name), { recursive: true });
  for (const name of ['package.json', 'README.md', 'embed.d.ts', 'light.d.ts'])
    cpSync(join(root, 'embed/package', name), join(folder, name));
  cpSync(join(root, 'LICENSE'), join(folder, 'LICENSE'));
}

/** Builds server, demo, web and what other pages load into `dist/` unless that was done from the very same sources. */
export async function ensureBuilt(root) {
  const stamp = join(root, 'dist', '.built-from');
  const wanted = sourceHash(root);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Building…');
  await bundle(root, 'server/main.ts', 'dist/server/main.js');
  await bundle(root, 'server/imports/formats/reader.ts', 'dist/server/reader.js');
  await buildPainter(root, 'dist/server');
  await buildShowThread(root, 'dist/server');
  await bundle(root, 'demo/main.ts', 'dist/demo/main.js');
  await vite(root, 'web');
  await buildEmbed(root);
  packFiles(join(root, 'dist/web'));
  writeFileSync(stamp, wanted);
}
