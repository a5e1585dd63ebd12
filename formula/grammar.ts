import type { IToken } from 'chevrotain';
import type { BinaryOp, Expression } from './expression';
import { at, Mistake, span } from './grammar-base';
import { ValueGrammar } from './grammar-values';
import { tell } from './tell';
import { tokens, word } from './tokens';

/** Reads formulas by the grammar of SQL value expressions (ISO/IEC 9075-2, 6.28 and what hangs on it). */
export class FormulaParser extends ValueGrammar {
  constructor() {
    super();
    this.performSelfAnalysis();
  }

  formula = this.RULE('formula', (): Expression => this.SUBRULE(this.disjunction));

  protected disjunction = this.RULE('disjunction', (): Expression => {
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
      if (op !== '=') throw new Mistake(tell('any.before'), at(any));
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

  /** Two parts joined by an operator. */
  private joined(left: Expression, op: BinaryOp, right: Expression): Expression {
    return this.ACTION(() => ({ kind: 'binary', op, left, right, ...span(left, right) }));
  }
}
