import type { Board } from '@sorvik/core/board/board';
import { boardVersion } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { formKinds } from '@sorvik/core/forms/registry';
import { leverKinds } from '@sorvik/core/levers/registry';
import { SourceProblem } from '../board-source';
import { ownDataset } from './dataset-of-rows';

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const wrong = (why: string) => new SourceProblem('embed.problem.description', { why });

/** What a chart that says less is otherwise. */
const usual = { id: 'chart', form: 'bars', cues: [], guides: [], touches: [] };

function chartOf(described: unknown, i: number): Chart {
  if (!isRecord(described) || !isRecord(described.by) || typeof described.by.field !== 'string')
    throw wrong(`/charts/${i}/by`);
  const form = described.form ?? usual.form;
  if (!formKinds.has(form)) throw wrong(`/charts/${i}/form`);
  return {
    ...usual,
    id: i ? `chart-${i + 1}` : usual.id,
    measure: { aggregate: 'count' },
    order: described.by.grain
      ? { by: 'key', direction: 'ascending' }
      : { by: 'value', direction: 'descending' },
    ...described,
    dataset: ownDataset,
  } as unknown as Chart;
}

function leverOf(described: unknown, i: number): Board['levers'][number] {
  if (!isRecord(described) || typeof described.id !== 'string') throw wrong(`/levers/${i}/id`);
  if (!leverKinds.has(described.kind)) throw wrong(`/levers/${i}/kind`);
  return {
    name: described.id,
    clearing: 'start',
    outside: 'nearest',
    ...described,
    ...('field' in described ? { dataset: ownDataset } : {}),
  } as unknown as Board['levers'][number];
}

/**
 * A board of rows in the page: what describes it is a chart, or a board with levers and charts. What is left out is as usual. Throws
 * a `SourceProblem` that names the place for what cannot be read.
 */
export function ownBoard(described: unknown): Board {
  if (!isRecord(described)) throw wrong('/');
  const { charts, levers = [], ...more } = 'charts' in described ? described : { charts: [described] };
  if (!Array.isArray(charts)) throw wrong('/charts');
  if (!Array.isArray(levers)) throw wrong('/levers');
  return {
    title: usual.id,
    ...more,
    version: boardVersion,
    levers: levers.map(leverOf),
    charts: charts.map(chartOf),
  };
}
