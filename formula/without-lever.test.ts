import { beforeAll, expect, it } from 'vitest';
import { parseFormula } from './parse';
import { withoutLever } from './without-lever';

const held = (part: string | undefined) =>
  ({ low: -2.5, high: 7, list: undefined })[part ?? 'list'] ?? ['Quel', "O'Harl"];

beforeAll(() => parseFormula('1'));

it.each([
  ['SUM(n) * (1 + :corridor.low / 100)', 'SUM(n) * (1 + (-2.5) / 100)'],
  ["quay = ANY (:corridor) OR quay = ':corridor'", "quay IN ('Quel', 'O''Harl') OR quay = ':corridor'"],
  [
    'value BETWEEN :corridor.low AND :Corridor.HIGH -- :corridor.low',
    'value BETWEEN (-2.5) AND 7 -- :corridor.low',
  ],
  ['value > :corridors', 'value > :corridors'],
])('what a lever held stands in its place: %s', (text, expected) => {
  const made = withoutLever(text, 'corridor', held);
  expect(made).toBe(expected);
  expect(parseFormula(made).ok).toBe(true);
});
it('nothing held is nothing', () => {
  expect(withoutLever('a = ANY (:x) AND :x', 'x', () => [])).toBe('a IN (NULL) AND NULL');
  expect(withoutLever(':x < :x', 'x', () => '2024-01-31')).toBe("DATE '2024-01-31' < DATE '2024-01-31'");
  expect(withoutLever(':on', 'on', () => true)).toBe('TRUE');
});
