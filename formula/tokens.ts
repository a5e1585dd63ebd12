import { createToken, Lexer, type TokenType } from 'chevrotain';

const words = [
  'AND',
  'ANY',
  'AS',
  'ASC',
  'BETWEEN',
  'BY',
  'CASE',
  'CAST',
  'CURRENT',
  'DESC',
  'DISTINCT',
  'ELSE',
  'END',
  'FALSE',
  'FILTER',
  'FIRST',
  'FOLLOWING',
  'FOR',
  'FROM',
  'GROUP',
  'IN',
  'INTERVAL',
  'IS',
  'LAST',
  'LIKE',
  'NOT',
  'NULL',
  'NULLS',
  'OR',
  'ORDER',
  'OVER',
  'PARTITION',
  'PRECEDING',
  'ROW',
  'ROWS',
  'THEN',
  'TRUE',
  'UNBOUNDED',
  'WHEN',
  'WHERE',
  'WITHIN',
] as const;
export type Word = (typeof words)[number];

/** A pattern with letters of any language, which the lexer does not look into. */
const opaque = (source: string) => {
  const pattern = new RegExp(source, 'uy');
  return (text: string, offset: number) => {
    pattern.lastIndex = offset;
    return pattern.exec(text);
  };
};

const name = createToken({
  name: 'name',
  pattern: opaque('[\\p{L}_][\\p{L}\\p{N}_]*'),
  line_breaks: false,
});
const sign = (label: string, pattern: string | RegExp) =>
  createToken({
    name: label,
    pattern,
    label: `"${label}"`,
    ...(typeof pattern === 'string' ? {} : { line_breaks: false }),
  });

/** Every sort of token. */
export const tokens = {
  space: createToken({ name: 'space', pattern: /\s+/, group: Lexer.SKIPPED }),
  comment: createToken({ name: 'comment', pattern: /--[^\n]*/, group: Lexer.SKIPPED, line_breaks: false }),
  text: createToken({
    name: 'text',
    pattern: /'(?:[^']|'')*'/,
    line_breaks: true,
  }),
  quoted: createToken({
    name: 'quoted',
    pattern: /"(?:[^"]|"")+"/,
    line_breaks: true,
  }),
  number: createToken({
    name: 'number',
    pattern: /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][-+]?\d+)?/,
  }),
  lever: createToken({
    name: 'lever',
    pattern: opaque(':[\\p{L}_][\\p{L}\\p{N}_]*(?:\\.[\\p{L}_]+)?'),
    line_breaks: false,
  }),
  name,
  concat: sign('||', '||'),
  atMost: sign('<=', '<='),
  atLeast: sign('>=', '>='),
  unequal: sign('<>', /<>|!=/),
  less: sign('<', '<'),
  more: sign('>', '>'),
  equal: sign('=', '='),
  plus: sign('+', '+'),
  minus: sign('-', '-'),
  times: sign('*', '*'),
  over: sign('/', '/'),
  open: sign('(', '('),
  close: sign(')', ')'),
  comma: sign(',', ','),
} satisfies Record<string, TokenType>;

/** The words of the language, written small or large. */
export const word = Object.fromEntries(
  words.map((text) => [
    text,
    createToken({
      name: text,
      label: text,
      pattern: new RegExp(text, 'i'),
      longer_alt: name,
      line_breaks: false,
    }),
  ]),
) as Record<Word, TokenType>;

const { name: _name, space, comment, ...rest } = tokens;
// The longest first: a word is not to be taken for another that it begins with.
const longestFirst = [...words].sort((a, b) => b.length - a.length).map((text) => word[text]);
export const allTokens: TokenType[] = [space, comment, ...longestFirst, name, ...Object.values(rest)];
export const lexer = new Lexer(allTokens, { positionTracking: 'onlyOffset', ensureOptimizations: false });
