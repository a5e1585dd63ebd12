import { widestOf } from './fit-text';
import { type FormKind, manyBars, textSize } from './form-kind';
import type { SceneText } from './scene';
import { abreast, beyondOf, emptyRects, leastStep, restsOf, slotsOf } from './slots';
import { placeLabels, uprightFrame } from './upright';
import { heldOn } from './value-axis';

const minStep = 4;
const minSlot = 3;
const maxStep = 110;
const minHit = 28;

/** Standing columns, one per category from the left, over a value axis. */
export const columns: FormKind = {
  kind: 'columns',
  word: 'columns',
  noun: 'columns',
  markNoun: 'column',
  note: 'standing',
  fromZero: true,
  secondAxis: true,
  stacks: true,
  fills: true,
  scene(input) {
    const { readings, valueText, width, height, fit, measure, miniature, ends, stacked, inside, wholes } =
      input;
    const slots = slotsOf(readings, undefined, stacked, input.alone);
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
    const { hitFrom, hitTo, ...marks } = emptyRects(readings, slots);
    hitTo.fill(height);
    const spots = { x: new Float64Array(marks.x.length), y: new Float64Array(marks.x.length) };
    for (const { place, ...text } of placeLabels(input, frame, {
      places,
      step,
      right: Math.max(width, right),
    }))
      texts.push(slots.per === 1 && at[place]! >= 0 ? { ...text, mark: at[place]! } : text);
    for (const [where, i] of at.entries()) {
      if (i < 0) continue;
      const missing = Number.isNaN(ends.to[i]!);
      const own = axisOf(readings.seriesOf[i]!);
      const zero = heldOn(own, 0);
      const start = missing ? zero : heldOn(own, ends.from[i]!);
      const end = missing ? zero : heldOn(own, ends.to[i]!);
      const beside = stacked ? 0 : (where % per) - (per - 1) / 2;
      const middle = left + step * (Math.floor(where / slots.per) + 0.5) + beside * slot;
      marks.x[i] = middle - thickness / 2;
      marks.y[i] = Math.min(start, end);
      marks.width[i] = missing ? 0 : thickness;
      marks.height[i] = Math.abs(end - start);
      // The label below belongs to the mark as much as the column does.
      hitFrom[i] = stacked ? Math.min(start, end) : Math.min(end, zero - minHit);
      if (stacked) hitTo[i] = Math.max(start, end);
      spots.x[i] = middle;
      const fits = Math.abs(end - start) >= 14;
      spots.y[i] = stacked ? (fits ? (start + end) / 2 : Number.NaN) : end > zero ? end + 11 : end - 10;
      const within =
        inside &&
        !many &&
        Math.abs(end - start) >= 20 &&
        measure(figures[where]!, textSize.value, true) + 4 <= thickness;
      if (valueFits && !miniature)
        texts.push({
          x: middle,
          ...(within ? { y: end > zero ? end - 10 : end + 10, inside: true as const } : { y: spots.y[i]! }),
          text: figures[where]!,
          anchor: 'middle',
          role: 'value',
          mark: i,
        } satisfies SceneText);
    }
    const rests = restsOf(slots, ends, wholes).map(({ place, from, to }) => ({
      x: left + step * (place + 0.5) - thickness / 2,
      y: heldOn(axis, to),
      width: thickness,
      height: heldOn(axis, from) - heldOn(axis, to),
    }));
    return {
      width: miniature ? width : Math.max(width, Math.ceil(right + frame.rightRoom)),
      height,
      band: { direction: 'x', start: left, step, count: places },
      values: axis,
      ...(second ? { second } : {}),
      marks: { shape: 'rects', ...marks, hitFrom, hitTo, slots, rests },
      ...(valueFits || miniature ? {} : { spots: { ...spots, anchor: 'middle' as const } }),
      texts,
      lines,
      omitted: slots.omitted,
      beyond: beyondOf(ends, axis, (i) => axisOf(readings.seriesOf[i]!)),
    };
  },
};
