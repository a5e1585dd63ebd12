import {
  EmbeddedActionsParser,
  type IParserErrorMessageProvider,
  type IToken,
  type TokenType,
} from 'chevrotain';
import {
  type At,
  type BinaryOp,
  type Expression,
  type FormulaProblem,
  type FrameEnd,
  type IntervalUnit,
  intervalUnits,
  type Over,
  type SortBy,
  type ValueType,
} from './expression';
import { nearestName } from './nearest-name';
import { allTokens, lexer, tokens, word } from './tokens';

/** Longer formulas are not read, nor such as are nested deeper. */
export const longest = 10_000;
export const deepest = 100;

const castTypes: Record<string, ValueType> = {
  NUMERIC: 'number',
  DECIMAL: 'number',
  INTEGER: 'number',
  REAL: 'number',
  FLOAT: 'number',
  DOUBLE: 'number',
  VARCHAR: 'text',
  CHAR: 'text',
  TEXT: 'text',
  BOOLEAN: 'boolean',
  DATE: 'date',
  TIMESTAMP: 'datetime',
};

/** A mistake that only shows once a part has been read; it ends the reading. */
class Mistake extends Error {
  constructor(
    message: string,
    readonly at: At,
  ) {
    super(message);
  }
}

const shown = ({ image }: IToken) => (image === '' ? 'the end' : `"${image}"`);
const listed = (labels: readonly string[]) => {
  const few = [...new Set(labels)];
  return few.length > 6 ? 'something else' : few.join(' or ');
};
const labelOf = (type: TokenType) => type.LABEL ?? type.name;
const messages: IParserErrorMessageProvider = {
  buildMismatchTokenMessage: ({ expected, actual }) =>
    `${labelOf(expected)} is expected here, not ${shown(actual)}.`,
  buildNotAllInputParsedMessage: ({ firstRedundant }) =>
    `The formula is complete before ${shown(firstRedundant)}.`,
  buildNoViableAltMessage({ expectedPathsPerAlt, actual: [actual] }) {
    const firsts = expectedPathsPerAlt.flat().map((path) => labelOf(path[0]!));
    const what = firsts.length > 6 ? 'A value' : listed(firsts);
    return `${what} is expected here, not ${shown(actual!)}.`;
  },
  buildEarlyExitMessage: ({ actual: [actual] }) => `Something is missing before ${shown(actual!)}.`,
};

const at = (token: IToken): At => ({
  from: token.startOffset,
  to: token.startOffset + token.image.length,
});
const span = (first: At, last: At): At => ({ from: first.from, to: last.to });

/** Reads formulas by the grammar of SQL value expressions (ISO/IEC 9075-2, 6.28 and what hangs on it). */
class FormulaParser extends EmbeddedActionsParser {
  constructor() {
    super(allTokens, { errorMessageProvider: messages, maxLookahead: 2, recoveryEnabled: false });
    this.performSelfAnalysis();
  }

  formula = this.RULE('formula', (): Expression => this.SUBRULE(this.disjunction));

  private disjunction = this.RULE('disjunction', (): Expression => {
    let left = this.SUBRULE(this.conjunction);
    this.MANY(() => {
      this.CONSUME(word.OR);
      left = this.joined(left, 'OR', this.SUBRULE2(this.conjunction));
    });
    return left;
  });

  private conjunction = this.RULE('conjunction', (): Expression => {
    let left = this.SUBRULE(this.negation);
    this.MANY(() => {
      this.CONSUME(word.AND);
      left = this.joined(left, 'AND', this.SUBRULE2(this.negation));
    });
    return left;
  });

  private negation = this.RULE('negation', (): Expression => {
    let not: IToken | undefined;
    this.OPTION(() => {
      not = this.CONSUME(word.NOT);
    });
    const of = this.SUBRULE(this.predicate);
    return not ? { kind: 'unary', op: 'NOT', of, ...this.ACTION(() => span(at(not!), of)) } : of;
  });

