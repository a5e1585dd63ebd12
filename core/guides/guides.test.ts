import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Chart } from '../board/chart';
import type { BoardEvent } from '../board/event';
import { newCue } from '../edit/defaults';
import { estimateText } from '../forms/fit-text';
import type { SceneText } from '../forms/scene';
import { positionOn } from '../forms/value-axis';
import type { LimitsLever } from '../levers/limits';
import { english } from '../messages/locale';
import { stateCode } from '../pipeline/emphasise';
import { board, chart } from '../testing/fixtures';
import { runChart } from '../testing/run-chart';
import { numberText } from '../words/number-text';
import { band } from './band';
import { event } from './event';
import type { Plot } from './guide-kind';
import { line } from './line';

const days = Array.from({ length: 30 }, (_, i) => `2021-06-${String(i + 1).padStart(2, '0')}`);
const plot = (more: Partial<Plot> = {}): Plot => ({
  values: {
    direction: 'y',
    scale: 'even',
    domain: [0, 100],
    start: 300,
    end: 20,
    crossStart: 40,
    crossEnd: 640,
  },
  band: { direction: 'x', start: 40, step: 20, count: 30 },
  places: days,
  by: { field: 'day', grain: 'day' },
  events: [],
  measure: estimateText,
  sight: 700,
  figureText: (value) => numberText(value, english),
  andMore: (name, more) => `${name} and ${more} more`,
  ...more,
});
const box = ({ x, y, text, anchor }: SceneText) => {
  const width = estimateText(text, 12, true);
  const left = anchor === 'end' ? x - width : x;
  return { left, right: left + width, top: y - 6, bottom: y + 6 };
};
const touching = (texts: readonly SceneText[]) =>
  texts
    .map(box)
    .some((a, i, all) =>
      all.some(
        (b, j) => i < j && a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom,
      ),
    );

describe('a band', () => {
  const spec = { kind: 'band', id: 'b', colour: 'slate' } as const;
  it('reaches from one figure to the other, or to the edge', () => {
    expect(band.place({ ...spec, from: 25, to: 75 }, [25, 75], plot()).areas).toEqual([
      { x: 40, y: 90, width: 600, height: 140, colour: 'slate' },
    ]);
    expect(band.place({ ...spec, to: 50 }, [50], plot()).areas[0]).toMatchObject({ y: 160, height: 140 });
    expect(band.place({ ...spec, from: 50, name: 'busy' }, [50], plot()).texts[0]).toMatchObject({
      text: 'busy',
      y: 29,
    });
  });
  it('ends at the edge of the plot, and is not drawn beyond it or without its figures', () => {
    expect(band.place({ ...spec, from: 80, to: 400 }, [80, 400], plot()).areas[0]).toMatchObject({
      y: 20,
      height: 56,
    });
    expect(band.place({ ...spec, from: 200, to: 400 }, [200, 400], plot()).areas).toEqual([]);
    expect(band.place({ ...spec, from: 10 }, [Number.NaN], plot()).areas).toEqual([]);
    expect(band.place(spec, [], plot()).areas).toEqual([]);
    expect([undefined, 'axis', 'arrow'].map((outside) => band.grows!({ ...spec, outside } as never))).toEqual(
      [true, true, false],
    );
  });
  it('lies across lying bars too', () => {
    const lying = plot({
      values: {
        direction: 'x',
        scale: 'even',
        domain: [0, 100],
        start: 100,
        end: 500,
        crossStart: 0,
        crossEnd: 200,
      },
    });
    expect(band.place({ ...spec, from: 25, to: 75 }, [25, 75], lying).areas[0]).toMatchObject({
      x: 200,
      width: 200,
      y: 0,
      height: 200,
    });
  });
});

describe('a line beyond the axis', () => {
  const spec = { kind: 'line', id: 'l', at: 0, style: 'solid', name: 'crew', outside: 'arrow' } as const;
  it('is an arrow at the edge with its figure, and nothing to drag', () => {
    const above = line.place(spec, [150], plot());
    expect(above.lines).toEqual([]);
    expect(above.handles).toEqual([]);
    expect(above.texts).toMatchObject([{ text: '↑ crew 150', y: 28 }]);
    expect(line.place(spec, [-5], plot()).texts[0]!.text).toBe('↓ crew −5');
    expect(line.place(spec, [100], plot()).lines).toHaveLength(1);
  });
});

