import type { IToken } from 'chevrotain';
import { type Expression, type IntervalUnit, intervalUnits, type ValueType } from './expression';
import { at, Mistake, span } from './grammar-base';
import { CallGrammar } from './grammar-calls';
import { tell } from './tell';
import { tokens, word } from './tokens';

const castTypes: Record<string, ValueType> = {
  NUMERIC: 'number',
  DECIMAL: 'number',
  INTEGER: 'number',
  BIGINT: 'number',
  SMALLINT: 'number',
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

/** Numbers without decimals: what is cast to one of these is rounded. */
const wholeTypes = ['INTEGER', 'BIGINT', 'SMALLINT'];

/** What stands by itself: values as they are written, names, levers, and what CASE and CAST make of others. */
export abstract class ValueGrammar extends CallGrammar {
  protected literal = this.RULE(
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

  protected interval = this.RULE('interval', (): Expression => {
    const first = this.CONSUME(word.INTERVAL);
    const count = this.CONSUME(tokens.text);
    const unit = this.CONSUME(tokens.name);
    return this.ACTION(() => {
      const number = Number(count.image.slice(1, -1));
      const name = unit.image.toUpperCase().replace(/S$/, '') as IntervalUnit;
      if (!Number.isInteger(number)) throw new Mistake(tell('interval.whole'), at(count));
      if (!intervalUnits.includes(name))
        throw new Mistake(
          tell('interval.unit', { units: intervalUnits.join(', '), unit: unit.image }),
          at(unit),
        );
      return { kind: 'interval', count: number, unit: name, ...span(at(first), at(unit)) };
    });
  });

  protected leverName = this.RULE('leverName', (): Expression => {
    const token = this.CONSUME(tokens.lever);
    return this.ACTION(() => {
      const [name = '', part] = token.image.slice(1).split('.');
      return { kind: 'lever', name, ...(part ? { part: part.toLowerCase() } : {}), ...at(token) };
    });
  });

  protected caseOf = this.RULE('caseOf', (): Expression => {
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

  protected cast = this.RULE('cast', (): Expression => {
    const first = this.CONSUME(word.CAST);
    this.CONSUME(tokens.open);
    const of = this.SUBRULE(this.disjunction);
    this.CONSUME(word.AS);
    const type = this.CONSUME(tokens.name);
    this.OPTION(() => this.CONSUME1(tokens.name));
    const end = this.CONSUME(tokens.close);
    return this.ACTION(() => {
      const as = castTypes[type.image.toUpperCase()];
      if (!as) throw new Mistake(tell('cast.type', { type: type.image }), at(type));
      const whole = wholeTypes.includes(type.image.toUpperCase()) ? { whole: true as const } : {};
      return { kind: 'cast', of, as, ...whole, ...span(at(first), at(end)) };
    });
  });

  /** A name of a field, a typed literal (DATE '2021-05-01'), or a call of a function. */
  protected named = this.RULE(
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

  protected literalOf(
    token: IToken,
    type: ValueType | 'null',
    read: (image: string) => number | string | boolean | null,
  ): Expression {
    return this.ACTION(() => ({ kind: 'value', type, value: read(token.image), ...at(token) }));
  }

  protected dated(name: IToken, text: IToken): Expression {
    return this.ACTION((): Expression => {
      const type = { DATE: 'date', TIMESTAMP: 'datetime' }[name.image.toUpperCase()] as ValueType | undefined;
      if (!type)
        throw new Mistake(tell('grammar.between', { first: name.image, next: text.image }), at(text));
      const value = text.image.slice(1, -1).replace(' ', 'T');
      const whole = type === 'date' ? /^\d{4}-\d\d-\d\d$/ : /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?$/;
      const date = new Date(`${value}${type === 'date' ? '' : 'Z'}`);
      if (
        !whole.test(value) ||
        Number.isNaN(date.getTime()) ||
        date.toISOString().slice(0, 10) !== value.slice(0, 10)
      )
        throw new Mistake(tell('literal.date', { text: text.image, type }), at(text));
      return { kind: 'value', type, value, ...span(at(name), at(text)) };
    });
  }
}