  private predicate = this.RULE('predicate', (): Expression => {
    const left = this.SUBRULE(this.concatenation);
    return (
      this.OPTION(() =>
        this.OR([
          {
            ALT: () => {
              const op = this.SUBRULE(this.comparison);
              return this.OR1([
                {
                  GATE: () => this.LA(1).tokenType === word.ANY,
                  ALT: () => this.SUBRULE(this.anyOf, { ARGS: [left, op] }),
                },
                { ALT: () => this.joined(left, op as BinaryOp, this.SUBRULE1(this.concatenation)) },
              ]);
            },
          },
          {
            ALT: () => {
              this.CONSUME(word.IS);
              return this.SUBRULE(this.isTail, { ARGS: [left] });
            },
          },
          {
            ALT: () => {
              let negated = false;
              this.OPTION1(() => {
                this.CONSUME(word.NOT);
                negated = true;
              });
              return this.SUBRULE(this.listTail, { ARGS: [left, negated] });
            },
          },
        ]),
      ) ?? left
    );
  });

  private comparison = this.RULE('comparison', (): string => {
    const token = this.OR(
      [tokens.equal, tokens.unequal, tokens.atMost, tokens.atLeast, tokens.less, tokens.more].map((type) => ({
        ALT: () => this.CONSUME(type),
      })),
    );
    return token.image === '!=' ? '<>' : token.image;
  });

  private anyOf = this.RULE('anyOf', (left: Expression, op: string): Expression => {
    const any = this.CONSUME(word.ANY);
    this.CONSUME(tokens.open);
    const lever = this.SUBRULE(this.leverName);
    const end = this.CONSUME(tokens.close);
    return this.ACTION(() => {
      if (op !== '=') throw new Mistake('Before ANY only "=" can stand.', at(any));
      return { kind: 'anyOf', of: left, lever, ...span(left, at(end)) };
    });
  });

  private isTail = this.RULE('isTail', (left: Expression): Expression => {
    let negated = false;
    this.OPTION(() => {
      this.CONSUME(word.NOT);
      negated = true;
    });
    return this.OR([
      {
        ALT: () => {
          const end = this.CONSUME(word.NULL);
          return this.ACTION(() => ({ kind: 'isNull', of: left, negated, ...span(left, at(end)) }));
        },
      },
      {
        ALT: () => {
          this.CONSUME(word.DISTINCT);
          this.CONSUME(word.FROM);
          const right = this.SUBRULE(this.concatenation);
          return this.joined(left, negated ? 'IS NOT DISTINCT FROM' : 'IS DISTINCT FROM', right);
        },
      },
    ]);
  });

  private listTail = this.RULE(
    'listTail',
    (left: Expression, negated: boolean): Expression =>
      this.OR([
        {
          ALT: () => {
            this.CONSUME(word.BETWEEN);
            const low = this.SUBRULE(this.concatenation);
            this.CONSUME(word.AND);
            const high = this.SUBRULE1(this.concatenation);
            return this.ACTION(() => ({
              kind: 'between',
              of: left,
              low,
              high,
              negated,
              ...span(left, high),
            }));
          },
        },
        {
          ALT: () => {
            this.CONSUME(word.IN);
            return this.OR1([
              {
                GATE: () => this.LA(1).tokenType === tokens.open,
                ALT: () => this.SUBRULE(this.inList, { ARGS: [left, negated] }),
              },
              {
                // POSITION('x' IN name) has a single value there.
                ALT: () => {
                  const right = this.SUBRULE3(this.concatenation);
                  return this.ACTION(
                    (): Expression => ({
                      kind: 'in',
                      of: left,
                      list: [right],
                      negated,
                      bare: true,
                      ...span(left, right),
                    }),
                  );
                },
              },
            ]);
          },
        },
        {
          ALT: () => {
            this.CONSUME(word.LIKE);
            const pattern = this.SUBRULE2(this.concatenation);
            return this.joined(left, negated ? 'NOT LIKE' : 'LIKE', pattern);
          },
        },
      ]),
  );