describe('events', () => {
  const on = (...dates: [string, string][]): BoardEvent[] =>
    dates.map(([date, name], i) => ({ id: `e${i}`, name, date }));
  const spec = { kind: 'event', id: 'e' } as const;
  it('stand where their days begin, with their names', () => {
    const { lines, texts } = event.place(
      spec,
      [],
      plot({ events: on(['2021-06-16', 'pier'], ['2021-06-06', 'storm']) }),
    );
    expect(lines.map(({ x1 }) => x1)).toEqual([140, 340]);
    expect(texts.map(({ text, x }) => [text, x])).toEqual([
      ['storm', 144],
      ['pier', 344],
    ]);
  });
  it('out of view are named at the edge', () => {
    const events = on(
      ['2020-01-01', 'old'],
      ['2020-02-01', 'older news'],
      ['2021-06-16', 'pier'],
      ['2022-01-01', 'new'],
    );
    const { lines, texts } = event.place(spec, [], plot({ events }));
    expect(lines).toHaveLength(1);
    expect(texts.map(({ text }) => text)).toEqual(['← older news and 1 more', 'new →', 'pier']);
  });
  it('tint the ground in turn', () => {
    const events = on(['2021-06-06', 'a'], ['2021-06-16', 'b']);
    expect(event.place({ ...spec, tinted: true }, [], plot({ events })).areas).toEqual([
      { x: 140, y: 20, width: 200, height: 280 },
    ]);
  });
  it('have the colours of the board for their lines, and for the ground that begins with them', () => {
    const events = on(['2021-06-06', 'storm'], ['2021-06-16', 'pier'], ['2021-06-26', 'end']).map(
      (each, i): BoardEvent => (i === 1 ? { ...each, colour: 'tide' } : each),
    );
    const { lines, areas } = event.place({ ...spec, tinted: true }, [], plot({ events }));
    expect(lines.map(({ colour }) => colour)).toEqual([undefined, 'tide', undefined]);
    expect(areas).toEqual([{ x: 340, y: 20, width: 200, height: 280, colour: 'tide' }]);
  });
  it('need an axis of rising dates', () => {
    const events = on(['2021-06-06', 'a']);
    expect(event.place(spec, [], plot({ events, places: ['Quel', 'Harl'] })).lines).toEqual([]);
    expect(event.place(spec, [], plot({ events, places: [...days].reverse() })).lines).toEqual([]);
    expect(event.unfit!({ by: { field: 'quay' } }, { field: () => ({ type: 'text' }) } as never)).toContain(
      'Events have dates',
    );
  });
  it('have names of which none touches another, however close they are', () => {
    const date = fc
      .integer({ min: -3, max: 33 })
      .map((n) => new Date(Date.UTC(2021, 5, 1 + n)).toISOString().slice(0, 10));
    const name = fc.string({ minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(fc.array(fc.tuple(date, name), { maxLength: 12 }), (list) => {
        const { texts } = event.place(spec, [], plot({ events: on(...list) }));
        const inside = texts.filter(({ text }) => !/[←→]/.test(text));
        expect(touching(inside)).toBe(false);
      }),
    );
  });
});

const shareLever: LimitsLever = {
  kind: 'limits',
  id: 'lim',
  name: 'Limits',
  as: 'share',
  min: 0,
  max: 1,
  step: 0.01,
  start: { low: 0.2, high: 0.8 },
  meeting: 'push',
  outside: 'nearest',
  clearing: 'start',
};
const high = { lever: 'lim', part: 'high' };

/** A chart with its upper limit at a share of the range, in percent. */
const limited = (on: Chart, percent: number, width: number, height: number) =>
  runChart(
    on,
    { lim: { low: 0, high: percent / 100 } },
    { board: { ...board, levers: [shareLever], charts: [on] }, width, height },
  );

it("a band's edge, a line and the first lit mark agree to the pixel, as shares of the range, at any size", () => {
  const guided: Chart = {
    ...chart,
    cues: [newCue('above', { kind: 'position', is: 'at or above', limit: high }, [])],
    guides: [
      { kind: 'band', id: 'b', from: high, colour: 'slate' },
      { kind: 'line', id: 'l', at: high, style: 'solid' },
    ],
    touches: [],
  };
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 100 }),
      fc.constantFrom('bars', 'columns', 'line'),
      fc.integer({ min: 240, max: 1600 }),
      fc.integer({ min: 160, max: 1200 }),
      (percent, form, width, height) => {
        const on = { ...guided, form };
        const { scene, guides, emphasis, readings } = limited(on, percent, width, height);
        const [area] = guides.areas;
        const [drawn] = guides.lines;
        const upright = scene.values.direction === 'y';
        const at = upright ? drawn!.y1 : drawn!.x1;
        const edge = area && (upright ? area.y + area.height : area.x);
        if (edge !== undefined) expect(edge).toBeCloseTo(at, 9);
        readings.value.forEach((value, i) => {
          if (Number.isNaN(value)) return;
          const end = positionOn(scene.values, value);
          if (scene.marks.shape === 'points') expect(scene.marks.y[i]).toBeCloseTo(end, 9);
          const beyond = upright ? end <= at + 1e-9 : end >= at - 1e-9;
          expect(emphasis.state[i] === 2).toBe(beyond);
        });
      },
    ),
    { numRuns: 60 },
  );
});

it('the same holds on a second axis, for the measure that is on it', () => {
  const rows = { aggregate: 'count' } as const;
  const guided: Chart = {
    ...chart,
    also: [{ measure: rows, axis: 'second' }],
    cues: [newCue('above', { kind: 'position', is: 'at or above', limit: high, measure: rows }, [])],
    guides: [
      { kind: 'band', id: 'b', from: high, colour: 'slate', axis: 'second' },
      { kind: 'line', id: 'l', at: high, style: 'solid', axis: 'second' },
    ],
    touches: [],
  };
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 100 }),
      fc.constantFrom('columns', 'line', 'dots'),
      fc.integer({ min: 240, max: 1600 }),
      fc.integer({ min: 160, max: 1200 }),
      (percent, form, width, height) => {
        const on = { ...guided, form };
        const { scene, guides, emphasis, readings } = limited(on, percent, width, height);
        const at = guides.lines[0]!.y1;
        if (guides.areas[0]) expect(guides.areas[0].y + guides.areas[0].height).toBeCloseTo(at, 9);
        const n = readings.judged!.length;
        for (let i = 0; i < n; i++) {
          // Both marks of a reading are lit alike; the one on the second axis lies on that side of the line.
          expect(emphasis.state[i]).toBe(emphasis.state[n + i]);
          const value = readings.value[n + i]!;
          const y = positionOn(scene.second!, value);
          if (emphasis.state[n + i] === stateCode.lit) expect(y).toBeLessThanOrEqual(at + 1e-9);
          else expect(y).toBeGreaterThan(at - 1e-9);
          const top = scene.marks.y[n + i]!;
          if (form !== 'columns' || value > 0) expect(top).toBeCloseTo(y, 9);
        }
      },
    ),
    { numRuns: 60 },
  );
});
