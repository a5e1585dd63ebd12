import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import { measureKey } from '../board/measure';
import { plainReadings } from '../data/readings';
import { english } from '../messages/locale';
import { markTextProblem, markTexts } from './mark-formula';

const readings = plainReadings(['Quel', 'Harl', 'Ostrin'], Float64Array.of(30, 10, Number.NaN));
const names = {
  engine: fullEngine,
  by: { field: 'quay' },
  lever: () => undefined,
  typeOf: () => 'text' as const,
};
const say = (text: string) => {
  const said = markTexts(text, readings, names, () => undefined, '2024-11-30', english);
  return said && [0, 1, 2].map(said);
};

describe('what a formula says of marks', () => {
  it('is text, a figure as figures are written, and nothing of a null', () => {
    expect(say("quay || ': ' || CAST(value AS VARCHAR)")).toEqual(['Quel: 30', 'Harl: 10', '']);
    expect(say('value * 1000')).toEqual(['30,000', '10,000', '']);
    expect(say('ROUND(100 * value / SUM(value) OVER (), 1)')).toEqual(['75', '25', '']);
    expect(say('value > 10')).toEqual(['true', 'false', '']);
  });
  it('can name the further measures of the chart', () => {
    const late = { aggregate: 'average', field: 'delay' } as const;
    const changed = { aggregate: 'formula', text: 'SUM(boats) * 1.1', name: 'With the change' } as const;
    const several = {
      ...names,
      measure: { aggregate: 'sum', field: 'boats' } as const,
      also: [{ measure: late }, { measure: changed }, { measure: { aggregate: 'count' } as const }],
    };
    const with_ = {
      ...readings,
      others: new Map([
        [measureKey(late), Float64Array.of(4, Number.NaN, 2)],
        [measureKey(changed), Float64Array.of(33, 11, Number.NaN)],
        [measureKey({ aggregate: 'count' }), Float64Array.of(3, 1, 1)],
      ]),
    };
    const saidOf = (text: string) => {
      const said = markTexts(text, with_, several, () => undefined, '2024-11-30', english)!;
      return [0, 1, 2].map(said);
    };
    expect(saidOf('delay')).toEqual(['4', '', '2']);
    expect(saidOf('with_the_change - value')).toEqual(['3', '1', '']);
    expect(saidOf('RANK() OVER (ORDER BY row_count)')).toEqual(['3', '1', '1']);
    expect(markTextProblem('with_the_chang', several)!.message).toContain('Is with_the_change meant?');
    // A chart that is parted shows one measure.
    expect(markTextProblem('delay', { ...several, split: { field: 'kind' } })).not.toBeNull();
  });
  it('says nothing where it is wrong, and what is wrong', () => {
    expect(say('valu')).toBeNull();
    expect(say('value +')).toBeNull();
    expect(markTextProblem('valu', names)!.message).toContain('Is value meant?');
    expect(markTextProblem('value', names)).toBeNull();
  });
});
