import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import type { ShareScope } from '../board/measure';
import { switchPart } from '../board/switch-off';
import { offersFor } from '../edit/offers/offers-for';
import { board, chart, cube, dataset } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { chartSentences } from '../text/chart-sentences';
import { chartTitle } from '../words/measure-text';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { workingsOf } from './workings';

const words = vocabularyOf(board, dataset, fullEngine);
const boats = { aggregate: 'sum', field: 'boats' } as const;
const shared = (share: ShareScope, more: Partial<Chart> = {}): Chart => ({
  ...chart,
  measure: { ...boats, share },
  ...more,
});
const by = (on: Chart, positions = {}) => {
  const { readings } = runChart(on, positions);
  return readings.category.map((key, i) => {
    const series = readings.series[readings.seriesOf[i]!];
    return [series === undefined ? key : `${key} ${String(series).slice(0, 4)}`, readings.value[i]];
  });
};
const one = { years: ['2024-01-01'] };
const split = { split: { field: 'day', grain: 'year', colours: 'own' } } as const;

describe('figures as shares', () => {
  it('of all there is, whatever is kept; or of what is kept', () => {
    expect(by(shared('everything'))).toEqual([
      ['Quel', 40 / 92],
      ['Ostrin', 25 / 92],
      ['Harl', 20 / 92],
      [null, 7 / 92],
    ]);
    expect(by(shared('everything'), one).slice(0, 2)).toEqual([
      ['Quel', 10 / 92],
      ['Ostrin', 5 / 92],
    ]);
    expect(by(shared('kept'), one).slice(0, 2)).toEqual([
      ['Quel', 10 / 15],
      ['Ostrin', 5 / 15],
    ]);
  });
  it('of their category, or of their series', () => {
    const of = (share: ShareScope) => new Map(by(shared(share, split)) as [string, number][]);
    expect(of('category').get('Quel 2023')).toBe(30 / 40);
    expect(of('category').get('Quel 2024')).toBe(10 / 40);
    expect(of('series').get('Quel 2023')).toBe(30 / 77);
    expect(of('series').get('Ostrin 2024')).toBe(5 / 15);
  });
  it('are null where there is nothing to be a share of', () => {
    const nothing = {
      ...cube,
      partials: cube.partials.map((partial) => ({ ...partial, values: partial.values.map(() => 0) })),
    };
    const { readings } = runChart(shared('kept'), {}, { cube: nothing });
    expect([...readings.value].every(Number.isNaN)).toBe(true);
  });
  it('are written as percentages, filled up to one, and named in titles', () => {
    const { value, scene } = runChart(shared('everything', { whole: { of: 'everything' } }));
    expect(value(0)).toBe('43.48%');
    expect(scene.values.domain[1]).toBe(1);
    expect(chartTitle(shared('kept'), words)).toBe('Boats by quay, as shares of the filtered total');
  });
  it('are a sentence of their own, which can be switched off', () => {
    const offers = offersFor({ chart, board, dataset, words });
    const draft = structuredClone({ ...board, charts: [structuredClone(chart)] });
    offers.find(({ id }) => id === 'share')!.accept(draft);
    expect(draft.charts[0]!.measure).toEqual({ ...boats, share: 'everything' });
    const said = (on: Chart) => chartSentences(on, board, words).find(({ id }) => id === 'measure-share')!;
    expect(sentenceText(said(draft.charts[0]!))).toBe('Shows values as percent of the grand total.');
    expect(said(shared('series')).problem).toContain('not split');
    expect(said(shared('series', split)).problem).toBeUndefined();
    switchPart(draft.charts[0]!, { part: ['measure', 'share'] }, true);
    expect(draft.charts[0]!.off).toEqual(['share']);
  });
  it('are explained in the workings: the figure, the whole, and over which rows that is', () => {
    const { steps } = workingsOf(runChart(shared('everything'), one));
    expect(steps.slice(1, 4).map(({ heading, text }) => [heading, text(0)])).toEqual([
      ['Total boats', '10'],
      ['Whole', '92'],
      ['Total boats as a share of the grand total', '10.8695652173913%'],
    ]);
    expect(steps[2]!.note).toBe('of all rows, ignoring filters');
    const kept = workingsOf(runChart(shared('kept'), one)).steps[2]!;
    expect([kept.text(0), kept.note]).toEqual([
      '15',
      'over all 3 quays, over the rows that the filters on day keep',
    ]);
  });
});
