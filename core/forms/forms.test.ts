import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { allSteps } from '../data/all-steps';
import { labelSteps } from '../data/dimension';
import { plainReadings } from '../data/readings';
import { line } from '../guides/line';
import { shapeKinds } from '../pipeline/shapes/registry';
import { formInput } from '../testing/form-input';
import { estimateText, fitText } from './fit-text';
import { type FormInput, manyBars } from './form-kind';
import { formKinds } from './registry';
import type { RectMarks, Scene } from './scene';
import { positionOn } from './value-axis';

const input = (values: number[], more?: Partial<FormInput>): FormInput =>
  formInput(
    plainReadings(
      values.map((_, i) => `quay ${i}`),
      Float64Array.from(values),
    ),
    more,
  );
const rects = (form: string) => (values: number[], more?: Partial<FormInput>) =>
  allSteps(formKinds.get(form).scene(input(values, more))) as Scene & { marks: RectMarks };
const bars = rects('bars');
const columns = rects('columns');
const markAt = (scene: Scene, of: FormInput, x: number, y: number) =>
  shapeKinds.get(scene.marks.shape).markAt(scene, of.readings, x, y);

describe('bars', () => {
  it('are as long as their values say, from one foot', () => {
    const { marks, values: axis } = bars([100, 50, 0, 25]);
    const full = marks.width[0]!;
    expect([...marks.width]).toEqual([full, full / 2, 0, full / 4]);
    expect(new Set(marks.x).size).toBe(1);
    expect(full).toBeCloseTo(positionOn(axis, 100) - positionOn(axis, 0), 9);
  });
  it('run to both sides of zero', () => {
    const { marks, values: axis } = bars([40, -60]);
    const zero = positionOn(axis, 0);
    expect(marks.x[0]).toBeCloseTo(zero, 9);
    expect(marks.x[1]! + marks.width[1]!).toBeCloseTo(zero, 9);
    expect(marks.width[1]! / marks.width[0]!).toBeCloseTo(1.5, 9);
  });
  it('show a missing value as a label without a bar', () => {
    const { marks, texts } = bars([10, Number.NaN]);
    expect(marks.height[1]).toBe(0);
    expect(texts.filter((text) => text.mark === 1)).toHaveLength(2);
  });
  it('scroll when there are many, and share the room of two thousand when there are more', () => {
    expect(bars(Array(80).fill(1)).height).toBe(80 * 24);
    const many = bars(Array(10_000).fill(1));
    expect(many.band.count).toBe(10_000);
    expect(many.height).toBe(manyBars * 24);
    // Names do not lie over one another.
    const names = many.texts.filter(({ role }) => role === 'category');
    expect(Math.min(...names.slice(1).map(({ y }, i) => y - names[i]!.y))).toBeGreaterThanOrEqual(15);
    expect([...many.marks.x].every(Number.isFinite)).toBe(true);
  });
  it('all fit into a small picture', () => {
    const { marks, height, texts } = bars(Array(300).fill(1), { miniature: true, width: 120, height: 90 });
    expect(height).toBe(90);
    expect(marks.y[299]! + marks.height[299]!).toBeLessThanOrEqual(90);
    expect(texts).toEqual([]);
  });
});

describe('columns', () => {
  it('stand on zero, to a nice axis', () => {
    const { marks, values: axis, lines, texts } = columns([93, 46.5]);
    expect(axis.domain).toEqual([0, 100]);
    expect(marks.height[0]! / marks.height[1]!).toBeCloseTo(2, 9);
    expect(marks.y[0]! + marks.height[0]!).toBeCloseTo(axis.start, 9);
    expect(texts.filter((text) => text.role === 'tick').map((text) => text.text)).toEqual([
      '0',
      '20',
      '40',
      '60',
      '80',
      '100',
    ]);
    expect(lines.filter((rule) => rule.role === 'zero')).toHaveLength(1);
  });
  it('thin labels of periods to the same place in each year', () => {
    const { texts } = columns(Array(72).fill(5), {
      labels: Array.from({ length: 72 }, (_, i) => `month ${i}`),
      labelSteps: labelSteps('month'),
    });
    const marks = texts.filter((text) => text.role === 'category').map((text) => text.mark!);
    expect(marks).toEqual([0, 12, 24, 36, 48, 60]);
  });
  it('have an axis that reaches a guide', () => {
    expect(
      columns([10], { range: { low: 0, high: 250, scale: 'even' } }).values.domain[1],
    ).toBeGreaterThanOrEqual(250);
  });
});

