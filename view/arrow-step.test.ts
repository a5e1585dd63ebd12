import { expect, it } from 'vitest';
import { arrowStep, type StepRules } from './arrow-step';

const press = (key: string, more = {}) => ({ key, altKey: false, ctrlKey: false, metaKey: false, ...more });
const steps = (keys: string[], rules: StepRules) => keys.map((key) => arrowStep(press(key), rules));

it('leads down in a list and up on a slider', () => {
  const keys = ['ArrowDown', 'ArrowUp', 'ArrowRight', 'ArrowLeft', 'PageDown', 'PageUp', 'Home', 'End', 'x'];
  const ends = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  expect(steps(keys, { down: 'on', page: 6 })).toEqual([1, -1, 1, -1, 6, -6, ...ends, undefined]);
  expect(steps(keys, { down: 'back', page: 10 })).toEqual([-1, 1, 1, -1, -10, 10, ...ends, undefined]);
});
it('leaves keys alone that mean something else', () => {
  expect(steps(['Home', 'End', 'ArrowLeft', 'PageUp'], { down: 'on', typing: true })).toEqual(
    Array(4).fill(undefined),
  );
  for (const held of ['altKey', 'ctrlKey', 'metaKey'])
    expect(arrowStep(press('ArrowDown', { [held]: true }), { down: 'on' })).toBeUndefined();
});
