import { fileURLToPath } from 'node:url';
import { parse } from '@formatjs/icu-messageformat-parser';

/** What decorates the properties of spec classes: how documents are checked, which the server does. */
const decorations = /^__decorateClass\(\[\n[\s\S]*?^\], [\w$]+\.prototype, "[\w$]+", \d\);$/gm;

/** Takes the checks out of the spec classes of the core: with them go the validators, and all that only those need. */
const withoutChecks = {
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
const parsedMessages = {
  name: 'parsed-messages',
  enforce: 'pre',
  transform(code, id) {
    if (!/\/messages\/(\w+\/)?\w+\.json$/.test(id)) return null;
    const messages = Object.entries(JSON.parse(code)).map(([name, text]) => [
      name,
      parse(text, { ignoreTag: true }),
    ]);
    return { code: JSON.stringify(Object.fromEntries(messages)), map: null };
  },
};

/** What all that runs in browsers is built with. */
export const pagePlugins = [parsedMessages, withoutChecks];

export const pageAlias = [
  {
    find: /^@formatjs\/icu-messageformat-parser$/,
    replacement: '@formatjs/icu-messageformat-parser/no-parser.js',
  },
  {
    find: /^(class-validator|class-transformer|reflect-metadata\/lite)$/,
    replacement: fileURLToPath(new URL('./without-validation.ts', import.meta.url)),
  },
];

/** Smaller than the default makes it, at twenty seconds more of building. */
export const smallest = { minify: 'terser', terserOptions: { compress: { passes: 2 } } };

/** Old ways of Sass that Bootstrap still has. */
export const quietSass = {
  scss: {
    quietDeps: true,
    silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
  },
};