  private inList = this.RULE('inList', (left: Expression, negated: boolean): Expression => {
    this.CONSUME(tokens.open);
    const list: Expression[] = [];
    this.AT_LEAST_ONE_SEP({
      SEP: tokens.comma,
      DEF: () => void list.push(this.SUBRULE(this.disjunction)),
    });
    const end = this.CONSUME(tokens.close);
    return this.ACTION(() => ({ kind: 'in', of: left, list, negated, ...span(left, at(end)) }));
  });

  private concatenation = this.RULE('concatenation', (): Expression => {
    let left = this.SUBRULE(this.sum);
    this.MANY(() => {
      this.CONSUME(tokens.concat);
      left = this.joined(left, '||', this.SUBRULE1(this.sum));
    });
    return left;
  });

  private sum = this.RULE('sum', (): Expression => {
    let left = this.SUBRULE(this.product);
    this.MANY(() => {
      const op = this.OR([
        { ALT: () => this.CONSUME(tokens.plus) },
        { ALT: () => this.CONSUME(tokens.minus) },
      ]);
      left = this.joined(left, op.image as BinaryOp, this.SUBRULE1(this.product));
    });
    return left;
  });

  private product = this.RULE('product', (): Expression => {
    let left = this.SUBRULE(this.signed);
    this.MANY(() => {
      const op = this.OR([
        { ALT: () => this.CONSUME(tokens.times) },
        { ALT: () => this.CONSUME(tokens.over) },
      ]);
      left = this.joined(left, op.image as BinaryOp, this.SUBRULE1(this.signed));
    });
    return left;
  });

  private signed = this.RULE('signed', (): Expression => {
    let sign: IToken | undefined;
    this.OPTION(() => {
      sign = this.OR([{ ALT: () => this.CONSUME(tokens.minus) }, { ALT: () => this.CONSUME(tokens.plus) }]);
    });
    const of = this.SUBRULE(this.primary);
    return this.ACTION(() =>
      sign ? { kind: 'unary', op: sign.image as '-' | '+', of, ...span(at(sign), of) } : of,
    );
  });

  private primary = this.RULE(
    'primary',
    (): Expression =>
      this.OR([
        { ALT: () => this.SUBRULE(this.literal) },
        { ALT: () => this.SUBRULE(this.interval) },
        { ALT: () => this.SUBRULE(this.leverName) },
        { ALT: () => this.SUBRULE(this.caseOf) },
        { ALT: () => this.SUBRULE(this.cast) },
        { ALT: () => this.SUBRULE(this.named) },
        {
          ALT: () => {
            const first = this.CONSUME(tokens.open);
            const inner = this.SUBRULE(this.disjunction);
            const last = this.CONSUME(tokens.close);
            // The brackets belong to it: what is cut out of the text stays whole.
            return this.ACTION(() => ({ ...inner, ...span(at(first), at(last)) }));
          },
        },
      ]),
  );

  private literal = this.RULE(
    'literal',
    (): Expression =>
      this.OR([
        { ALT: () => this.literalOf(this.CONSUME(tokens.number), 'number', (image) => Number(image)) },
        {
          ALT: () =>
            this.literalOf(this.CONSUME(tokens.text), 'text', (image) =>
              image.slice(1, -1).replaceAll("''", "'"),
            ),
        },
        { ALT: () => this.literalOf(this.CONSUME(word.TRUE), 'boolean', () => true) },
        { ALT: () => this.literalOf(this.CONSUME(word.FALSE), 'boolean', () => false) },
        { ALT: () => this.literalOf(this.CONSUME(word.NULL), 'null', () => null) },
      ]),
  );

