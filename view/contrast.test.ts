import { expect, it } from 'vitest';
import { contrast } from './contrast';

it('is told of colours however they are written', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
  expect(contrast('rgb(255, 255, 255)', 'rgb(0 0 0)')).toBeCloseTo(21, 5);
  expect(contrast('#767676', 'rgba(255, 255, 255, 1)')).toBeCloseTo(4.54, 2);
  expect(contrast('#22272d', '#22272d')).toBe(1);
});
