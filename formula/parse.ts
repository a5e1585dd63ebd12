import type { IToken } from 'chevrotain';
import type { Expression, FormulaProblem } from './expression';
import { FormulaParser } from './grammar';
import { at, Mistake } from './grammar-base';
import { nearestName } from './nearest-name';
import { meantInstead, tell } from './tell';
import { lexer, tokens, word } from './tokens';

/** Longer formulas are not read, nor such as are nested deeper. */
export const longest = 10_000;
export const deepest = 100;

/** The tree of a formula, or what is wrong with it. */
export type Parsed = { ok: true; expression: Expression } | { ok: false; problem: FormulaProblem };

const wrong = (message: string, from: number, to: number): Parsed => ({
  ok: false,
  problem: { message, from, to },
});

/** How deep brackets and cases are nested; the place where it becomes too deep. */
function tooDeep(list: readonly IToken[]): IToken | undefined {
  let depth = 0;
  for (const token of list) {
    if (token.tokenType === tokens.open || token.tokenType === word.CASE) depth++;
    else if (token.tokenType === tokens.close || token.tokenType === word.END) depth--;
    if (depth > deepest) return token;
  }
  return undefined;
}

let parser: FormulaParser | undefined;
const known = new Map<string, Parsed>();
const mostKnown = 100;

/**
 * Reads a formula. A mistake is named with its place, what was expected, and the word that may have been meant. What was
 * read lately is not read again: a lever that a formula names moves with every frame.
 */
export function parseFormula(text: string): Parsed {
  const found = known.get(text) ?? parsed(text);
  if (known.size >= mostKnown) known.clear();
  known.set(text, found);
  return found;
}

function parsed(text: string): Parsed {
  if (text.length > longest) return wrong(tell('parse.long', { most: longest }), longest, text.length);
  const { tokens: list, errors } = lexer.tokenize(text);
  const [unread] = errors;
  if (unread) {
    const sign = text[unread.offset]!;
    const open = sign === "'" || sign === '"';
    return wrong(
      open ? tell('parse.open', { sign }) : tell('parse.sign', { sign }),
      unread.offset,
      open ? text.length : unread.offset + 1,
    );
  }
  if (!list.length) return wrong(tell('parse.empty'), 0, text.length);
  const deep = tooDeep(list);
  if (deep) return wrong(tell('parse.deep', { deepest }), at(deep).from, at(deep).to);
  parser ??= new FormulaParser();
  parser.input = list;
  try {
    const expression = parser.formula();
    const [error] = parser.errors;
    if (!error) return { ok: true, expression };
    const { token } = error;
    const end = Number.isNaN(token.startOffset) || token.image === '';
    const place = end ? { from: text.length, to: text.length } : at(token);
    const meant = token.tokenType === tokens.name ? nearestName(token.image, Object.keys(word)) : undefined;
    return wrong(
      tell('parse.meant', { mistake: error.message, ...meantInstead(meant) }),
      place.from,
      place.to,
    );
  } catch (error) {
    if (error instanceof Mistake) return wrong(error.message, error.at.from, error.at.to);
    throw error;
  }
}