  private interval = this.RULE('interval', (): Expression => {
    const first = this.CONSUME(word.INTERVAL);
    const count = this.CONSUME(tokens.text);
    const unit = this.CONSUME(tokens.name);
    return this.ACTION(() => {
      const number = Number(count.image.slice(1, -1));
      const name = unit.image.toUpperCase().replace(/S$/, '') as IntervalUnit;
      if (!Number.isInteger(number))
        throw new Mistake("An interval counts in whole numbers: INTERVAL '3' DAY.", at(count));
      if (!intervalUnits.includes(name))
        throw new Mistake(`An interval is in ${intervalUnits.join(', ')}, not ${unit.image}.`, at(unit));
      return { kind: 'interval', count: number, unit: name, ...span(at(first), at(unit)) };
    });
  });

  private leverName = this.RULE('leverName', (): Expression => {
    const token = this.CONSUME(tokens.lever);
    return this.ACTION(() => {
      const [name = '', part] = token.image.slice(1).split('.');
      return { kind: 'lever', name, ...(part ? { part: part.toLowerCase() } : {}), ...at(token) };
    });
  });

  private caseOf = this.RULE('caseOf', (): Expression => {
    const first = this.CONSUME(word.CASE);
    let of: Expression | undefined;
    this.OPTION(() => {
      of = this.SUBRULE(this.disjunction);
    });
    const when: { is: Expression; then: Expression }[] = [];
    this.AT_LEAST_ONE(() => {
      this.CONSUME(word.WHEN);
      const is = this.SUBRULE1(this.disjunction);
      this.CONSUME(word.THEN);
      const then = this.SUBRULE2(this.disjunction);
      when.push({ is, then });
    });
    let other: Expression | undefined;
    this.OPTION1(() => {
      this.CONSUME(word.ELSE);
      other = this.SUBRULE3(this.disjunction);
    });
    const end = this.CONSUME(word.END);
    return this.ACTION(() => ({
      kind: 'case',
      ...(of ? { of } : {}),
      when,
      ...(other ? { else: other } : {}),
      ...span(at(first), at(end)),
    }));
  });

  private cast = this.RULE('cast', (): Expression => {
    const first = this.CONSUME(word.CAST);
    this.CONSUME(tokens.open);
    const of = this.SUBRULE(this.disjunction);
    this.CONSUME(word.AS);
    const type = this.CONSUME(tokens.name);
    this.OPTION(() => this.CONSUME1(tokens.name));
    const end = this.CONSUME(tokens.close);
    return this.ACTION(() => {
      const as = castTypes[type.image.toUpperCase()];
      if (!as)
        throw new Mistake(
          `${type.image} is no type here: NUMERIC, VARCHAR, BOOLEAN, DATE or TIMESTAMP.`,
          at(type),
        );
      return { kind: 'cast', of, as, ...span(at(first), at(end)) };
    });
  });

  /** A name of a field, a typed literal (DATE '2021-05-01'), or a call of a function. */
  private named = this.RULE(
    'named',
    (): Expression =>
      this.OR([
        {
          ALT: () => {
            const token = this.CONSUME(tokens.quoted);
            return this.ACTION(() => ({
              kind: 'name',
              name: token.image.slice(1, -1).replaceAll('""', '"'),
              quoted: true,
              ...at(token),
            }));
          },
        },
        {
          ALT: () => {
            const token = this.CONSUME(tokens.name);
            return (
              this.OPTION(() =>
                this.OR1([
                  { ALT: () => this.SUBRULE(this.call, { ARGS: [token] }) },
                  { ALT: () => this.dated(token, this.CONSUME(tokens.text)) },
                ]),
              ) ?? this.ACTION(() => ({ kind: 'name', name: token.image, quoted: false, ...at(token) }))
            );
          },
        },
      ]),
  );

