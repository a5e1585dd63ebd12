// npm test: formatter, linter, types, unit and server tests on a private PostgreSQL, then a real browser.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readArgs } from './lib/args.mjs';
import { ensureBuilt } from './lib/build.mjs';
import { command } from './lib/command.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/packages.mjs';
import { removeData, startPostgres } from './lib/postgres.mjs';
import { run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const usage = `npm test -- [--only static|unit|browser]

  --only static   formatter, linter and types
  --only unit     core, server (on PostgreSQL) and web tests
  --only browser  the application in Chromium`;

const tool = (name) => join(root, 'node_modules/.bin', name);

await run(async () => {
  const { only } = readArgs({ only: { type: 'string' } }, usage);
  const folder = join(root, '.sorvik', `test-${process.pid}`);
  const results = join(folder, 'results');
  const counts = { passed: 0, failed: 0 };
  const failures = [];
  let postgres;

  const step = async (name, work) => {
    const started = Date.now();
    try {
      await work();
      say(`-- ${name}: done in ${((Date.now() - started) / 1000).toFixed(1)} s`);
    } catch (error) {
      failures.push(name);
      say(
        `-- ${name}: failed. ${error.output === undefined ? error.message.split('\n')[0] : error.output.trim()}`,
      );
    }
  };
  const count = (file, read) => {
    try {
      const { passed, failed } = read(JSON.parse(readFileSync(file, 'utf8')));
      counts.passed += passed;
      counts.failed += failed;
    } catch {
      failures.push(`${file} was not written`);
    }
  };
  const cleanUp = async () => {
    await postgres?.stop();
    removeData(join(folder, 'data'));
    removeData(join(folder, 'e2e'));
    rmSync(folder, { recursive: true, force: true });
  };
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.on(signal, async () => {
      await cleanUp();
      process.exit(130);
    });

  try {
    await ensureDebianPackages(['postgresql', 'chromium']);
    await ensureNodeModules(root);
    mkdirSync(results, { recursive: true });
    const options = { cwd: root, show: true };
    if (!only || only === 'static') {
      await step('formatter and linter', () =>
        command(tool('biome'), ['ci', '--error-on-warnings', '.'], options),
      );
      await step('types', () => command(tool('tsc'), ['-p', 'tsconfig.json'], options));
      // Without Node; formula and core without a page too: they run anywhere.
      for (const alone of ['formula', 'core', 'view'])
        await step(`types of ${alone} alone`, () =>
          command(tool('tsc'), ['-p', `${alone}/tsconfig.json`], options),
        );
    }
    if (!only || only === 'unit') {
      postgres = await startPostgres(join(folder, 'data'), { throwAway: true });
      const file = join(results, 'vitest.json');
      const env = { ...process.env, SORVIK_TEST_DATABASE: postgres.url };
      const args = ['run', '--reporter=dot', '--reporter=json', `--outputFile.json=${file}`];
      await step('core, server and web', () => command(tool('vitest'), args, { ...options, env }));
      count(file, (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests }));
      await postgres.stop();
      postgres = undefined;
    }
    if (!only || only === 'browser') {
      await step('build', () => ensureBuilt(root));
      const file = join(results, 'browser.json');
      const env = { ...process.env, SORVIK_E2E_DATA: join(folder, 'e2e'), PLAYWRIGHT_JSON_OUTPUT_NAME: file };
      const args = ['test', '-c', 'e2e/playwright.config.ts', '--reporter=dot,json'];
      await step('browser', () => command(tool('playwright'), args, { ...options, env }));
      count(file, ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky }));
    }
  } finally {
    await cleanUp();
  }
  if (failures.length) say(`Failed: ${failures.join(', ')}`);
  say(`${counts.passed} passed, ${counts.failed} failed`);
  process.exit(failures.length || counts.failed ? 1 : 0);
});
