import { fullEngine } from '@sorvik/formula/full-engine';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../../board/chart';
import { formKinds } from '../../forms/registry';
import { board, chart, dataset } from '../../testing/fixtures';
import { vocabularyOf } from '../../words/vocabulary';
import { cannotLight } from './cannot-light';
import { notOffered } from './not-offered';
import { offersFor } from './offers-for';

const contextOf = (changes: Partial<Chart>, range?: { min: number; max: number }) => {
  const on = { ...board, charts: [{ ...chart, cues: [], touches: [], ...changes } as Chart] };
  return {
    chart: on.charts[0]!,
    board: on,
    dataset,
    words: vocabularyOf(on, dataset, fullEngine),
    ...(range ? { range } : {}),
  };
};
const whyNot = (id: string, changes: Partial<Chart>, range?: { min: number; max: number }) =>
  notOffered(contextOf(changes, range)).find((each) => each.id === id)?.why;

describe('why a lever cannot light', () => {
  const lever = (id: string) => board.levers.find((each) => each.id === id)!;
  it('is said by the conditions that it could be in', () => {
    const on = contextOf({ by: { field: 'day', grain: 'month' } });
    expect(cannotLight(on, lever('quays'))).toBe(
      'Quays holds quay, and this chart shows month: it can filter this chart, not light it.',
    );
    expect(cannotLight(contextOf({}), lever('quays'))).toBeNull();
  });
});

describe('what cannot be said of a chart', () => {
  const known = { min: 0, max: 9 };
  const month = { field: 'day', grain: 'month' } as const;
  it('says what is in its way', () => {
    expect(whyNot('clock', { by: { field: 'quay' } })).toBe(
      'Quay is no time. Put a date there, or whole numbers that are hours, minutes or weekdays.',
    );
    expect(whyNot('clock', { by: month })).toBeUndefined();
    expect(whyNot('latest', {})).toBe('Quay is no date.');
    expect(whyNot('stack', { form: 'line' })).toContain('take bars or columns');
    expect(whyNot('stack', { form: 'bars' })).toContain('"Splits the bars by .." comes first');
    expect(whyNot('keep top', { form: 'line', by: month })).toContain('across the gaps');
    expect(whyNot('limits', {})).toContain('no values yet');
    expect(whyNot('limits', {}, known)).toBeUndefined();
  });
  it.each(formKinds.all().map(({ kind }) => kind))('is not offered as well, on %s', (form) => {
    for (const by of [{ field: 'quay' }, { field: 'boats' }, { field: 'day' }, month])
      for (const split of [undefined, { field: 'quay', colours: 'own' as const }])
        for (const range of [undefined, known]) {
          const context = contextOf({ form, by, ...(split ? { split } : {}) } as Partial<Chart>, range);
          const offered = new Set(offersFor(context).map(({ id }) => id));
          const both = notOffered(context).filter(({ id }) => offered.has(id));
          expect(both, JSON.stringify({ by, split, range })).toEqual([]);
        }
  });
});
