import { expect, it } from 'vitest';
import { envelopeOf } from './envelope';

const marks = (tops: number[]) => ({
  x: Float64Array.from(tops, (_, i) => i * 0.1),
  y: Float64Array.from(tops),
  width: Float64Array.from(tops, () => 0.1),
  height: Float64Array.from(tops, (top) => 100 - top),
});

it('of bars that share a pixel the highest is seen', () => {
  const tops = Array.from({ length: 30 }, (_, i) => (i === 14 ? 5 : 50 + (i % 7)));
  expect(envelopeOf(marks(tops) as never, true, 0, 30)).toEqual([
    { at: 0, from: 50, to: 100 },
    { at: 1, from: 5, to: 100 },
    { at: 2, from: 50, to: 100 },
  ]);
  expect(envelopeOf(marks(tops) as never, true, 20, 30).map(({ at }) => at)).toEqual([2]);
});

it('of lying ones the longest', () => {
  const { x, y, width, height } = marks([50, 20, 60]);
  const lying = { x: y, y: x, width: height, height: width };
  expect(envelopeOf(lying as never, false, 0, 3)).toEqual([{ at: 0, from: 20, to: 100 }]);
});
