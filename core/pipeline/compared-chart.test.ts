import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Board } from '../board/board';
import type { Chart } from '../board/chart';
import type { Compare } from '../board/compare';
import { memberCue, newCue } from '../edit/defaults';
import { estimateText } from '../forms/fit-text';
import type { RectMarks } from '../forms/scene';
import type { ChoiceLever } from '../levers/choice';
import type { Positions } from '../levers/lever-kind';
import { board, chart, cube, dataset, positionsAt, testDay } from '../testing/fixtures';
import { told } from '../testing/told';
import { chartSentences } from '../text/chart-sentences';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { chartStages } from './chart-stages';
import { markStates } from './emphasise';
import type { PipelineInput } from './stage';

const against: ChoiceLever = {
  kind: 'choice',
  id: 'against',
  name: 'Compared with',
  dataset: 'landings',
  field: 'quay',
  all: true,
  clearing: 'start',
};
const comparing: Board = { ...board, levers: [...board.levers, against] };
const top = newCue('top', { kind: 'rank', count: 1, side: 'highest', ties: 'share' }, []);

const plain = (text: string) => text.replaceAll('\u00a0', ' ');

const inputOf = (
  compare: Compare,
  touched: string | null,
  more: Partial<Chart> = {},
  at: Positions = {},
): PipelineInput => ({
  board: comparing,
  chart: {
    ...chart,
    form: 'bars',
    order: { by: 'value', direction: 'descending' },
    cues: [top],
    guides: [{ kind: 'line', id: 'g', at: 1000, style: 'solid' }],
    compare,
    ...more,
  },
  dataset,
  cube,
  positionOf: positionsAt(comparing.levers, { against: touched, ...at }),
  facts: {},
  today: testDay,
  engine: fullEngine,
  width: 600,
  height: 300,
  measure: estimateText,
  miniature: false,
});
const run = (...given: Parameters<typeof inputOf>) => told(chartStages().run(inputOf(...given)));
const states = ({ emphasis }: ReturnType<typeof run>) =>
  Array.from(emphasis.state, (code) => markStates[code]);