  private call = this.RULE('call', (name: IToken): Expression => {
    this.CONSUME(tokens.open);
    const args: Expression[] = [];
    let star = false;
    let distinct = false;
    this.OPTION(() =>
      this.OR([
        {
          ALT: () => {
            this.CONSUME(tokens.times);
            star = true;
          },
        },
        {
          ALT: () => {
            this.OPTION1(() => {
              this.CONSUME(word.DISTINCT);
              distinct = true;
            });
            args.push(this.SUBRULE(this.disjunction));
            this.MANY(() => {
              // EXTRACT(YEAR FROM d) and SUBSTRING(s FROM 2 FOR 3) have words where others have commas.
              this.OR1([
                { ALT: () => this.CONSUME(tokens.comma) },
                { ALT: () => this.CONSUME(word.FROM) },
                { ALT: () => this.CONSUME(word.FOR) },
              ]);
              args.push(this.SUBRULE1(this.disjunction));
            });
          },
        },
      ]),
    );
    let end: At = this.ACTION(() => at(name));
    const close = this.CONSUME(tokens.close);
    this.ACTION(() => {
      end = at(close);
    });
    let within: SortBy | undefined;
    this.OPTION4(() => {
      this.CONSUME(word.WITHIN);
      this.CONSUME(word.GROUP);
      this.CONSUME3(tokens.open);
      this.CONSUME(word.ORDER);
      this.CONSUME(word.BY);
      within = this.SUBRULE(this.sortBy);
      const last = this.CONSUME3(tokens.close);
      this.ACTION(() => {
        end = at(last);
      });
    });
    let filter: Expression | undefined;
    this.OPTION2(() => {
      this.CONSUME(word.FILTER);
      this.CONSUME1(tokens.open);
      this.CONSUME(word.WHERE);
      filter = this.SUBRULE2(this.disjunction);
      const last = this.CONSUME1(tokens.close);
      this.ACTION(() => {
        end = at(last);
      });
    });
    let over: Over | undefined;
    this.OPTION3(() => {
      this.CONSUME(word.OVER);
      this.CONSUME2(tokens.open);
      over = this.SUBRULE(this.window);
      const last = this.CONSUME2(tokens.close);
      this.ACTION(() => {
        end = at(last);
      });
    });
    return this.ACTION(() => ({
      kind: 'call',
      name: name.image.toUpperCase(),
      args,
      ...(star ? { star: true as const } : {}),
      ...(distinct ? { distinct: true as const } : {}),
      ...(within ? { within } : {}),
      ...(filter ? { filter } : {}),
      ...(over ? { over } : {}),
      ...span(at(name), end),
    }));
  });

  private window = this.RULE('window', (): Over => {
    const partition: Expression[] = [];
    const order: SortBy[] = [];
    this.OPTION(() => {
      this.CONSUME(word.PARTITION);
      this.CONSUME(word.BY);
      this.AT_LEAST_ONE_SEP({
        SEP: tokens.comma,
        DEF: () => void partition.push(this.SUBRULE(this.disjunction)),
      });
    });
    this.OPTION1(() => {
      this.CONSUME(word.ORDER);
      this.CONSUME1(word.BY);
      this.AT_LEAST_ONE_SEP1({ SEP: tokens.comma, DEF: () => void order.push(this.SUBRULE(this.sortBy)) });
    });
    let frame: Over['frame'];
    this.OPTION2(() => {
      this.CONSUME(word.ROWS);
      frame = this.OR([
        {
          ALT: () => {
            this.CONSUME(word.BETWEEN);
            const start = this.SUBRULE(this.frameEnd);
            this.CONSUME(word.AND);
            return { start, end: this.SUBRULE1(this.frameEnd) };
          },
        },
        { ALT: () => ({ start: this.SUBRULE2(this.frameEnd), end: { offset: 0 } }) },
      ]);
    });
    return { partition, order, ...(frame ? { frame } : {}) };
  });

