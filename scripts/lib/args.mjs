import { parseArgs } from 'node:util';
import { Refusal } from './say.mjs';

/**
 * Reads `--port N`-like options; an unknown or malformed one is refused with the usage text. `files`: what is not an
 * option is given back as a list of that name.
 */
export function readArgs(options, usage, { files = false } = {}) {
  let values;
  let positionals;
  try {
    ({ values, positionals } = parseArgs({
      options: { ...options, help: { type: 'boolean', short: 'h' } },
      allowPositionals: files,
    }));
  } catch (error) {
    throw new Refusal(`${error.message.split('\n')[0]}\n\n${usage}`);
  }
  if (values.help) {
    process.stdout.write(`${usage}\n`);
    process.exit(0);
  }
  return files ? { ...values, files: positionals } : values;
}

/** A whole number within bounds, or a refusal that names the option. */
export function wholeNumber(text, name, low, high) {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (!Number.isInteger(value) || value < low || value > high)
    throw new Refusal(`--${name} ${text}: give a whole number from ${low} to ${high}.`);
  return value;
}

/** A list of origins, `https://pages.example,http://127.0.0.1:8080`, or a refusal of what is none. */
export function originList(text = '') {
  const origins = text.split(',').filter(Boolean);
  for (const origin of origins)
    if (!/^https?:/.test(origin) || !URL.canParse(origin) || new URL(origin).origin !== origin)
      throw new Refusal(
        `--origins ${origin}: give origins, as https://pages.example, with nothing after them.`,
      );
  return origins;
}
