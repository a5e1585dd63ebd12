import { tell } from '../messages/desk';
import { fitText, widestOf } from './fit-text';
import { type FormKind, manyBars, textSize } from './form-kind';
import type { SceneText, ValueAxis } from './scene';
import { sharedRoom } from './shared-room';
import { beyondOf, emptyRects, figuresOf, slotsOf } from './slots';
import { tableColumns } from './table-columns';
import { domainOf, heldOn } from './value-axis';

const rowHeight = 24;
const barHeight = 10;
const gap = 14;
/** A row is of no use without room to read its figure beside its bar. */
const leastBar = 40;

/** Readings as rows: what they stand for, their figure, and a small bar; of several measures, a column each. */
export const table: FormKind = {
  kind: 'table',
  get word() {
    return tell('form.table.word');
  },
  get noun() {
    return tell('form.table.noun');
  },
  mark: 'row',
  get markNoun() {
    return tell('form.table.mark');
  },
  get note() {
    return tell('form.table.note');
  },
  fromZero: true,
  listsReadings: true,
  *scene(input) {
    if (input.readings.judged) return tableColumns(input);
    const { readings, labels, seriesNames, valueText, width, height, range, measure, miniature } = input;
    const slots = slotsOf(readings);
    // Every reading is a row of its own, place after place.
    const rows = slots.at.filter((i) => i >= 0);
    const step = miniature ? height / Math.max(1, rows.length) : rowHeight;
    const top = miniature ? 0 : input.headRows ? 20 : 2;
    const [low, high] = domainOf(range);
    const many = rows.length > manyBars;
    const wanted = (texts: readonly string[]) =>
      miniature || !texts.length ? 0 : Math.ceil(widestOf(texts, textSize.value, measure)) + gap;
    const figureRoom = Math.min(wanted(figuresOf(rows, input)), Math.floor(width * 0.35));
    // Names are read, bars are glanced at: names are cut only where bars would be of no use.
    const [labelRoom = 0, seriesRoom = 0] = sharedRoom(
      [wanted(labels), wanted(seriesNames)],
      width - figureRoom - Math.max(leastBar, width * 0.2),
    );
    const left = labelRoom + seriesRoom + figureRoom;
    const right = Math.max(left + leastBar, width - 4);
    const axis: ValueAxis = {
      direction: 'x',
      scale: range.scale,
      domain: [low, high],
      start: left,
      end: right,
      crossStart: top,
      crossEnd: top + step * rows.length,
    };
    const zero = heldOn(axis, 0);
    const { hitFrom, hitTo, ...marks } = emptyRects(readings, slots);
    hitFrom.fill(0);
    hitTo.fill(width);
    const texts: SceneText[] = [];
    rows.forEach((i, row) => {
      const value = readings.value[i]!;
      const missing = Number.isNaN(value);
      const end = missing ? zero : heldOn(axis, value);
      const middle = top + step * (row + 0.5);
      const thick = miniature ? step * 0.6 : barHeight;
      marks.x[i] = Math.min(zero, end);
      marks.y[i] = middle - thick / 2;
      marks.width[i] = Math.abs(end - zero);
      marks.height[i] = missing ? 0 : thick;
      if (miniature) return;
      const add = (
        text: string,
        x: number,
        space: number,
        role: SceneText['role'],
        anchor: SceneText['anchor'],
      ) =>
        texts.push({
          x,
          y: middle,
          ...(many ? { text, room: space } : { text: fitText(text, space, textSize.value, measure) }),
          anchor,
          role,
          mark: i,
        });
      add(labels[readings.place[i]!]!, 0, labelRoom - gap, 'category', 'start');
      if (seriesRoom)
        add(seriesNames[readings.seriesOf[i]!] ?? '', labelRoom, seriesRoom - gap, 'name', 'start');
      add(valueText(i), left - gap, figureRoom, 'value', 'end');
    });
    return {
      width,
      height: miniature ? height : Math.max(height, top + step * rows.length),
      band: { direction: 'y', start: top, step, count: rows.length },
      values: axis,
      marks: {
        shape: 'rects',
        ...marks,
        hitFrom,
        hitTo,
        slots: { ...slots, places: rows.length, per: 1, at: Int32Array.from(rows) },
        rests: [],
      },
      texts,
      lines: low < 0 ? [{ x1: zero, x2: zero, y1: top, y2: top + step * rows.length, role: 'zero' }] : [],
      beyond: beyondOf(input.ends, axis),
    };
  },
};