  private sortBy = this.RULE('sortBy', (): SortBy => {
    const by = this.SUBRULE(this.disjunction);
    let descending = false;
    let nullsFirst: boolean | undefined;
    this.OPTION(() =>
      this.OR([
        { ALT: () => this.CONSUME(word.ASC) },
        {
          ALT: () => {
            this.CONSUME(word.DESC);
            descending = true;
          },
        },
      ]),
    );
    this.OPTION1(() => {
      this.CONSUME(word.NULLS);
      nullsFirst = this.OR1([
        {
          ALT: () => {
            this.CONSUME(word.FIRST);
            return true;
          },
        },
        {
          ALT: () => {
            this.CONSUME(word.LAST);
            return false;
          },
        },
      ]);
    });
    return { by, descending, ...(nullsFirst === undefined ? {} : { nullsFirst }) };
  });

  private frameEnd = this.RULE('frameEnd', (): FrameEnd => {
    const size = this.OR([
      {
        ALT: () => {
          this.CONSUME(word.CURRENT);
          this.CONSUME(word.ROW);
          return 0;
        },
      },
      {
        ALT: () => {
          const count = this.OR1([
            {
              ALT: () => {
                this.CONSUME(word.UNBOUNDED);
                return Number.POSITIVE_INFINITY;
              },
            },
            { ALT: () => Number(this.CONSUME(tokens.number).image) },
          ]);
          const sign = this.OR2([
            {
              ALT: () => {
                this.CONSUME(word.PRECEDING);
                return -1;
              },
            },
            {
              ALT: () => {
                this.CONSUME(word.FOLLOWING);
                return 1;
              },
            },
          ]);
          return sign * count;
        },
      },
    ]);
    return { offset: size };
  });

  /** Two parts joined by an operator. */
  private joined(left: Expression, op: BinaryOp, right: Expression): Expression {
    return this.ACTION(() => ({ kind: 'binary', op, left, right, ...span(left, right) }));
  }

  private literalOf(
    token: IToken,
    type: ValueType | 'null',
    read: (image: string) => number | string | boolean | null,
  ): Expression {
    return this.ACTION(() => ({ kind: 'value', type, value: read(token.image), ...at(token) }));
  }

  private dated(name: IToken, text: IToken): Expression {
    return this.ACTION((): Expression => {
      const type = { DATE: 'date', TIMESTAMP: 'datetime' }[name.image.toUpperCase()] as ValueType | undefined;
      if (!type) throw new Mistake(`Something is missing between ${name.image} and ${text.image}.`, at(text));
      const value = text.image.slice(1, -1).replace(' ', 'T');
      const whole = type === 'date' ? /^\d{4}-\d\d-\d\d$/ : /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?$/;
      const date = new Date(`${value}${type === 'date' ? '' : 'Z'}`);
      if (
        !whole.test(value) ||
        Number.isNaN(date.getTime()) ||
        date.toISOString().slice(0, 10) !== value.slice(0, 10)
      )
        throw new Mistake(
          `${text.image} is no ${type === 'date' ? "date that exists: DATE '2021-05-01'" : "time that exists: TIMESTAMP '2021-05-01 08:30:00'"}.`,
          at(text),
        );
      return { kind: 'value', type, value, ...span(at(name), at(text)) };
    });
  }
}

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
  if (text.length > longest)
    return wrong(`A formula has at most ${longest.toLocaleString('en')} characters.`, longest, text.length);
  const { tokens: list, errors } = lexer.tokenize(text);
  const [unread] = errors;
  if (unread) {
    const sign = text[unread.offset]!;
    const open = sign === "'" || sign === '"';
    return wrong(
      open ? `The text that begins here with ${sign} does not end.` : `"${sign}" has no meaning here.`,
      unread.offset,
      open ? text.length : unread.offset + 1,
    );
  }
  if (!list.length) return wrong('The formula is empty.', 0, text.length);
  const deep = tooDeep(list);
  if (deep) return wrong(`Brackets are nested more than ${deepest} deep here.`, at(deep).from, at(deep).to);
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
    return wrong(`${error.message}${meant ? ` Is ${meant} meant?` : ''}`, place.from, place.to);
  } catch (error) {
    if (error instanceof Mistake) return wrong(error.message, error.at.from, error.at.to);
    throw error;
  }
}
