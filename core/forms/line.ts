import { stepLength } from '../data/all-steps';
import { floatsInSteps } from '../data/typed-lists';
import { tell } from '../messages/desk';
import { widestOf } from './fit-text';
import { type FormKind, textSize } from './form-kind';
import { placeLabels, uprightFrame } from './upright';
import { isOn, positionsOn } from './value-axis';

const nameGap = 10;

/** Lines over an axis of places: one per series, with its name at its end. */
export const line: FormKind = {
  kind: 'line',
  get word() {
    return tell('form.line.word');
  },
  get noun() {
    return tell('form.line.noun');
  },
  mark: 'point',
  get markNoun() {
    return tell('form.line.mark');
  },
  get note() {
    return tell('form.line.note');
  },
  everyPeriod: true,
  lineStates: true,
  secondAxis: true,
  *scene(input) {
    const { readings, seriesNames, width, height, measure, miniature } = input;
    const places = readings.places.length;
    const frame = uprightFrame(input);
    const { left } = frame;
    const names =
      miniature || !readings.series.length
        ? 0
        : Math.min(Math.ceil(widestOf(seriesNames, textSize.name, measure)) + nameGap, width * 0.36);
    const right = Math.max(left + 1, width - names - frame.rightRoom - (miniature ? 0 : 6));
    const step = (right - left) / Math.max(1, places);
    const axis = frame.axis(right);
    const { lines, texts } = frame.rules(axis);
    texts.push(...placeLabels(input, frame, { places, step, right: width }));
    const x = yield* floatsInSteps(readings.length, (i) => left + (readings.place[i]! + 0.5) * step);
    const axisOf = frame.axisOf(right);
    const second = frame.second(right);
    let beyond = 0;
    const y = new Float64Array(readings.length).fill(Number.NaN);
    const spotY = y.slice();
    let since = 0;
    for (let s = 0; s + 1 < readings.starts.length; s++) {
      since += readings.starts[s + 1]! - readings.starts[s]!;
      if (since > stepLength) {
        yield;
        since = 0;
      }
      const own = axisOf(s);
      const position = positionsOn(own);
      for (let i = readings.starts[s]!; i < readings.starts[s + 1]!; i++) {
        const value = readings.value[i]!;
        if (Number.isNaN(value)) continue;
        y[i] = position(value);
        if (isOn(own, value)) spotY[i] = y[i]! - 13;
        else beyond++;
      }
    }
    return {
      width,
      height,
      band: { direction: 'x', start: left, step, count: places },
      values: axis,
      ...(second ? { second } : {}),
      marks: { shape: 'points', x, y },
      ...(miniature ? {} : { spots: { x, y: spotY, anchor: 'middle' as const } }),
      ...(names ? { namesFrom: right + frame.rightRoom + nameGap } : {}),
      texts,
      lines,
      beyond,
    };
  },
};