it('empty, single, zero and equal readings all give a sound scene', () => {
  for (const form of formKinds.all())
    for (const values of [[], [5], [0], [0, 0], [7, 7, 7], [-3], [Number.NaN]]) {
      const scene = allSteps(form.scene(input(values)));
      const numbers = [
        ...Object.values(scene.marks).flatMap((list) =>
          list instanceof Float64Array && list !== (scene.marks as { base?: unknown }).base ? [...list] : [],
        ),
        ...scene.texts.flatMap(({ x, y }) => [x, y]),
      ];
      // A point without a value is nowhere.
      const nowhere = values.filter(Number.isNaN).length;
      // Where there is no slice, its middle and both of its angles are nowhere.
      const noSlice = values.filter((value) => !(value > 0)).length * 4;
      const allowed = { points: nowhere, dots: nowhere, slices: noSlice, rects: 0 }[scene.marks.shape];
      expect(numbers.filter((n) => !Number.isFinite(n)).length, `${form.kind} of ${values}`).toBe(allowed);
    }
});

/** The box a text covers, px. */
function box({ x, y, text, anchor }: Scene['texts'][number]) {
  const width = estimateText(text, 13, true);
  const left = anchor === 'start' ? x : anchor === 'end' ? x - width : x - width / 2;
  return { left, right: left + width, top: y - 7, bottom: y + 7 };
}

describe('any readings', () => {
  const figures = fc.array(fc.oneof(fc.integer({ min: -1000, max: 1_000_000 }), fc.constant(Number.NaN)), {
    minLength: 1,
    maxLength: 150,
  });
  it.each(formKinds.names())('no two labels of one role overlap: %s', (kind) => {
    fc.assert(
      fc.property(
        figures,
        fc.integer({ min: 240, max: 1600 }),
        fc.integer({ min: 160, max: 900 }),
        (values, width, height) => {
          const { texts } = allSteps(formKinds.get(kind).scene(input(values, { width, height })));
          for (const role of ['category', 'value']) {
            const boxes = texts.filter((text) => text.role === role && text.text).map(box);
            for (let i = 1; i < boxes.length; i++) {
              const [a, b] = [boxes[i - 1]!, boxes[i]!];
              const apart =
                a.right <= b.left + 0.01 ||
                b.right <= a.left + 0.01 ||
                a.bottom <= b.top + 0.01 ||
                b.bottom <= a.top + 0.01;
              expect(apart).toBe(true);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });
  it.each(formKinds.names())('every mark is found under its own middle: %s', (kind) => {
    fc.assert(
      fc.property(figures, (values) => {
        const given = input(values);
        const scene = allSteps(formKinds.get(kind).scene(given));
        const { marks } = scene;
        for (let i = 0; i < marks.x.length; i++) {
          const [width, height] =
            marks.shape === 'rects' ? [marks.width[i]!, marks.height[i]!] : [2, marks.y[i]! * 0 + 2];
          const middle =
            marks.shape === 'rects'
              ? ([marks.x[i]! + width / 2, marks.y[i]! + height / 2] as const)
              : ([marks.x[i]!, marks.y[i]!] as const);
          if (width > 1 && height > 1) expect(markAt(scene, given, ...middle)).toBe(i);
        }
      }),
    );
  });
});

it('empty ground is past the end of a bar; the nearest mark is still known', () => {
  const given = input([100, 10]);
  const scene = bars([100, 10]);
  const y = scene.band.step * 1.5;
  const nearest = (x: number, at: number) => shapeKinds.get('rects').nearest(scene, given.readings, x, at);
  expect(markAt(scene, given, 590, y)).toBe(-1);
  expect(nearest(590, y)).toBe(1);
  expect(nearest(0, 99_999)).toBe(1);
  expect(markAt(scene, given, 10, 399)).toBe(-1);
});

it('a guide stands where its figure is', () => {
  for (const { scene: draw } of formKinds.all().filter(({ round }) => !round)) {
    const scene = allSteps(draw(input([100, 40], { headRows: 1 })));
    const { values: axis, band } = scene;
    const { lines, texts } = line.place(
      { kind: 'line', id: 'g', at: 70, style: 'dashed', name: 'crew' },
      [70],
      {
        values: axis,
        band,
        places: [],
        by: { field: 'q' },
        events: [],
        measure: estimateText,
        sight: 800,
        figureText: String,
        andMore: (name, more) => `${name} and ${more} more`,
      },
    );
    const at = positionOn(axis, 70);
    expect(axis.direction === 'x' ? [lines[0]!.x1, lines[0]!.x2] : [lines[0]!.y1, lines[0]!.y2]).toEqual([
      at,
      at,
    ]);
    expect(texts[0]!.text).toBe('crew 70');
  }
});

it('texts are cut to fit', () => {
  expect(fitText('Quel', 100, 13, estimateText)).toBe('Quel');
  const cut = fitText('Quel – Ostrin by the northern passage', 90, 13, estimateText);
  expect(cut.endsWith('…')).toBe(true);
  expect(estimateText(cut, 13)).toBeLessThanOrEqual(90);
  expect(fitText('Quel', 1, 13, estimateText)).toBe('');
});
