import { floatsInSteps } from '../data/typed-lists';
import { tell } from '../messages/desk';
import type { FormInput, FormKind } from './form-kind';
import { line } from './line';
import type { PointMarks, Scene } from './scene';
import { beyondOf } from './slots';
import { heldOn, isOn, positionOn } from './value-axis';

/** The ground that each line stands on, px: zero, or the line below it in a stack. */
function basesOf({ ends, readings }: FormInput, scene: Scene): Generator<void, Float64Array> {
  return floatsInSteps(readings.length, (i) =>
    Number.isNaN(readings.value[i]!) || Number.isNaN(ends.from[i]!)
      ? Number.NaN
      : heldOn(scene.values, ends.from[i]!),
  );
}

// Grounds measured on two axes would seem to lie over each other.
const { secondAxis: _second, ...oneAxis } = line;

/** Lines with the ground below them filled: side by side over each other, or stacked. */
export const area: FormKind = {
  ...oneAxis,
  kind: 'area',
  get word() {
    return tell('form.area.word');
  },
  get noun() {
    return tell('form.area.noun');
  },
  mark: 'point',
  get markNoun() {
    return tell('form.area.mark');
  },
  get note() {
    return tell('form.area.note');
  },
  fromZero: true,
  stacks: true,
  *scene(input) {
    const scene = yield* line.scene(input);
    const { ends } = input;
    const { x, y } = scene.marks as PointMarks;
    const shown = scene.spots && ends.to.map((to) => (isOn(scene.values, to) ? 0 : Number.NaN));
    const tops = yield* floatsInSteps(y.length, (i) =>
      Number.isNaN(y[i]!) ? Number.NaN : positionOn(scene.values, ends.to[i]!),
    );
    return {
      ...scene,
      beyond: beyondOf(ends, scene.values),
      marks: { shape: 'points', x, y: tops, base: yield* basesOf(input, scene) },
      ...(scene.spots ? { spots: { ...scene.spots, y: tops.map((each, i) => each - 13 + shown![i]!) } } : {}),
    };
  },
};
