import fc from 'fast-check';
import { expect, it } from 'vitest';
import { plainReadings } from '../data/readings';
import { trackPoints } from '../pipeline/piece-points';

/** The segments that lines are made of, each as its two ends along and up, moved by some px along. */
const segments = (lines: number[][], by: number): string[] =>
  lines.flatMap((line) =>
    Array.from({ length: line.length / 2 - 1 }, (_, i) =>
      [line[2 * i]! + by, line[2 * i + 1], line[2 * i + 2]! + by, line[2 * i + 3]].join(' '),
    ),
  );

it('tiles next to each other have every piece of a line that the whole has, and no other', () => {
  fc.assert(
    fc.property(
      fc.array(fc.option(fc.integer({ min: 0, max: 50 }), { nil: Number.NaN }), {
        minLength: 1,
        maxLength: 40,
      }),
      fc.integer({ min: 1, max: 9 }),
      (values, places) => {
        const readings = plainReadings(
          values.map((_, i) => i),
          Float64Array.from(values),
        );
        const [step, up] = [4, (value: number) => 100 - value];
        const stretch = (from: number, to: number) => trackPoints(readings, 0, { from, to, step }, up);
        const whole = segments(stretch(0, values.length), 0);
        const tiles = Array.from({ length: Math.ceil(values.length / places) }, (_, tile) =>
          segments(stretch(tile * places, (tile + 1) * places), tile * places * step),
        ).flat();
        expect(new Set(tiles)).toEqual(new Set(whole));
      },
    ),
  );
});
