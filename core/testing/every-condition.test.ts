import { fullEngine } from '@sorvik/formula/full-engine';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { describe, expect, it } from 'vitest';
import { verdicts } from '../conditions/condition-kind';
import { plainReadings } from '../data/readings';
import { EveryCondition, every } from './every-condition';

const context = (values: number[]) => ({
  engine: fullEngine,
  readings: plainReadings(
    values.map((_, i) => `mark ${i}`),
    Float64Array.from(values),
  ),
  by: { field: 'mark' },
  lever: () => undefined,
  positionOf: () => undefined,
  today: '2024-12-31',
});

describe('the worked example of the docs', () => {
  it('works', () => {
    const said = every.evaluate({ kind: 'every', nth: 2 }, context([5, Number.NaN, 7, 8, 9]));
    const { no, unknown, yes } = verdicts;
    expect(said).toMatchObject({ active: true, verdict: Uint8Array.of(no, unknown, yes, no, yes) });
    expect(every.evaluate({ kind: 'every', nth: 0 }, context([5]))).toMatchObject({ active: false });
    const errors = validateSync(plainToInstance(EveryCondition, { kind: 'every', nth: 'x' }));
    expect(errors.map(({ property }) => property)).toEqual(['nth']);
  });
});
