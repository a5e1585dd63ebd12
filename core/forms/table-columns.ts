import { extentOf } from './extent';
import { fitText, widestOf } from './fit-text';
import { type FormInput, manyBars, textSize } from './form-kind';
import type { Scene, SceneText, ValueAxis } from './scene';
import { emptyRects, figuresOf, slotsOf } from './slots';
import { heldOn } from './value-axis';

const rowHeight = 24;
const headHeight = 22;
const barHeight = 10;
const gap = 14;
/** A bar that is shorter tells nothing: then there are figures alone. */
const leastBar = 24;

/** The column of one measure: where it begins, where its figures end, and the axis of its bars. */
interface Column {
  start: number;
  figures: number;
  end: number;
  axis: ValueAxis;
}

/** A table of several measures: a row for each place, and a column for each measure, with bars to its own measure. */
export function tableColumns(input: FormInput): Scene {
  const { readings, labels, seriesNames, valueText, width, height, measure, miniature } = input;
  const slots = { ...slotsOf(readings), stacked: true };
  const { places, per, at } = slots;
  const step = miniature ? height / Math.max(1, places) : rowHeight;
  const top = miniature ? 0 : headHeight;
  const bottom = top + step * places;
  const many = at.length > manyBars;
  const labelRoom = miniature
    ? 0
    : Math.min(Math.ceil(widestOf(labels, textSize.value, measure)) + gap, Math.floor(width * 0.4));
  const room = (width - labelRoom) / Math.max(1, per);
  const columns = Array.from({ length: per }, (_, m): Column => {
    const start = labelRoom + m * room;
    const own = Array.from({ length: places }, (_, place) => at[place * per + m]!).filter((i) => i >= 0);
    const figures = miniature
      ? start
      : start + Math.min(Math.ceil(widestOf(figuresOf(own, input), textSize.value, measure)), room - gap);
    const [low, high] = extentOf(own.map((i) => readings.value[i]!));
    const from = figures + (miniature ? 2 : 8);
    return {
      start,
      figures,
      end: start + room,
      axis: {
        direction: 'x',
        scale: 'even',
        domain: low === high ? [0, 1] : [low, high],
        start: from,
        end: Math.max(from, start + room - (miniature ? 2 : gap)),
        crossStart: top,
        crossEnd: bottom,
      },
    };
  });
  const { hitFrom, hitTo, ...marks } = emptyRects(readings, slots);
  const texts: SceneText[] = [];
  const write = (
    text: string,
    x: number,
    y: number,
    space: number,
    rest: Pick<SceneText, 'role' | 'anchor' | 'mark'>,
  ) =>
    texts.push({
      x,
      y,
      ...(many ? { text, room: space } : { text: fitText(text, space, textSize.value, measure) }),
      ...rest,
    });
  if (!miniature)
    columns.forEach(({ start }, m) => {
      write(seriesNames[m] ?? '', start, headHeight / 2 - 2, room - gap, { role: 'axis', anchor: 'start' });
    });
  for (const [where, i] of at.entries()) {
    if (i < 0) continue;
    const place = Math.floor(where / per);
    const { axis, start, figures, end } = columns[where % per]!;
    const value = readings.value[i]!;
    const zero = heldOn(axis, 0);
    const to = Number.isNaN(value) ? zero : heldOn(axis, value);
    const middle = top + step * (place + 0.5);
    const thick = miniature ? step * 0.6 : barHeight;
    const shown = miniature || axis.end - axis.start >= leastBar;
    marks.x[i] = Math.min(zero, to);
    marks.y[i] = middle - thick / 2;
    marks.width[i] = shown ? Math.abs(to - zero) : 0;
    marks.height[i] = Number.isNaN(value) ? 0 : thick;
    // The first column has the name of its row, and what is left of it.
    hitFrom[i] = where % per ? start : 0;
    hitTo[i] = end;
    if (miniature) continue;
    if (where % per === 0)
      write(labels[place]!, 0, middle, labelRoom - gap, { role: 'category', anchor: 'start', mark: i });
    write(valueText(i), figures, middle, figures - start, { role: 'value', anchor: 'end', mark: i });
  }
  return {
    width,
    height: miniature ? height : Math.max(height, bottom),
    band: { direction: 'y', start: top, step, count: places },
    values: columns[0]?.axis ?? {
      direction: 'x',
      scale: 'even',
      domain: [0, 1],
      start: labelRoom,
      end: width,
      crossStart: top,
      crossEnd: bottom,
    },
    marks: { shape: 'rects', ...marks, hitFrom, hitTo, slots, rests: [] },
    texts,
    lines: [],
    beyond: 0,
  };
}
