import { fullEngine } from '@sorvik/formula/full-engine';
import { expect, it } from 'vitest';
import type { DatasetInfo } from '../data/dataset';
import { board } from '../testing/fixtures';
import { nameOfFormula } from './formula-name';
import { vocabularyOf } from './vocabulary';

const dataset: DatasetInfo = {
  id: 'd',
  name: 'Sales',
  version: 1,
  rows: 9,
  fields: [
    { key: 'revenue', name: 'Revenue', type: 'decimal' },
    { key: 'passengers', name: 'Passengers', type: 'integer' },
    { key: 'route', name: 'Route', type: 'text' },
  ],
};
const words = vocabularyOf(board, dataset, fullEngine);

it.each([
  ['SUM(revenue) / SUM(passengers)', 'revenue per passenger'],
  ['sum(revenue)/count(*)', 'revenue per row'],
  ['COUNT(DISTINCT route)', 'different routes'],
  ['PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY revenue)', 'median revenue'],
  ['PERCENTILE_CONT(0.9)  WITHIN GROUP (ORDER BY revenue)', '90% percentile of revenue'],
  ['SUM(revenue) * (1 + :fare_change / 100)', 'changed revenue'],
  ['SUM(revenue) / (SUM(passengers) + 1)', null],
  ['', null],
])('%s is called %s', (formula, name) => {
  expect(nameOfFormula(formula, words)).toBe(name);
});
