import { tell } from '../messages/desk';
import { barsOnAxes } from './bars-on-axes';
import { fitText, widestOf } from './fit-text';
import { type FormKind, manyBars, textSize } from './form-kind';
import type { BandAxis, SceneText, ValueAxis } from './scene';
import { abreast, beyondOf, figuresOf, leastStep, slotsOf } from './slots';
import { domainOf, heldOn } from './value-axis';

const minStep = 24;
/** Thinner than this a bar cannot carry its name. */
const minFit = 15;
const maxStep = 46;
const gap = 8;
/** A bar among several at a place, and the least height of one that has room for its figure. */
const minSlot = 9;
const figureHeight = 13;
const nameHeight = 15;

/** Lying bars, one per category from the top, each with its figure at its end; no axis is needed to read them. */
export const bars: FormKind = {
  kind: 'bars',
  get word() {
    return tell('form.bars.word');
  },
  get noun() {
    return tell('form.bars.noun');
  },
  mark: 'bar',
  get markNoun() {
    return tell('form.bars.mark');
  },
  get note() {
    return tell('form.bars.note');
  },
  fromZero: true,
  stacks: true,
  fills: true,
  *scene(input) {
    const { readings, labels, valueText, width, height, range, fit, headRows, measure, miniature } = input;
    const { ends, stacked, inside, wholes } = input;
    const slots = slotsOf(readings, stacked, input.alone);
    const { places, at } = slots;
    const per = abreast(slots);
    const [low, high] = domainOf(range);
    const top = headRows && !miniature ? 20 : 0;
    const room = Math.max(1, height - top) / Math.max(1, places);
    const many = at.length > manyBars;
    const least = leastStep(per > 1 ? per * minSlot + gap : fit ? minFit : minStep, places, per);
    const step = miniature ? room : Math.min(maxStep + (per - 1) * 20, Math.max(least, room));
    const slot = per > 1 ? (step - (miniature || many ? 0 : gap * 0.75)) / per : step;
    // Bars thinner than a few px leave no room between them: that would only make them paler.
    const filled = slot < 3 ? 1 : miniature ? (per > 1 ? 1 : 0.72) : per > 1 ? 0.88 : 0.7;
    const thickness = Math.min(miniature ? slot : 28, slot * filled);
    const crowded = slot < figureHeight || stacked || many;

    const drawn = Array.from(at).filter((i) => i >= 0);
    const figures = miniature ? [] : many ? figuresOf(drawn, input) : drawn.map((i) => valueText(i));
    // Names that would stand closer than they are high give way.
    const every = Math.max(1, Math.ceil(nameHeight / step));
    // The figures are what is read off: names give way before they do.
    const valueRoom = miniature
      ? 0
      : Math.min(Math.ceil(widestOf(figures, textSize.value, measure)) + gap, Math.floor(width * 0.4));
    const labelRoom = miniature
      ? 0
      : Math.min(
          Math.ceil(widestOf(labels, textSize.category, measure)),
          Math.floor(width * 0.36),
          Math.floor(width * 0.72) - valueRoom,
        );
    const left = labelRoom + (miniature ? 0 : gap * 1.5) + (low < 0 ? valueRoom : 0);
    const right = Math.max(left + 1, width - (high > 0 ? valueRoom : 0) - (miniature ? 0 : 4));
    const bottom = top + step * places;
    const axis: ValueAxis = {
      direction: 'x',
      scale: range.scale,
      domain: [low, high],
      start: left,
      end: right,
      crossStart: top,
      crossEnd: bottom,
    };
    const zero = heldOn(axis, 0);

    const band: BandAxis = { direction: 'y', start: top, step, count: places };
    const { marks, bars } = yield* barsOnAxes(
      { readings, ends, slots, wholes },
      { band, values: axis, slot, thickness, namesAt: 0 },
    );
    const spots = { x: new Float64Array(marks.x.length), y: new Float64Array(marks.x.length) };
    const texts: SceneText[] = [];
    if (!miniature)
      // The first name is not cut where its bar is thinner than it is high.
      for (let place = Math.ceil(nameHeight / 2 / step - 0.5); place < places; place += every)
        texts.push({
          x: 0,
          y: top + step * (place + 0.5),
          ...(many
            ? { text: labels[place]!, room: labelRoom }
            : { text: fitText(labels[place]!, labelRoom, textSize.category, measure) }),
          anchor: 'start',
          role: 'category',
          // Among several series the name belongs to all bars of its place.
          ...(slots.per === 1 && at[place]! >= 0 ? { mark: at[place]! } : {}),
        });
    for (const [k, { index, middle, start, end, zero }] of miniature ? [] : bars.entries()) {
      const back = end < zero;
      const length = Math.abs(end - start);
      const fits = !stacked || (!many && measure(valueText(index), textSize.value, true) + 6 <= length);
      spots.x[index] = stacked ? (fits ? (start + end) / 2 : Number.NaN) : back ? end - 6 : end + 6;
      spots.y[index] = middle;
      if (crowded) continue;
      const text = figures[k]!;
      const within = inside && measure(text, textSize.value, true) + 12 <= length;
      texts.push({
        x: within ? (back ? end + 6 : end - 6) : spots.x[index]!,
        y: middle,
        text,
        anchor: back === within ? 'start' : 'end',
        role: 'value',
        mark: index,
        ...(within ? { inside: true } : {}),
      });
    }
    return {
      width,
      height: miniature ? height : Math.max(height, Math.ceil(bottom)),
      band,
      values: axis,
      marks,
      ...(crowded && !miniature
        ? { spots: { ...spots, anchor: stacked ? ('middle' as const) : ('start' as const) } }
        : {}),
      texts,
      lines:
        (low < 0 && high > 0) || miniature ? [{ x1: zero, x2: zero, y1: top, y2: bottom, role: 'zero' }] : [],
      beyond: beyondOf(ends, axis),
    };
  },
};
