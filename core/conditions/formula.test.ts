import type { FormulaEngine } from '@sorvik/formula/engine';
import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import { copyChartTo } from '../edit/copy-chart';
import { newCue } from '../edit/defaults';
import { removeLever } from '../edit/remove-lever';
import type { NumberLever } from '../levers/number';
import { stateCode } from '../pipeline/emphasise';
import { board, chart, dataset, quays } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { chartSentences } from '../text/chart-sentences';
import { vocabularyOf } from '../words/vocabulary';

const count: NumberLever = {
  kind: 'number',
  id: 'how-many',
  name: 'How many',
  min: 0,
  max: 9,
  step: 1,
  start: 2,
  outside: 'nearest',
  clearing: 'start',
};
const levers = [count, quays];
const withFormula = (text: string): Chart => ({
  ...chart,
  cues: [newCue('formula', { kind: 'formula', text }, [])],
  touches: [],
});
const boardWith = (on: Chart) => ({ ...board, levers, charts: [on] });
const run = (text: string, positions = {}, engine: FormulaEngine | null = fullEngine) => {
  const on = withFormula(text);
  return runChart(on, positions, { board: boardWith(on), engine });
};
const lit = (text: string, positions = {}) => {
  const { readings, emphasis } = run(text, positions);
  return readings.category.filter((_, i) => emphasis.state[i] === stateCode.lit);
};
const problem = (text: string) => {
  const on = withFormula(text);
  const sentences = chartSentences(on, boardWith(on), vocabularyOf(boardWith(on), dataset, fullEngine));
  return sentences.find(({ id }) => id.startsWith('cue-'))?.problem;
};

describe('a cue with a formula', () => {
  it('lights the readings of which it is true, by the names of their fields', () => {
    expect(lit("boats > 20 AND quay <> 'Quel'")).toEqual(['Ostrin']);
    expect(lit('quay IS NULL')).toEqual([null]);
    expect(lit('value > AVG(value) OVER ()')).toEqual(['Quel', 'Ostrin']);
  });
  it('follows levers, of one figure and of several values', () => {
    const top = 'RANK() OVER (ORDER BY boats DESC) <= :how_many';
    expect(lit(top)).toEqual(['Quel', 'Ostrin']);
    expect(lit(top, { 'how-many': 3 })).toEqual(['Quel', 'Ostrin', 'Harl']);
    expect(lit('quay = ANY (:quays)', { quays: ['Harl'] })).toEqual(['Harl']);
  });
  it('says why, and of what is not known that it is not', () => {
    const { why } = run("quay LIKE 'Q%'");
    expect(why(0)).toBe("Lit: quay LIKE 'Q%' is true here.");
    expect(why(3)).toBe("Muted: quay LIKE 'Q%' is not known here.");
  });
  it('that is wrong lights nothing, and says what is wrong', () => {
    expect(lit('boats >')).toEqual([]);
    expect(run('boats >').emphasis.active).toBe(false);
    expect(problem('boats >')).toBe('A value is expected here, not the end.');
    expect(problem('boatz > 3')).toBe('There is no field "boatz" here. Is boats meant?');
    expect(problem('boats + 1')).toContain('must be a condition');
    expect(problem('boats > :how_mani')).toBe('There is no lever :how_mani. Is :how_many meant?');
    expect(problem('boats > 3')).toBeUndefined();
  });
  it('keeps the figure of a lever that goes', () => {
    const draft = structuredClone(boardWith(withFormula("boats > :how_many AND quay <> ':how_many'")));
    removeLever(draft, 'how-many', {
      engine: fullEngine,
      lever: () => count,
      positionOf: () => 2,
      today: '2024-12-31',
    });
    expect(draft.charts[0]!.cues[0]!.condition).toEqual({
      kind: 'formula',
      text: "boats > 2 AND quay <> ':how_many'",
    });
  });
  it('names the copies of levers where the chart is copied to another board', () => {
    const target = structuredClone({
      ...board,
      levers: [{ ...count, name: 'Another' }],
      charts: [] as Chart[],
    });
    const from = boardWith(withFormula('boats > :how_many'));
    copyChartTo(target, from.charts[0]!, from);
    expect(target.levers.map(({ id }) => id)).toContain('how-many-2');
    expect(target.charts[0]!.cues[0]!.condition).toMatchObject({ text: 'boats > :how_many_2' });
  });
});

it('a formula that nothing is there to read is at rest', () => {
  expect(run('boats > 3', {}, null).emphasis.active).toBe(false);
});
