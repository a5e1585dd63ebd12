import { describe, expect, it } from 'vitest';
import { deepest, longest, parseFormula } from './parse';

const problem = (text: string) => {
  const parsed = parseFormula(text);
  if (parsed.ok) throw new Error(`${text} was read`);
  return parsed.problem;
};
/** A tree as text in which every operation has its brackets. */
const shape = (text: string): string => {
  const parsed = parseFormula(text);
  if (!parsed.ok) return parsed.problem.message;
  const show = (node: typeof parsed.expression): string => {
    switch (node.kind) {
      case 'binary':
        return `(${show(node.left)} ${node.op} ${show(node.right)})`;
      case 'unary':
        return `(${node.op} ${show(node.of)})`;
      case 'value':
        return JSON.stringify(node.value);
      case 'name':
        return node.name;
      case 'lever':
        return `:${node.name}${node.part ? `.${node.part}` : ''}`;
      case 'call':
        return `${node.name}(${node.star ? '*' : node.args.map(show).join(', ')})${node.over ? ' OVER' : ''}`;
      default:
        return node.kind;
    }
  };
  return show(parsed.expression);
};

describe('a formula is read', () => {
  it.each([
    ['1 + 2 * 3', '(1 + (2 * 3))'],
    ['1 - 2 - 3', '((1 - 2) - 3)'],
    ['-a * b', '((- a) * b)'],
    ['NOT a OR b AND c', '((NOT a) OR (b AND c))'],
    ['a <= :count', '(a <= :count)'],
    ['a >= :limits.LOW', '(a >= :limits.low)'],
    ['a != 3', '(a <> 3)'],
    ["'it''s' || b", '("it\'s" || b)'],
    ['"Route and fare" LIKE \'Q%\'', '(Route and fare LIKE "Q%")'],
    ['a IS NOT DISTINCT FROM b', '(a IS NOT DISTINCT FROM b)'],
    ['rank() over (partition by a order by b desc nulls first)', 'RANK() OVER'],
    ['COUNT(*)', 'COUNT(*)'],
    ['substring(a from 2 for 3)', 'SUBSTRING(a, 2, 3)'],
    ["POSITION('x' IN a)", 'POSITION(in)'],
    ["DATE '2021-02-28' < day", '("2021-02-28" < day)'],
    ['a -- the rest is said, not done\n + 1', '(a + 1)'],
    ['inside + order_no', '(inside + order_no)'],
  ])('%s', (text, tree) => {
    expect(shape(text)).toBe(tree);
  });
});

describe('a mistake is named with its place', () => {
  it.each([
    ['', 0, 'The formula is empty.'],
    ['1 +', 3, 'A value is expected here, not the end.'],
    ['(1 + 2', 6, '")" is expected here, not the end.'],
    ['1 + 2)', 5, 'The formula is complete before ")".'],
    ["'open", 0, "The closing ' of this text is missing."],
    ['a ; DROP TABLE b', 2, 'Unexpected ";".'],
    ['CASE a WHEN 1 THEN 2', 20, 'END is expected here, not the end.'],
    ['a BETWEN 1 AND 2', 2, 'The formula is complete before "BETWEN". Is BETWEEN meant?'],
    ["DATE '2021-02-30'", 5, "'2021-02-30' is no date that exists: DATE '2021-05-01'."],
    [
      "INTERVAL '3' FORTNIGHT",
      13,
      'An interval is in YEAR, MONTH, DAY, HOUR, MINUTE, SECOND, not FORTNIGHT.',
    ],
    [
      'CAST(a AS JSON)',
      10,
      'JSON is not a known type. Use NUMERIC, INTEGER, VARCHAR, BOOLEAN, DATE or TIMESTAMP.',
    ],
    ['a < ANY (:b)', 4, 'Before ANY only "=" can stand.'],
  ])('%s', (text, from, message) => {
    expect(problem(text)).toMatchObject({ from, message });
  });
  it('from its first letter to its last', () => {
    expect(problem('a BETWEN 1 AND 2')).toMatchObject({ from: 2, to: 8 });
    expect(problem("DATE '2021-02-30'")).toMatchObject({ from: 5, to: 17 });
  });
  it('however long or deep it is', () => {
    expect(problem(`1${'+1'.repeat(50_000)}`).message).toBe(
      `A formula has at most ${longest.toLocaleString('en')} characters.`,
    );
    expect(problem(`${'('.repeat(4900)}1${')'.repeat(4900)}`).message).toBe(
      `Brackets are nested more than ${deepest} deep here.`,
    );
    expect(shape(`${'('.repeat(deepest)}1${')'.repeat(deepest)}`)).toBe('1');
    expect(problem(`${'-'.repeat(9000)}1`).from).toBeGreaterThanOrEqual(0);
    expect(parseFormula(`${'1+'.repeat(4900)}1`).ok).toBe(true);
  });
});
