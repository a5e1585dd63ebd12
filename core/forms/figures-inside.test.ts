import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { allSteps } from '../data/all-steps';
import { plainReadings } from '../data/readings';
import { memberCue } from '../edit/defaults';
import { emphasise } from '../pipeline/emphasise';
import { labelsOf } from '../pipeline/labels';
import { positionsAt, quays } from '../testing/fixtures';
import { formInput } from '../testing/form-input';
import { estimateText } from './fit-text';
import { textSize } from './form-kind';
import { formKinds } from './registry';
import type { RectMarks, SceneText } from './scene';

const names = ['Quel', 'Harl', 'Ostrin'];
const readings = plainReadings(names, Float64Array.of(1000, 12, -800));
const widthOf = ({ text }: SceneText) => estimateText(text, textSize.value, true);

describe.each(['bars', 'columns'])('figures of %s', (form) => {
  const figures = (inside: boolean, of = readings) => {
    const scene = allSteps(formKinds.get(form).scene(formInput(of, { inside })));
    return {
      scene,
      marks: scene.marks as RectMarks,
      texts: scene.texts.filter(({ role }) => role === 'value'),
    };
  };
  it('stand beyond the ends, or inside where they fit', () => {
    expect(figures(false).texts.map(({ inside }) => inside)).toEqual([undefined, undefined, undefined]);
    expect(figures(true).texts.map(({ inside }) => inside)).toEqual([true, undefined, true]);
  });
  it('lie within their marks, whatever the figures', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -5000, max: 5000 }), { minLength: 3, maxLength: 3 }),
        (values) => {
          const { marks, texts } = figures(true, plainReadings(names, Float64Array.from(values)));
          for (const text of texts.filter(({ inside }) => inside)) {
            const i = text.mark!;
            const width = widthOf(text);
            const left =
              text.anchor === 'middle' ? text.x - width / 2 : text.anchor === 'end' ? text.x - width : text.x;
            expect(left).toBeGreaterThanOrEqual(marks.x[i]!);
            expect(left + width).toBeLessThanOrEqual(marks.x[i]! + marks.width[i]! + 1e-9);
            expect(text.y - 6).toBeGreaterThanOrEqual(marks.y[i]!);
            expect(text.y + 6).toBeLessThanOrEqual(marks.y[i]! + marks.height[i]!);
          }
        },
      ),
    );
  });
  it('give way to what can be taken hold of', () => {
    const { scene, texts } = figures(false);
    const context = {
      lever: () => quays,
      positionOf: positionsAt([quays], { quays: ['Quel'] }),
      today: '2024-12-31',
    };
    const emphasis = emphasise([memberCue('quays', [])], {
      engine: fullEngine,
      ...context,
      readings,
      by: { field: 'quay' },
    });
    const shown = (grips: Parameters<typeof labelsOf>[6]['grips']) =>
      labelsOf(scene, readings, emphasis, undefined, String, estimateText, { texts: [], lines: [], grips })
        .hidden;
    expect(shown([])).toBeNull();
    const [first] = texts;
    const grip = { left: first!.x - 5, right: first!.x + 5, top: first!.y - 5, bottom: first!.y + 5 };
    expect([...shown([grip])!]).toEqual([1, 0, 0]);
  });
});
