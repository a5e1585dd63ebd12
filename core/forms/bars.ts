import { fitText, widestOf } from './fit-text';
import { type FormKind, maxMarks, textSize } from './form-kind';
import type { SceneText, ValueAxis } from './scene';
import { positionOn, valueDomain } from './value-axis';

const minStep = 24;
/** Thinner than this a bar cannot carry its name. */
const minFit = 15;
const maxStep = 46;
const gap = 8;
/** A short bar can still be hit this far from its foot, px. */
const minHit = 28;

/** Lying bars, one per category from the top, each with its figure at its end; no axis is needed to read them. */
export const bars: FormKind = {
  kind: 'bars',
  noun: 'bars',
  markNoun: 'bar',
  scene({ readings, labels, values, width, height, extent, fit, guided, measure, miniature }) {
    const count = Math.min(readings.length, maxMarks);
    const value = readings.value.subarray(0, count);
    const [low, high] = valueDomain(extent);
    const top = guided && !miniature ? 20 : 0;
    const room = Math.max(1, height - top);
    const step = miniature
      ? room / Math.max(1, count)
      : Math.min(maxStep, Math.max(fit ? minFit : minStep, room / Math.max(1, count)));
    const thickness = miniature ? step * 0.72 : Math.min(28, step * 0.7);

    // The figures are what is read off: names give way before they do.
    const valueRoom = miniature
      ? 0
      : Math.min(
          Math.ceil(widestOf(values.slice(0, count), textSize.value, measure)) + gap,
          Math.floor(width * 0.4),
        );
    const labelRoom = miniature
      ? 0
      : Math.min(
          Math.ceil(widestOf(labels.slice(0, count), textSize.category, measure)),
          Math.floor(width * 0.36),
          Math.floor(width * 0.72) - valueRoom,
        );
    const left = labelRoom + (miniature ? 0 : gap * 1.5) + (low < 0 ? valueRoom : 0);
    const right = Math.max(left + 1, width - (high > 0 ? valueRoom : 0) - (miniature ? 0 : 4));
    const bottom = top + step * count;
    const axis: ValueAxis = {
      direction: 'x',
      domain: [low, high],
      start: left,
      end: right,
      crossStart: top,
      crossEnd: bottom,
    };
    const zero = positionOn(axis, 0);

    const marks = {
      x: new Float64Array(count),
      y: new Float64Array(count),
      width: new Float64Array(count),
      height: new Float64Array(count),
    };
    const hitFrom = new Float64Array(count);
    const hitTo = new Float64Array(count);
    const texts: SceneText[] = [];
    for (let i = 0; i < count; i++) {
      const missing = Number.isNaN(value[i]!);
      const end = missing ? zero : positionOn(axis, value[i]!);
      const middle = top + step * (i + 0.5);
      marks.x[i] = Math.min(zero, end);
      marks.y[i] = middle - thickness / 2;
      marks.width[i] = Math.abs(end - zero);
      marks.height[i] = missing ? 0 : thickness;
      // The label belongs to the mark as much as the bar does.
      hitFrom[i] = 0;
      hitTo[i] = Math.max(end, zero + minHit);
      if (miniature) continue;
      const back = end < zero;
      texts.push(
        {
          x: 0,
          y: middle,
          text: fitText(labels[i]!, labelRoom, textSize.category, measure),
          anchor: 'start',
          role: 'category',
          mark: i,
        },
        {
          x: back ? end - 6 : end + 6,
          y: middle,
          text: values[i]!,
          anchor: back ? 'end' : 'start',
          role: 'value',
          mark: i,
        },
      );
    }
    return {
      width,
      height: miniature ? height : Math.max(height, Math.ceil(bottom)),
      band: { direction: 'y', start: top, step, count },
      values: axis,
      marks,
      hitFrom,
      hitTo,
      texts,
      lines: low < 0 || miniature ? [{ x1: zero, x2: zero, y1: top, y2: bottom, role: 'zero' }] : [],
      omitted: readings.length - count,
    };
  },
};
