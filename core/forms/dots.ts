import { floatsInSteps } from '../data/typed-lists';
import { tell } from '../messages/desk';
import { axisAlong } from './along';
import type { FormInput, FormKind } from './form-kind';
import type { BandAxis } from './scene';
import { placeLabels, type UprightFrame, uprightFrame } from './upright';
import { isOn, positionOn } from './value-axis';

/** The more dots, the smaller, px across. */
const sizeFor = (count: number): number =>
  count <= 80 ? 10 : count <= 600 ? 7.5 : count <= 5000 ? 5 : count <= 20_000 ? 3.5 : 2.5;

/** Where dots stand along the plot: at the places of their categories, or along a second measure. */
function* standing(input: FormInput, frame: UprightFrame, right: number) {
  const { readings, along } = input;
  const { left } = frame;
  const { x, lines, texts, band } = along
    ? alongMeasure(along, input, frame, right)
    : alongPlaces(input, frame, right);
  return { x: yield* floatsInSteps(readings.length, x), left, lines, texts, band };
}

function alongMeasure(
  along: NonNullable<FormInput['along']>,
  input: FormInput,
  frame: UprightFrame,
  right: number,
) {
  const { axis, lines, texts } = axisAlong(along, input, frame, right);
  const x = (i: number) => (isOn(axis, along.value[i]!) ? positionOn(axis, along.value[i]!) : Number.NaN);
  const band: BandAxis = { direction: 'x', start: frame.left, step: right - frame.left, count: 0 };
  return { x, lines, texts, band };
}

function alongPlaces(input: FormInput, frame: UprightFrame, right: number) {
  const places = input.readings.places.length;
  const step = (right - frame.left) / Math.max(1, places);
  const labels = placeLabels(input, frame, { places, step, right: input.width });
  const band: BandAxis = { direction: 'x', start: frame.left, step, count: places };
  return {
    x: (i: number) => frame.left + (input.readings.place[i]! + 0.5) * step,
    lines: [],
    texts: labels,
    band,
  };
}

/** A dot for each reading: over the place of its category, or where two measures meet. */
export const dots: FormKind = {
  kind: 'dots',
  get word() {
    return tell('form.dots.word');
  },
  get noun() {
    return tell('form.dots.noun');
  },
  mark: 'dot',
  get markNoun() {
    return tell('form.dots.mark');
  },
  get note() {
    return tell('form.dots.note');
  },
  against: true,
  secondAxis: true,
  *scene(input) {
    const { readings, width, height, miniature, along } = input;
    const frame = uprightFrame(input);
    const right = Math.max(frame.left + 1, width - frame.rightRoom - (miniature ? 2 : 8));
    const axisOf = frame.axisOf(right);
    const second = frame.second(right);
    const axis = frame.axis(right);
    const rules = frame.rules(axis);
    const { x, lines, texts, band } = yield* standing(input, frame, right);
    let beyond = 0;
    const y = yield* floatsInSteps(readings.length, (i) => {
      const value = readings.value[i]!;
      if (Number.isNaN(value) || (along && Number.isNaN(along.value[i]!))) return Number.NaN;
      const own = axisOf(readings.seriesOf[i]!);
      if (isOn(own, value) && !Number.isNaN(x[i]!)) return positionOn(own, value);
      beyond++;
      return Number.NaN;
    });
    const size = miniature ? Math.min(5, sizeFor(readings.length) / 2) : sizeFor(readings.length);
    const beside = x.map((each) => each + size / 2 + 5);
    return {
      width,
      height,
      band,
      values: axis,
      ...(second ? { second } : {}),
      marks: { shape: 'dots', x, y, size },
      ...(miniature
        ? {}
        : {
            spots: along
              ? { x: beside, y, anchor: 'start' as const, of: 'name' as const }
              : { x, y: y.map((each) => each - size / 2 - 8), anchor: 'middle' as const },
          }),
      texts: [...rules.texts, ...texts],
      lines: [...rules.lines, ...lines],
      beyond,
    };
  },
};
