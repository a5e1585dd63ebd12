import { describe, expect, it } from 'vitest';
import { plainReadings } from '../data/readings';
import { markColour } from './mark-colour';
import { seriesLooks } from './series-looks';
import { colourOfValue, farthestFrom } from './value-colour';

describe('a colour that follows a figure', () => {
  const sign = { by: 'sign', above: 'kelp', below: '#b41', centre: 10 } as const;
  it('by sign has one side from the centre on, another below', () => {
    expect(colourOfValue(sign, 10, 5)).toBe('var(--sv-look-kelp)');
    expect(colourOfValue(sign, 9.9, 5)).toBe('#b41');
    expect(colourOfValue(sign, Number.NaN, 5)).toBeUndefined();
  });
  it('by gradient grows with the distance, alike on both sides', () => {
    const gradient = { by: 'gradient', above: 'kelp', below: 'ember' } as const;
    const share = (value: number) =>
      colourOfValue(gradient, value, 40)!
        .match(/(\w+)\) ([\d.]+)%/)!
        .slice(1);
    expect([40, 10, 0, -10, -80].map(share)).toEqual([
      ['kelp', '100.0'],
      ['kelp', '25.0'],
      ['kelp', '0.0'],
      ['ember', '25.0'],
      ['ember', '100.0'],
    ]);
    expect(colourOfValue(gradient, 3, 0)).toContain('0.0%');
    expect(farthestFrom(10, Float64Array.of(12, 3, Number.NaN))).toBe(7);
  });
  it('goes by the measure it names', () => {
    const readings = {
      ...plainReadings(['a', 'b'], Float64Array.of(1, 2)),
      others: new Map([['average.delay', Float64Array.of(-4, 4)]]),
    };
    const colour = { ...sign, centre: 0, measure: { aggregate: 'average', field: 'delay' } } as const;
    expect([0, 1].map((i) => markColour({ colour }, readings, i))).toEqual([
      { css: '#b41' },
      { css: 'var(--sv-look-kelp)' },
    ]);
    expect(markColour({ colour: 'tide' }, readings, 0)).toEqual({ named: 'tide' });
    expect(markColour({ colour: '#b41' }, readings, 0)).toEqual({ css: '#b41' });
    expect(markColour(undefined, readings, 0)).toEqual({});
  });
});

it('a series keeps its colour, and the author has the last word', () => {
  const looks = seriesLooks(
    { field: 'f', colours: 'own', looks: [{ value: 'b', look: { colour: 'ink', weight: 'heavy' } }] },
    ['a', 'b', 'c'],
  );
  expect(['a', 'b', 'c', 'unknown'].map((value) => looks(value).colour)).toEqual([
    'ember',
    'ink',
    'heather',
    'tide',
  ]);
  expect(looks('b').weight).toBe('heavy');
});
