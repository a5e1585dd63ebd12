import fc from 'fast-check';
import { expect, it } from 'vitest';
import { allSteps } from '../data/all-steps';
import { plainReadings } from '../data/readings';
import { columns } from '../forms/columns';
import { overlap, textEdges } from '../forms/edges';
import { estimateText } from '../forms/fit-text';
import { textSize } from '../forms/form-kind';
import { formInput } from '../testing/form-input';
import { categoryNames } from './category-names';
import { type Emphasis, stateCode } from './emphasise';

const labelsOf = (count: number) => Array.from({ length: count }, (_, i) => `place ${i}`);

function named(count: number, width: number, lit: readonly number[]) {
  const labels = labelsOf(count);
  const readings = plainReadings(
    labels,
    Float64Array.from(labels, (_, i) => i + 1),
  );
  const scene = allSteps(
    columns.scene(formInput(readings, { labels, width, height: 300, measure: estimateText })),
  );
  const state = new Uint8Array(count).fill(lit.length ? stateCode.muted : stateCode.plain);
  for (const i of lit) state[i] = stateCode.lit;
  const emphasis = { state, litCount: lit.length } as Emphasis;
  return { scene, names: categoryNames(scene, readings, emphasis, labels, estimateText) };
}
const texts = (names: ReturnType<typeof named>['names'], state: string) =>
  names?.filter((name) => name.state === state).map(({ text }) => text);

it('names what is lit first, and leaves out regular names that would lie over it', () => {
  const { scene, names } = named(60, 600, [31]);
  const regular = scene.texts.filter(({ role }) => role === 'category').map(({ text }) => text);
  expect(regular).not.toContain('place 31');
  expect(texts(names, 'lit')).toEqual(['place 31']);
  const muted = texts(names, 'muted')!;
  expect(muted.length).toBeGreaterThan(regular.length - 3);
  expect(regular).toEqual(expect.arrayContaining(muted));
});

it('leaves the axis as it is while nothing is lit, while all lit ones are named, and while many are lit', () => {
  expect(named(60, 600, []).names).toBeNull();
  expect(named(60, 600, [0]).names).toBeNull();
  expect(named(5, 600, [2]).names).toBeNull();
  expect(
    named(
      60,
      600,
      labelsOf(40).map((_, i) => i),
    ).names,
  ).toBeNull();
});

it('of neighbours names the ends first', () => {
  expect(texts(named(60, 600, [30, 31, 32]).names, 'lit')).toContain('place 30');
  expect(texts(named(24, 900, [10, 11, 12]).names, 'lit')).toEqual(
    expect.arrayContaining(['place 10', 'place 12']),
  );
});

it('never lays one name over another, and names at least one of what is lit', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 2, max: 200 }),
      fc.integer({ min: 120, max: 1400 }),
      fc.array(fc.nat(199), { minLength: 1, maxLength: 14 }),
      (count, width, chosen) => {
        const lit = [...new Set(chosen.map((at) => at % count))];
        const { scene, names } = named(count, width, lit);
        if (!names) return;
        const boxes = names.map((name) => textEdges(name, textSize.category, 14, estimateText));
        boxes.forEach((a, i) => {
          for (const b of boxes.slice(i + 1)) expect(overlap(a, b)).toBe(false);
          expect(a.left).toBeGreaterThanOrEqual(-0.01);
          expect(a.right).toBeLessThanOrEqual(Math.max(width, scene.width) + 0.01);
        });
        expect(texts(names, 'lit')!.length).toBeGreaterThan(0);
      },
    ),
  );
});
