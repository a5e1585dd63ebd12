import type { ScaleName } from '../board/axis';
import { fitText, widestOf } from './fit-text';
import { type FormInput, textSize } from './form-kind';
import type { SceneLine, SceneText, ValueAxis } from './scene';
import { domainOf, isOn, positionOn, ticksOf } from './value-axis';

const labelGap = 14;
const maxLabel = 110;
/** Of more labels than this, some are measured to tell how far apart they have to be. */
const measuredLabels = 400;

/** A plot over a value axis at its left: its edges, px, and what is drawn around the marks. */
export interface UprightFrame {
  left: number;
  top: number;
  bottom: number;
  /** Room for the figures of a second axis at the right, px. */
  rightRoom: number;
  /** The axis, given where the plot ends at its right; that of a series, where some have another. */
  axis(right: number): ValueAxis;
  second(right: number): ValueAxis | undefined;
  axisOf(right: number): (series: number) => ValueAxis;
  /** Grid and figures of the axis. */
  rules(axis: ValueAxis): { lines: SceneLine[]; texts: SceneText[] };
}

/** The frame of a form whose values stand upright. */
export function uprightFrame({
  height,
  range,
  headRows,
  measure,
  miniature,
  tickTexts: textsOf,
  along,
  second,
}: FormInput): UprightFrame {
  const tickCount = Math.max(2, Math.min(6, Math.floor(height / 60)));
  const domain = domainOf(range, miniature ? 0 : tickCount);
  const { scale } = range;
  const ticks = miniature ? [] : ticksOf({ scale, domain }, tickCount);
  const tickTexts = textsOf(ticks);
  const widest = Math.max(0, ...tickTexts.map((text) => measure(text, textSize.tick)));
  const left = miniature ? 0 : Math.ceil(widest) + 10;
  const otherDomain = second && domainOf(second.range, miniature ? 0 : tickCount);
  const otherTicks =
    second && otherDomain && !miniature
      ? ticksOf({ scale: second.range.scale, domain: otherDomain }, tickCount)
      : [];
  const otherTexts = second ? second.tickTexts(otherTicks) : [];
  const rightRoom =
    second && !miniature
      ? Math.ceil(Math.max(0, ...otherTexts.map((text) => measure(text, textSize.tick)))) + 10
      : 0;
  const top = miniature ? 0 : 22 + Math.max(0, headRows - 1) * 14 + (second ? 16 : 0);
  const bottom = Math.max(top + 1, height - (miniature ? 0 : along ? 40 : 26));
  const upright = (ends: readonly [number, number], of: ScaleName, right: number): ValueAxis => ({
    direction: 'y',
    scale: of,
    domain: ends,
    start: bottom,
    end: top,
    crossStart: left,
    crossEnd: right,
  });
  const axis = (right: number) => upright(domain, scale, right);
  const other = (right: number) => otherDomain && upright(otherDomain, second!.range.scale, right);
  return {
    left,
    top,
    bottom,
    rightRoom,
    axis,
    second: other,
    axisOf(right) {
      const [first, last] = [axis(right), other(right)];
      return (series) => (last && second!.on[series] ? last : first);
    },
    rules(axis) {
      const half = (text: string) =>
        fitText(text, (axis.crossEnd + rightRoom) / 2 - 6, textSize.tick, measure);
      const secondTexts = ({ crossEnd }: ValueAxis): SceneText[] =>
        second && !miniature
          ? [
              ...otherTicks.map((tick, i) => ({
                x: crossEnd + 6,
                y: positionOn(other(crossEnd)!, tick),
                text: otherTexts[i]!,
                anchor: 'start' as const,
                role: 'tick' as const,
              })),
              { x: 0, y: 8, text: half(second.first), anchor: 'start', role: 'axis' },
              { x: crossEnd + rightRoom, y: 8, text: half(second.name), anchor: 'end', role: 'axis' },
            ]
          : [];
      const across = (value: number, role: SceneLine['role']): SceneLine => {
        const y = positionOn(axis, value);
        return { x1: left, x2: axis.crossEnd, y1: y, y2: y, role };
      };
      return {
        lines: [
          ...ticks.map((tick) => across(tick, tick === 0 ? 'zero' : 'grid')),
          ...(miniature && scale === 'even' && isOn({ domain }, 0) ? [across(0, 'zero')] : []),
        ],
        texts: [
          ...ticks.map((tick, i) => ({
            x: left - 6,
            y: positionOn(axis, tick),
            text: tickTexts[i]!,
            anchor: 'end' as const,
            role: 'tick' as const,
          })),
          ...secondTexts(axis),
        ],
      };
    },
  };
}

/** The name of a place below a plot, cut to its room and kept inside of the plot: its text, and where its middle is. */
export function nameOfPlace(
  label: string,
  middle: number,
  right: number,
  measure: FormInput['measure'],
): { text: string; x: number } {
  const text = fitText(label, maxLabel, textSize.category, measure);
  const half = measure(text, textSize.category, true) / 2;
  return { text, x: Math.max(half, Math.min(middle, right - half)) };
}

/** Names below the places of a plot, thinned so that none touches another. */
export function placeLabels(
  { labels, labelSteps, measure, miniature }: FormInput,
  frame: UprightFrame,
  { places, step, right }: { places: number; step: number; right: number },
): (SceneText & { place: number })[] {
  if (miniature || !places) return [];
  const stride = Math.ceil(places / measuredLabels);
  const fitted = (place: number) => fitText(labels[place]!, maxLabel, textSize.category, measure);
  const sample: string[] = [];
  for (let place = 0; place < places; place += stride) sample.push(fitted(place));
  const least = Math.max(1, Math.ceil((widestOf(sample, textSize.category, measure) + labelGap) / step));
  const every = labelSteps.find((distance) => distance >= least) ?? least;
  const texts: (SceneText & { place: number })[] = [];
  for (let place = 0; place < places; place += every) {
    const name = nameOfPlace(labels[place]!, frame.left + step * (place + 0.5), right, measure);
    if (name.text) texts.push({ ...name, y: frame.bottom + 15, anchor: 'middle', role: 'category', place });
  }
  return texts;
}
