import { barsOnAxes } from '../forms/bars-on-axes';
import type { FormKind } from '../forms/form-kind';
import type { BandAxis } from '../forms/scene';
import { beyondOf, slotsOf } from '../forms/slots';
import { placeLabels, uprightFrame } from '../forms/upright';

/** Px across. */
const thickness = 2;

/** Very thin columns, one for each reading: for so many places that their widths would say nothing. */
export const needles: FormKind = {
  kind: 'needles',
  word: 'needles',
  noun: 'needles',
  mark: 'needle',
  markNoun: 'needle',
  note: 'thin columns, for very many places',
  fromZero: true,
  *scene(input) {
    const { readings, ends, stacked, alone, width, height, miniature } = input;
    const frame = uprightFrame(input);
    const { left } = frame;
    const slots = slotsOf(readings, stacked, alone);
    const { places } = slots;
    const right = Math.max(left + 1, width - frame.rightRoom);
    const step = (right - left) / Math.max(1, places);
    const axis = frame.axis(right);
    const rules = frame.rules(axis);
    const band: BandAxis = { direction: 'x', start: left, step, count: places };
    const { marks, bars } = yield* barsOnAxes(
      { readings, ends, slots, wholes: null },
      { band, values: axis, slot: step / slots.per, thickness, namesAt: height },
    );
    const spots = { x: new Float64Array(readings.length), y: new Float64Array(readings.length) };
    for (const { index, middle, end } of bars) {
      spots.x[index] = middle;
      spots.y[index] = end - 10;
    }
    const names = placeLabels(input, frame, { places, step, right: width });
    return {
      width,
      height,
      band,
      values: axis,
      marks,
      // Figures are written where there is room for them, lit marks first.
      ...(miniature ? {} : { spots: { ...spots, anchor: 'middle' as const } }),
      texts: [...rules.texts, ...names.map(({ place: _place, ...text }) => text)],
      lines: rules.lines,
      beyond: beyondOf(ends, axis),
    };
  },
};
