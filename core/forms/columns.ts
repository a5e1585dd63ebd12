import { tell } from '../messages/desk';
import { barsOnAxes } from './bars-on-axes';
import { widestOf } from './fit-text';
import { type FormKind, manyBars, textSize } from './form-kind';
import type { BandAxis, SceneText } from './scene';
import { abreast, beyondOf, leastStep, slotsOf } from './slots';
import { placeLabels, uprightFrame } from './upright';

const minStep = 4;
const minSlot = 3;
const maxStep = 110;

/** Standing columns, one per category from the left, over a value axis. */
export const columns: FormKind = {
  kind: 'columns',
  get word() {
    return tell('form.columns.word');
  },
  get noun() {
    return tell('form.columns.noun');
  },
  mark: 'column',
  get markNoun() {
    return tell('form.columns.mark');
  },
  get note() {
    return tell('form.columns.note');
  },
  fromZero: true,
  secondAxis: true,
  stacks: true,
  fills: true,
  *scene(input) {
    const { readings, valueText, width, height, fit, measure, miniature, ends, stacked, inside, wholes } =
      input;
    const slots = slotsOf(readings, stacked, input.alone);
    const { places, at } = slots;
    const per = abreast(slots);
    const frame = uprightFrame(input);
    const { left } = frame;
    const room = Math.max(1, width - left - frame.rightRoom) / Math.max(1, places);
    const many = at.length > manyBars;
    const least = fit ? 0 : leastStep(per > 1 ? per * minSlot + 2 : minStep, places, per);
    const step = miniature ? room : Math.min(maxStep * Math.max(1, per / 2), Math.max(least, room));
    const right = left + step * places;
    const slot = per > 1 ? (step * 0.86) / per : step;
    const thickness =
      per > 1 ? Math.max(0.5, slot * 0.94) : Math.min(64, step * (step < 2 ? 1 : step < 10 ? 0.8 : 0.68));
    const axis = frame.axis(right);
    const axisOf = frame.axisOf(right);
    const second = frame.second(right);
    const { lines, texts } = frame.rules(axis);

    const figures = miniature || many ? [] : Array.from(at, (i) => (i < 0 ? '' : valueText(i)));
    const valueFits = !stacked && !many && widestOf(figures, textSize.value, measure) + 6 <= slot;
    const band: BandAxis = { direction: 'x', start: left, step, count: places };
    const { marks, bars } = yield* barsOnAxes(
      { readings, ends, slots, wholes },
      { band, values: axis, axisOf, slot, thickness, namesAt: height },
    );
    const spots = { x: new Float64Array(marks.x.length), y: new Float64Array(marks.x.length) };
    for (const text of placeLabels(input, frame, {
      places,
      step,
      right: Math.max(width, right),
    }))
      texts.push(slots.per === 1 && at[text.place]! >= 0 ? { ...text, mark: at[text.place]! } : text);
    for (const { index, middle, start, end, zero } of bars) {
      const length = Math.abs(end - start);
      const below = end > zero;
      spots.x[index] = middle;
      spots.y[index] = stacked
        ? length >= 14
          ? (start + end) / 2
          : Number.NaN
        : below
          ? end + 11
          : end - 10;
      if (!valueFits || miniature) continue;
      const text = valueText(index);
      const within = inside && length >= 20 && measure(text, textSize.value, true) + 4 <= thickness;
      texts.push({
        x: middle,
        ...(within ? { y: below ? end - 10 : end + 10, inside: true as const } : { y: spots.y[index]! }),
        text,
        anchor: 'middle',
        role: 'value',
        mark: index,
      } satisfies SceneText);
    }
    return {
      width: miniature ? width : Math.max(width, Math.ceil(right + frame.rightRoom)),
      height,
      band,
      values: axis,
      ...(second ? { second } : {}),
      marks,
      ...(valueFits || miniature ? {} : { spots: { ...spots, anchor: 'middle' as const } }),
      texts,
      lines,
      beyond: beyondOf(ends, axis, (i) => axisOf(readings.seriesOf[i]!)),
    };
  },
};
