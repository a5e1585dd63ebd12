import { expect, it } from 'vitest';
import { newCue } from '../edit/defaults';
import { board, chart, dataset } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { vocabularyOf } from '../words/vocabulary';
import { valueRows } from './value-rows';

const words = vocabularyOf(board, dataset, null);
const top = newCue('top', { kind: 'rank', count: 1, side: 'highest', ties: 'share' }, []);
const rowsOf = (changes: Partial<typeof chart>) =>
  valueRows(runChart({ ...chart, cues: [top], touches: [], ...changes }), words);

it('lists every mark in the order of the chart, with its state', () => {
  const { head, rows, more } = rowsOf({});
  expect(head).toEqual(['quay', 'total boats', 'state']);
  expect(rows.map(({ cells }) => cells.join(' | '))).toEqual([
    'Quel | 40 | lit',
    'Ostrin | 25 | muted',
    'Harl | 20 | muted',
    '(missing) | 7 | muted',
  ]);
  expect(rows.filter(({ state }) => state === 'lit')).toHaveLength(1);
  expect(more).toBe(0);
});

it('says of a split chart which series each value is of, and of several measures which measure', () => {
  const split = rowsOf({ by: { field: 'day', grain: 'year' }, split: { field: 'quay', colours: 'own' } });
  expect(split.head).toEqual(['year', 'quay', 'total boats', 'state']);
  expect(split.rows.slice(0, 3).map(({ cells }) => cells)).toEqual([
    ['2023', 'Harl', '20', 'muted'],
    ['2023', 'Ostrin', '20', 'muted'],
    ['2023', 'Quel', '30', 'lit'],
  ]);
  const several = rowsOf({ also: [{ measure: { aggregate: 'count' } }] } as never);
  expect(several.head).toEqual(['quay', 'measure', 'value', 'state']);
  expect(new Set(several.rows.map(({ cells }) => cells[1])).size).toBe(2);
});
