import { beforeAll, describe, expect, it } from 'vitest';
import { plainReadings } from '../cube/readings';
import { provideFormulas } from './kit';
import { markTextProblem, markTexts } from './mark-text';
import { wholeKit } from './whole-kit';

beforeAll(() => provideFormulas(wholeKit));
const readings = plainReadings(['Quel', 'Harl', 'Ostrin'], Float64Array.of(30, 10, Number.NaN));
const names = { by: { field: 'quay' }, lever: () => undefined, typeOf: () => 'text' as const };
const say = (text: string) => {
  const said = markTexts(text, readings, names, () => undefined, '2024-11-30');
  return said && [0, 1, 2].map(said);
};

describe('what a formula says of marks', () => {
  it('is text, a figure as figures are written, and nothing of a null', () => {
    expect(say("quay || ': ' || CAST(value AS VARCHAR)")).toEqual(['Quel: 30', 'Harl: 10', '']);
    expect(say('value * 1000')).toEqual(['30,000', '10,000', '']);
    expect(say('ROUND(100 * value / SUM(value) OVER (), 1)')).toEqual(['75', '25', '']);
    expect(say('value > 10')).toEqual(['true', 'false', '']);
  });
  it('says nothing where it is wrong, and what is wrong', () => {
    expect(say('valu')).toBeNull();
    expect(say('value +')).toBeNull();
    expect(markTextProblem('valu', names)!.message).toContain('Is value meant?');
    expect(markTextProblem('value', names)).toBeNull();
  });
});
