import { shortNumberText } from '../words/number-text';
import { fitText, widestOf } from './fit-text';
import { type FormKind, maxMarks, textSize } from './form-kind';
import type { SceneLine, SceneText, ValueAxis } from './scene';
import { niceDomain, positionOn, ticksOf, valueDomain } from './value-axis';

const minStep = 4;
const maxStep = 110;
const labelGap = 14;
const maxLabel = 110;
const minHit = 28;

/** Standing columns, one per category from the left, over a value axis. */
export const columns: FormKind = {
  kind: 'columns',
  noun: 'columns',
  markNoun: 'column',
  scene({ readings, labels, values, width, height, extent, fit, labelSteps, measure, miniature }) {
    const count = Math.min(readings.length, maxMarks);
    const value = readings.value.subarray(0, count);
    const tickCount = Math.max(2, Math.min(6, Math.floor(height / 60)));
    const raw = valueDomain(extent);
    const domain = miniature ? raw : niceDomain(raw, tickCount);
    const ticks = miniature ? [] : ticksOf(domain, tickCount);
    const tickTexts = ticks.map(shortNumberText);

    const left = miniature
      ? 0
      : Math.ceil(Math.max(0, ...tickTexts.map((text) => measure(text, textSize.tick)))) + 10;
    const top = miniature ? 0 : 22;
    const bottom = Math.max(top + 1, height - (miniature ? 0 : 26));
    const room = Math.max(1, width - left);
    const step = miniature
      ? room / Math.max(1, count)
      : Math.min(maxStep, Math.max(fit ? 0 : minStep, room / Math.max(1, count)));
    const right = left + Math.max(step * count, miniature ? 0 : Math.min(room, step * count));
    const thickness = Math.max(Math.min(0.5, step), Math.min(64, step * (step < 10 ? 0.8 : 0.68)));
    const axis: ValueAxis = {
      direction: 'y',
      domain,
      start: bottom,
      end: top,
      crossStart: left,
      crossEnd: right,
    };
    const zero = positionOn(axis, 0);

    const lines: SceneLine[] = ticks.map((tick) => {
      const y = positionOn(axis, tick);
      return { x1: left, x2: right, y1: y, y2: y, role: tick === 0 ? 'zero' : 'grid' };
    });
    if (miniature) lines.push({ x1: left, x2: right, y1: zero, y2: zero, role: 'zero' });
    const texts: SceneText[] = ticks.map((tick, i) => ({
      x: left - 6,
      y: positionOn(axis, tick),
      text: tickTexts[i]!,
      anchor: 'end',
      role: 'tick',
    }));

    const shown = miniature
      ? []
      : labels.slice(0, count).map((label) => fitText(label, maxLabel, textSize.category, measure));
    const widestLabel = widestOf(shown, textSize.category, measure);
    const least = Math.max(1, Math.ceil((widestLabel + labelGap) / step));
    const every = labelSteps.find((distance) => distance >= least) ?? least;
    const valueFits = widestOf(values.slice(0, count), textSize.value, measure) + 6 <= step;

    const marks = {
      x: new Float64Array(count),
      y: new Float64Array(count),
      width: new Float64Array(count),
      height: new Float64Array(count),
    };
    const hitFrom = new Float64Array(count);
    const hitTo = new Float64Array(count).fill(height);
    for (let i = 0; i < count; i++) {
      const missing = Number.isNaN(value[i]!);
      const end = missing ? zero : positionOn(axis, value[i]!);
      const middle = left + step * (i + 0.5);
      marks.x[i] = middle - thickness / 2;
      marks.y[i] = Math.min(zero, end);
      marks.width[i] = missing ? 0 : thickness;
      marks.height[i] = Math.abs(end - zero);
      // The label below belongs to the mark as much as the column does.
      hitFrom[i] = Math.min(end, zero - minHit);
      if (miniature) continue;
      if (i % every === 0 && shown[i]) {
        const half = measure(shown[i]!, textSize.category, true) / 2;
        const x = Math.max(half, Math.min(middle, Math.max(width, right) - half));
        texts.push({ x, y: bottom + 15, text: shown[i]!, anchor: 'middle', role: 'category', mark: i });
      }
      if (valueFits) {
        const y = end > zero ? end + 11 : end - 10;
        texts.push({ x: middle, y, text: values[i]!, anchor: 'middle', role: 'value', mark: i });
      }
    }
    return {
      width: miniature ? width : Math.max(width, Math.ceil(right)),
      height,
      band: { direction: 'x', start: left, step, count },
      values: axis,
      marks,
      hitFrom,
      hitTo,
      texts,
      lines,
      omitted: readings.length - count,
    };
  },
};
