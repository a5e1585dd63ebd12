import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import type { Look } from '../board/look';
import { allSteps } from '../data/all-steps';
import { plainReadings } from '../data/readings';
import { newCue } from '../edit/defaults';
import { offersFor } from '../edit/offers/offers-for';
import { seriesLooks } from '../pipeline/series-looks';
import { workingsOf } from '../pipeline/workings';
import { board, chart, dataset } from '../testing/fixtures';
import { formInput } from '../testing/form-input';
import { runChart } from '../testing/run-chart';
import { chartSentences } from '../text/chart-sentences';
import { vocabularyOf } from '../words/vocabulary';
import { formKinds } from './registry';
import type { RectMarks } from './scene';

const own: Chart = { ...chart, cues: [], touches: [], colours: 'each' };
const words = vocabularyOf(board, dataset, fullEngine);

describe.each(['bars', 'columns'])('%s in colours of their own', (form) => {
  const out = runChart({ ...own, form });
  const one = runChart({ ...own, form, colours: 'one' });
  const boxes = ({ scene, readings }: typeof out) => {
    const { x, y, width, height } = scene.marks as RectMarks;
    return new Map(readings.category.map((key, i) => [key, [x[i], y[i], width[i], height[i]]]));
  };
  it('lie where they lie in one colour, and are named alike', () => {
    expect(boxes(out)).toEqual(boxes(one));
    expect(out.readings.category.map((_, i) => out.name(i)).sort()).toEqual(
      one.readings.category.map((_, i) => one.name(i)).sort(),
    );
    for (const text of out.scene.texts.filter(({ role }) => role === 'category'))
      expect(text.text).toBe(out.name(text.mark!));
  });
  it('have a colour each, which needs no legend', () => {
    expect(out.seriesColours).toBe(true);
    const colours = out.readings.category.map((_, i) => out.seriesLook(out.readings.seriesOf[i]!).colour);
    expect(new Set(colours).size).toBe(4);
    expect(out.legend()).toEqual([]);
    expect(out.caption()).toBe(one.caption());
    expect(workingsOf(out).steps.map(({ heading }) => heading)).toEqual(['Quay', 'Total boats', 'State']);
  });
  it('are lit like any other, by rank among all of them', () => {
    const top = newCue('top', { kind: 'rank', count: 2, side: 'highest', ties: 'share' }, []);
    const { emphasis, readings } = runChart({ ...own, form, cues: [top] });
    const lit = readings.category.filter((_, i) => emphasis.state[i] === 2);
    expect(lit.sort()).toEqual(['Ostrin', 'Quel']);
  });
});

it('are told apart beyond the colours of the palette: every other time through it is hatched', () => {
  const values = Array.from({ length: 30 }, (_, i) => `quay ${i}`);
  const looks = values.map(seriesLooks(undefined, values));
  const alike = ({ colour, hatch }: Look) => `${colour} ${hatch ?? false}`;
  expect(new Set(looks.slice(0, 16).map(alike)).size).toBe(16);
  expect(looks[16]).toEqual(looks[0]);
  for (let i = 1; i < looks.length; i++) expect(looks[i]!.colour).not.toBe(looks[i - 1]!.colour);
});

it('are as many marks as can be drawn, however many there are', () => {
  const many = Array.from({ length: 5000 }, (_, i) => `quay ${i}`);
  for (const form of ['bars', 'columns']) {
    const { marks, texts } = allSteps(
      formKinds.get(form).scene(
        formInput(
          plainReadings(
            many,
            Float64Array.from(many, (_, i) => i),
          ),
          { alone: true },
        ),
      ),
    );
    expect(marks.x).toHaveLength(5000);
    for (const { mark } of texts) if (mark !== undefined) expect(mark).toBeLessThan(marks.x.length);
  }
});

it('are offered where there are few, and say why they cannot be', () => {
  const plain = { ...own };
  delete plain.colours;
  const offered = (on: Chart) =>
    offersFor({ chart: on, board, dataset, words }).some(({ id }) => id === 'own-colours');
  expect(offered(plain)).toBe(true);
  expect(offered({ ...plain, form: 'line' })).toBe(false);
  const problem = (on: Chart) => chartSentences(on, board, words).find(({ id }) => id === 'colours')?.problem;
  expect(problem(own)).toBeUndefined();
  expect(problem({ ...own, compare: { with: 'average', as: 'percent' } })).toContain('not compared');
});

it('a chart can do without lines across its plot', () => {
  const lines = (grid: 'lines' | 'none') =>
    runChart({ ...own, form: 'columns', axis: { grid } }).scene.lines.filter(({ role }) => role === 'grid')
      .length;
  expect(lines('lines')).toBeGreaterThan(1);
  expect(lines('none')).toBe(0);
});