describe('a chart whose marks are compared', () => {
  const touched: Compare = { with: 'touched', lever: 'against', as: 'difference' };

  it('has the looks that the author says, or colours that grow with the distance', () => {
    const lookOf = (compare: Compare, i: number) => {
      const { emphasis } = run(compare, 'Ostrin');
      return emphasis.looks[emphasis.look[i]!];
    };
    // Quel has 40 boats, Ostrin 25, Harl 20.
    expect([0, 2].map((i) => lookOf(touched, i)!.colour)).toEqual(['kelp', 'heather']);
    const own: Compare = {
      ...touched,
      above: { colour: 'tide', weight: 'heavy' },
      below: { colour: '#aa2200' },
    };
    expect(lookOf(own, 0)).toEqual({ colour: 'tide', weight: 'heavy' });
    expect(lookOf(own, 2)).toEqual({ colour: '#aa2200' });
    expect(lookOf({ ...own, colours: 'growing' }, 2)!.colour).toEqual({
      by: 'gradient',
      above: 'tide',
      below: '#aa2200',
    });
    const words = vocabularyOf(comparing, dataset, fullEngine);
    const said = chartSentences({ ...chart, compare: { ...own, colours: 'growing' } }, comparing, words);
    expect(sentenceText(said.find(({ id }) => id === 'compare')!)).toBe(
      'Compares each bar with the touched bar (kept in Compared with) as a difference; higher in blue, heavy, lower in #aa2200, stronger the farther away; missing values stay missing.',
    );
  });

  it('is plain until one is touched', () => {
    const out = run(touched, null);
    expect([...out.readings.value]).toEqual([40, 25, 20, 7]);
    expect(states(out)).toEqual(['lit', 'muted', 'muted', 'muted']);
    expect(out.guides.lines).toHaveLength(1);
  });

  it('shows differences with their sign, in two looks, and the touched one with its own figure', () => {
    const out = run(touched, 'Ostrin');
    expect(Array.from({ length: 4 }, (_, i) => out.value(i))).toEqual(['+15', '25', '−5', '−18']);
    expect(states(out)).toEqual(['lit', 'lit', 'lit', 'lit']);
    const [above, own, below] = [0, 1, 2].map((i) => out.emphasis.looks[out.emphasis.look[i]!]!);
    expect(own).toMatchObject({ colour: 'ink', outline: true });
    expect(above!.colour).not.toBe(below!.colour);
    expect(below!.hatch).toBe(true);
    expect(out.caption()).toMatch(/^Compared with Ostrin, as a difference\. 4 of 4 .* Ostrin \(25\)/);
  });

  it('as many times as it is, one where nothing has changed', () => {
    const out = run({ ...touched, as: 'ratio' }, 'Harl');
    expect(Array.from({ length: 4 }, (_, i) => plain(out.value(i)))).toEqual([
      '2.00 ×',
      '1.25 ×',
      '20',
      '0.35 ×',
    ]);
    expect(out.scene.values.domain).toEqual([-1, 1]);
    const columns = run({ ...touched, as: 'ratio' }, 'Harl', { form: 'columns' });
    const ticks = columns.scene.texts.filter(({ role }) => role === 'tick').map(({ text }) => plain(text));
    expect(ticks).toEqual(['0 ×', '0.5 ×', '1.0 ×', '1.5 ×', '2.0 ×']);
  });

  it('with the whole as a share of it, whatever the figures are', () => {
    const whole: Compare = { with: 'whole', as: 'percent' };
    expect(run(whole, null).readings.value[0]).toBeCloseTo(40 / 92 - 1, 12);
    for (const share of ['everything', 'kept'] as const) {
      const out = run(whole, null, { measure: { aggregate: 'sum', field: 'boats', share } });
      expect(out.readings.value[0]).toBeCloseTo(40 / 92 - 1, 12);
    }
  });

  it('says so where there is nothing to compare with, and shows the figures as they are', () => {
    const gone = run(touched, 'Tarsk');
    expect([...gone.readings.value]).toEqual([40, 25, 20, 7]);
    expect(gone.caption()).toMatch(/^Not compared: Tarsk is not among what is shown\. 1 of 4 quays lit/);
    const empty = run(
      touched,
      'Harl',
      { cues: [memberCue('years', [], 'filter')] },
      { years: ['2024-01-01'] },
    );
    expect(empty.caption()).toMatch(/Not compared: Harl has no value\./);
    expect([...empty.readings.value]).toEqual([10, 5, Number.NaN]);
  });

  it('speaks of its figures as what they are: a rank by differences is no rank by boats', () => {
    const out = run({ with: 'average', as: 'difference' }, null);
    expect(out.why(0)).toContain('by difference in total boats (+17');
    expect(run({ with: 'average', as: 'percent' }, null).why(0)).toContain('by change in total boats (+73.9');
  });

  it('on an axis that reaches as far below zero as above, without guides at figures', () => {
    const out = run(touched, 'Ostrin');
    expect(out.scene.values.domain).toEqual([-18, 18]);
    const { x, width } = out.scene.marks as RectMarks;
    const zero = (out.scene.values.start + out.scene.values.end) / 2;
    expect(x[0]).toBeCloseTo(zero, 6);
    expect(x[3]! + width[3]!).toBeCloseTo(zero, 6);
    expect(out.guides.lines).toHaveLength(0);
  });

  it('is computed once for as long as nothing moves', () => {
    const stages = chartStages();
    const input = inputOf(touched, 'Ostrin');
    const [before, after] = [stages.run(input), stages.run(input)];
    expect(after.emphasis).toBe(before.emphasis);
    expect(stages.runs).toMatchObject({ readings: 1, scene: 1, guides: 1, emphasis: 1 });
  });

  it('against the average keeps what the author lights', () => {
    const out = run({ with: 'average', as: 'percent' }, null);
    expect(out.value(0)).toMatch(/^\+73\.9/);
    expect(out.emphasis.evaluations).toHaveLength(3);
  });

  it('is not compared where it is parted in shares, or shows several measures', () => {
    const several = run(touched, 'Ostrin', { also: [{ measure: { aggregate: 'count' } }] });
    expect([...several.readings.judged!.value]).toEqual([40, 25, 20, 7]);
  });
});
