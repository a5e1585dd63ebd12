import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import { newCue } from '../edit/defaults';
import { removeLever } from '../edit/remove-lever';
import type { NumberLever } from '../levers/number';
import { chartStages } from '../pipeline/chart-stages';
import { stateCode } from '../pipeline/emphasise';
import { leverUses } from '../pipeline/lever-uses';
import { board, chart } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { figureProblem, formulaFigure } from './figure-formula';

const slack: NumberLever = {
  kind: 'number',
  id: 'slack',
  name: 'Slack',
  min: 0,
  max: 10,
  step: 1,
  start: 2,
  outside: 'nearest',
  clearing: 'start',
};
const names = {
  engine: fullEngine,
  lever: (id: string) => (id === 'slack' ? slack : undefined),
  levers: [slack],
  typeOf: () => 'text' as const,
};
const context = { ...names, positionOf: () => 2, today: '2024-12-31' };
const values = Float64Array.of(4, 8, Number.NaN, 6, 2);

describe('a figure of all the marks in view', () => {
  it.each([
    ['AVG(value)', 5],
    ['SUM(value) / COUNT(*)', 4],
    ['COUNT(value)', 4],
    ['COUNT(DISTINCT value > 4)', 2],
    ['MAX(value) - MIN(value)', 6],
    ['SUM(value) FILTER (WHERE value > :slack)', 18],
    ['AVG(value) + :slack * STDDEV_SAMP(value)', 5 + 2 * Math.sqrt(20 / 3)],
    ['PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY value)', 5],
    ['PERCENTILE_CONT(0.25) WITHIN GROUP (ORDER BY value DESC)', 6.5],
    ['CASE WHEN MAX(value) > 7 THEN 1 ELSE 0 END', 1],
    ['3 * :slack', 6],
  ])('%s', (text, figure) => {
    expect(formulaFigure(text, values, context)).toBeCloseTo(figure, 9);
  });
  it('is nothing without marks, and where it cannot be read', () => {
    expect(formulaFigure('AVG(value)', new Float64Array(0), context)).toBeNaN();
    expect(formulaFigure('AVG(value) / 0', values, context)).toBeNaN();
    expect(formulaFigure('AVG(', values, context)).toBeNaN();
  });
  it.each([
    ['value * 2', 'There is one value for each mark here: take them together, as in AVG(value).'],
    ['AVG(boats)', 'There is no field "boats" here.'],
    ['boats', 'Of the marks there is value, taken together: AVG(value).'],
    ['AVG(value) > 2', 'It has to be a number.'],
    ['SUM(value > 2)', 'SUM takes a number.'],
    ['SUM(value, 2)', 'SUM(number) is how SUM is written.'],
    [
      'RANK() OVER (ORDER BY value)',
      'OVER (..) looks at other rows, but this formula sees one row at a time.',
    ],
    ['AVG(value) + :slac', 'There is no lever :slac. Is :slack meant?'],
  ])('%s is refused', (text, message) => {
    expect(figureProblem(text, names)?.message).toBe(message);
  });
});

const half = { text: 'AVG(value) + :slack' };
const guided = {
  ...chart,
  cues: [newCue('above', { kind: 'threshold', is: 'at or above', limit: half }, [])],
  guides: [{ kind: 'line' as const, id: 'l', at: half, style: 'solid' as const }],
  touches: [],
};

it('lights marks and places a line alike, and moves with the lever it names', () => {
  const on = { ...board, levers: [slack], charts: [guided] };
  const stages = chartStages();
  const at = (position: number) => runChart(guided, { slack: position }, { board: on }, stages);
  // 40, 25, 20 and 7: the mean is 23.
  expect(at(2).guides.texts.map(({ text }) => text)).toEqual(['25']);
  const lit = () => [...at(2).emphasis.state].filter((state) => state === stateCode.lit).length;
  expect(lit()).toBe(2);
  expect(at(3).guides.texts.map(({ text }) => text)).toEqual(['26']);
  expect([...at(3).emphasis.state].filter((state) => state === stateCode.lit)).toHaveLength(1);
  expect(at(2).guides.handles).toEqual([]);
  expect(leverUses(guided).map(({ lever, how, loose }) => [lever, how, loose])).toEqual([
    ['slack', 'lights', true],
    ['slack', 'places', true],
  ]);
});

it('keeps what a lever held when that goes', () => {
  const draft = structuredClone({ ...board, levers: [slack], charts: [guided] });
  removeLever(draft, 'slack', { ...names, positionOf: () => 4, today: '2024-12-31' });
  expect(draft.charts[0]!.guides).toMatchObject([{ at: { text: 'AVG(value) + 4' } }]);
  expect(draft.charts[0]!.cues[0]!.condition).toMatchObject({ limit: { text: 'AVG(value) + 4' } });
});
