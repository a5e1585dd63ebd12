import type { IToken } from 'chevrotain';
import type { At, Expression, FrameEnd, Over, SortBy } from './expression';
import { at, GrammarBase, Mistake, span } from './grammar-base';
import { tell } from './tell';
import { tokens, word } from './tokens';

/**
 * Takes in what follows a comma or a word. `FOR` counts letters of a text, also without a `FROM` before it: then from the
 * first one on.
 */
function takeMarked(name: IToken, mark: IToken, arg: Expression, args: Expression[]): void {
  const said = mark.image.toUpperCase();
  if (said === 'FOR') {
    if (name.image.toUpperCase() !== 'SUBSTRING') throw new Mistake(tell('grammar.for'), at(mark));
    if (args.length === 1) args.push({ kind: 'value', type: 'number', value: 1, ...at(mark) });
  }
  args.push(arg);
}

/** Calls of functions, with what they take together, and windows over other rows. */
export abstract class CallGrammar extends GrammarBase {
  protected call = this.RULE('call', (name: IToken): Expression => {
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
              const mark = this.OR1([
                { ALT: () => this.CONSUME(tokens.comma) },
                { ALT: () => this.CONSUME(word.FROM) },
                { ALT: () => this.CONSUME(word.FOR) },
              ]);
              const arg = this.SUBRULE1(this.disjunction);
              this.ACTION(() => takeMarked(name, mark, arg, args));
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

  protected window = this.RULE('window', (): Over => {
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

  protected sortBy = this.RULE('sortBy', (): SortBy => {
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

  protected frameEnd = this.RULE('frameEnd', (): FrameEnd => {
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
}
