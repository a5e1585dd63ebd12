import { type Board, boardVersion } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cube } from '../data/cube';
import type { DatasetInfo } from '../data/dataset';
import { memberCue } from '../edit/defaults';
import type { LeverFacts, Positions } from '../levers/lever-kind';
import type { PickLever } from '../levers/pick';
import type { Lever } from '../levers/registry';
import { type Facts, settledPositions } from '../levers/settled-positions';
import type { SpanLever } from '../levers/span';

/** The day that is today in tests. */
export const testDay = '2024-12-31';

/** Four quays over two years: Quel 30 and 10, Harl 20 and none, Ostrin 20 and 5, one unnamed quay. */
export const cube: Cube = {
  cells: 7,
  dimensions: [
    { field: 'quay', values: ['Quel', 'Harl', 'Ostrin'], codes: Int32Array.of(0, 0, 1, 1, 2, 2, -1) },
    {
      field: 'day',
      grain: 'year',
      values: ['2023-01-01', '2024-01-01'],
      codes: Int32Array.of(0, 1, 0, 1, 0, 1, 0),
    },
  ],
  partials: [
    { aggregate: 'sum', field: 'boats', values: Float64Array.of(30, 10, 20, Number.NaN, 20, 5, 7) },
    { aggregate: 'count', field: 'boats', values: Float64Array.of(3, 2, 2, 0, 4, 1, 1) },
    { aggregate: 'count', values: Float64Array.of(3, 2, 2, 2, 4, 1, 1) },
    { aggregate: 'min', field: 'boats', values: Float64Array.of(5, 4, 10, Number.NaN, 2, 5, 7) },
    { aggregate: 'max', field: 'boats', values: Float64Array.of(15, 6, 10, Number.NaN, 9, 5, 7) },
    { aggregate: 'first', values: Float64Array.of(3, 9, 1, 8, 2, 7, 5) },
  ],
};

export const dataset: DatasetInfo = {
  id: 'landings',
  name: 'Landings',
  version: 1,
  rows: 15,
  fields: [
    {
      key: 'quay',
      name: 'Quay',
      type: 'text',
      profile: { count: 14, distinct: 3, missing: 1, min: 'Harl', max: 'Quel' },
    },
    {
      key: 'day',
      name: 'Day',
      type: 'date',
      profile: { count: 15, distinct: 9, missing: 0, min: '2023-01-04', max: '2024-11-30' },
    },
    {
      key: 'boats',
      name: 'Boats',
      type: 'integer',
      profile: { count: 13, distinct: 8, missing: 2, min: 2, max: 15 },
    },
  ],
};

export const quays: PickLever = {
  kind: 'pick',
  id: 'quays',
  name: 'Quays',
  dataset: 'landings',
  field: 'quay',
  start: [],
  clearing: 'empty',
};
export const years: PickLever = {
  kind: 'pick',
  id: 'years',
  name: 'Years',
  dataset: 'landings',
  field: 'day',
  grain: 'year',
  start: [],
  clearing: 'start',
};

export const stretch: SpanLever = {
  kind: 'span',
  id: 'stretch',
  name: 'Stretch',
  dataset: 'd',
  field: 'day',
  grain: 'day',
  start: null,
  presets: [],
  outside: 'nearest',
  clearing: 'empty',
};

export const chart: Chart = {
  id: 'landings',
  form: 'bars',
  dataset: 'landings',
  by: { field: 'quay' },
  measure: { aggregate: 'sum', field: 'boats' },
  order: { by: 'value', direction: 'descending' },
  cues: [memberCue('quays', []), memberCue('years', [], 'filter')],
  guides: [],
  touches: [{ gesture: 'click', lever: 'quays' }],
};

export const board: Board = {
  version: boardVersion,
  title: 'Landings',
  levers: [quays, years],
  charts: [chart],
};

/** What is known of each lever: the dataset, and the cube that the tests share. */
export const facts: LeverFacts = { dataset, cube };
export const factsOf = (levers: readonly Lever[]): Facts =>
  Object.fromEntries(levers.map((lever) => [lever.id, facts]));

/** Where levers stand without anything being known of their data. */
export const positionsAt = (levers: readonly Lever[], positions: Positions) =>
  settledPositions(levers, positions, {});
