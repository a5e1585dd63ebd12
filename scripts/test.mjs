// npm test: formatter, linter, types, unit and server tests on a private PostgreSQL, then a real browser.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readArgs } from './lib/args.mjs';
import { ensureBuilt } from './lib/build.mjs';
import { command } from './lib/command.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/packages.mjs';
import { removeData, startPostgres } from './lib/postgres.mjs';
import { Refusal, run, say } from './lib/say.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const usage = `npm test -- [FILE ..] [-t NAME] [--only static|unit|browser]

  FILE            only the tests in files whose path has this in it: core/levers, e2e/saving
  -t NAME         only tests whose name has this in it
  --only static   formatter, linter and types
  --only unit     formula, core, view, server (on PostgreSQL) and web tests
  --only browser  the application in Chromium`;

const parts = ['static', 'unit', 'browser'];

/** The titles of the browser's tests that failed once and then passed. */
const passedLate = (suites) =>
  suites.flatMap((suite) => [
    ...(suite.specs ?? [])
      .filter(({ tests }) => tests.some(({ status }) => status === 'flaky'))
      .map(({ title }) => title),
    ...passedLate(suite.suites ?? []),
  ]);
const tool = (name) => join(root, 'node_modules/.bin', name);

await run(async () => {
  const {
    only: asked,
    name,
    files,
  } = readArgs({ only: { type: 'string' }, name: { type: 'string', short: 't' } }, usage, { files: true });
  if (asked !== undefined && !parts.includes(asked))
    throw new Refusal(`--only ${asked}: there is ${parts.join(', ')}.`);
  const some = files.length > 0 || name !== undefined;
  const inBrowser = files.filter((file) => /(^|\/)e2e\//.test(file));
  const others = files.filter((file) => !inBrowser.includes(file));
  // Of some tests only those parts are run that they are in, and nothing else is checked.
  const runs = (part) =>
    asked
      ? asked === part
      : !some ||
        (part === 'unit' && (others.length > 0 || !files.length)) ||
        (part === 'browser' && inBrowser.length > 0);
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
    if (runs('static')) {
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
    // While the tests of core and server wait for PostgreSQL, the browser's are built.
    const built = runs('browser') && step('build', () => ensureBuilt(root));
    if (runs('unit')) {
      postgres = await startPostgres(join(folder, 'data'), { throwAway: true });
      const file = join(results, 'vitest.json');
      const env = { ...process.env, SORVIK_TEST_DATABASE: postgres.url };
      const args = [
        'run',
        `--reporter=${some ? 'default' : 'dot'}`,
        '--reporter=json',
        `--outputFile.json=${file}`,
      ];
      args.push(...others, ...(name === undefined ? [] : ['-t', name]));
      await step('core, server and web', () => command(tool('vitest'), args, { ...options, env }));
      count(file, (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests }));
      await postgres.stop();
      postgres = undefined;
    }
    if (runs('browser')) {
      await built;
      const file = join(results, 'browser.json');
      const env = { ...process.env, SORVIK_E2E_DATA: join(folder, 'e2e'), PLAYWRIGHT_JSON_OUTPUT_NAME: file };
      const args = ['test', '-c', 'e2e/playwright.config.ts', `--reporter=${some ? 'list' : 'dot'},json`];
      args.push(...inBrowser, ...(name === undefined ? [] : ['-g', name]));
      await step('browser', () => command(tool('playwright'), args, { ...options, env }));
      count(file, ({ stats, suites }) => {
        for (const title of passedLate(suites)) say(`Passed only at its second run: ${title}`);
        return { passed: stats.expected + stats.flaky, failed: stats.unexpected };
      });
    }
  } finally {
    await cleanUp();
  }
  // What was asked for by name and is not there has not passed.
  if (some && !failures.length && counts.passed + counts.failed === 0) failures.push('no test was found');
  if (failures.length) say(`Failed: ${failures.join(', ')}`);
  say(`${counts.passed} passed, ${counts.failed} failed`);
  process.exit(failures.length || counts.failed ? 1 : 0);
});
