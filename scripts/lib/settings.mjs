import { readFileSync } from 'node:fs';
import { parseEnv } from 'node:util';
import { Refusal } from './say.mjs';

const variableOf = (name) => `SORVIK_${name.toUpperCase().replaceAll('-', '_')}`;
const yes = /^(1|true|yes|on)$/i;
const no = /^(|0|false|no|off)$/i;

function fileAt(path) {
  try {
    return parseEnv(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Refusal(`--config ${path}: it cannot be read (${error.code ?? error.message}).`);
  }
}

/**
 * Options that are not given where they are asked for, from the environment or else from a file of lines `SORVIK_ADDRESS=..`:
 * `--listen` is `SORVIK_LISTEN`. What is given counts before both. `others`: a file may have settings for other commands too.
 */
export function withSettings(given, options, env = process.env, { others = false } = {}) {
  const path = given.config ?? env.SORVIK_CONFIG;
  const file = path ? fileAt(path) : {};
  const known = new Set(Object.keys(options).map(variableOf));
  const unknown = Object.keys(file).find((name) => !known.has(name));
  if (unknown && !others) throw new Refusal(`--config ${path}: there is no setting ${unknown}.`);
  const found = { ...given };
  for (const [name, { type }] of Object.entries(options)) {
    if (found[name] !== undefined) continue;
    const text = env[variableOf(name)] ?? file[variableOf(name)];
    if (text === undefined) continue;
    if (type === 'string') found[name] = text === '' ? undefined : text;
    else if (yes.test(text)) found[name] = true;
    else if (!no.test(text)) throw new Refusal(`${variableOf(name)}=${text}: say true or false.`);
  }
  return found;
}
