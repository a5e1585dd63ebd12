import type { Context } from 'hono';
import { tell } from '../tell';
import { HttpProblem, invalid } from './problem';

/** Texts that the database does not take: half of a pair of surrogates, or the character zero. */
export const isKeepable = (text: string): boolean => !text.includes('\0') && text.isWellFormed();

/** The first so many characters of a text, which never end within one that takes two. */
export const cutText = (text: string, length: number): string =>
  text
    .slice(0, length)
    .toWellFormed()
    .replace(/\ufffd$/u, '');

/** An address whose percent signs mean nothing, or that names what no id and no value can be. */
export function refuseMalformed(c: Context): void {
  const { pathname, search } = new URL(c.req.url);
  let text: string;
  try {
    text = decodeURIComponent(pathname) + decodeURIComponent(search.replaceAll('+', ' '));
  } catch {
    throw new HttpProblem(400, 'address-unreadable', tell('wellFormed.aInTheAddress'));
  }
  if (!isKeepable(text))
    throw new HttpProblem(400, 'address-unreadable', tell('wellFormed.theAddressHoldsA'));
}

/** How large a JSON body may be, besides its length: judged before anything is made of it. */
export interface JsonLimits {
  depth: number;
  /** Members of objects and items of lists, all together. */
  values: number;
}

export const jsonLimits: JsonLimits = { depth: 64, values: 30_000 };

const quote = 34;
const backslash = 92;
const opens = new Set([91, 123]);
const closes = new Set([93, 125]);
const comma = 44;

/** Refuses a text that would become too much when it is parsed; one look at each character. */
export function refuseTooMuch(text: string, { depth, values }: JsonLimits = jsonLimits): void {
  let deep = 0;
  let many = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === quote) {
      for (i++; i < text.length && text.charCodeAt(i) !== quote; i++)
        if (text.charCodeAt(i) === backslash) i++;
    } else if (opens.has(code)) {
      many++;
      if (++deep > depth)
        throw invalid([{ pointer: '', message: tell('wellFormed.itIsNestedDeeper', { depth }) }]);
    } else if (closes.has(code)) deep--;
    else if (code === comma) many++;
    if (many > values)
      throw new HttpProblem(413, 'too-many-values', tell('wellFormed.aBodyCanHold', { most: values }));
  }
}

/** Refuses texts, names of members included, that the database could not keep. */
export function refuseUnkeepable(value: unknown, pointer = ''): void {
  if (typeof value === 'string') {
    if (!isKeepable(value)) throw invalid([{ pointer, message: tell('wellFormed.holdsACharacterThat') }]);
    return;
  }
  if (typeof value !== 'object' || value === null) return;
  for (const [name, each] of Object.entries(value)) {
    if (!isKeepable(name)) throw invalid([{ pointer, message: tell('wellFormed.hasAMemberWhose') }]);
    refuseUnkeepable(each, `${pointer}/${name.replace(/~/g, '~0').replace(/\//g, '~1')}`);
  }
}
