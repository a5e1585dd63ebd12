import { describe, expect, it } from 'vitest';
import { allSteps } from '../data/all-steps';
import { formKinds } from '../forms/registry';
import { formInput } from '../testing/form-input';
import { seriesReadings } from '../testing/readings';
import { leadsOn } from './line-states';
import { filledReadings } from './missing';
import { linePoints, piecePoints } from './piece-points';
import { shapeKinds } from './shapes/registry';

const gaps = seriesReadings({ a: [10, undefined, 30, null, 50], b: [undefined, 5, undefined, undefined, 8] });

describe('missing readings', () => {
  it('are gaps of themselves', () => {
    expect(filledReadings(gaps, undefined)).toBe(gaps);
    const scene = allSteps(formKinds.get('line').scene(formInput(gaps)));
    expect(linePoints(scene, gaps, 0)).toHaveLength(3);
  });
  it("are zeros by the author's word, at every place of every series", () => {
    const filled = filledReadings(gaps, 'zero');
    expect([...filled.value]).toEqual([10, 0, 30, 0, 50, 0, 5, 0, 0, 8]);
    expect([...filled.place]).toEqual([0, 1, 2, 3, 4, 0, 1, 2, 3, 4]);
    expect([...filled.starts]).toEqual([0, 5, 10]);
    const scene = allSteps(formKinds.get('line').scene(formInput(filled)));
    expect(linePoints(scene, filled, 0)).toHaveLength(1);
  });
  it('are bridged by a straight line between their neighbours', () => {
    const filled = filledReadings(gaps, 'bridged');
    expect([...filled.value]).toEqual([10, 30, 50, 5, 8]);
    expect(leadsOn(filled, 0, 1)).toBe(true);
    const scene = allSteps(formKinds.get('line').scene(formInput(filled)));
    const [line, ...others] = linePoints(scene, filled, 0);
    expect(others).toEqual([]);
    expect(line).toHaveLength(6);
    // A piece that ends where nothing was read ends on the line itself.
    const piece = piecePoints(scene, filled, { from: 0.5, to: 1.5, look: 0, reading: 0 });
    const [x0, y0, x2, y2] = line!;
    expect(piece[2]).toBeCloseTo((x0! + x2!) / 2, 9);
    expect(piece[3]).toBeCloseTo((y0! + y2!) / 2, 9);
    // The pointer finds the line between two readings far apart.
    const found = shapeKinds.get('points').markAt(scene, filled, (x0! + x2!) / 2, (y0! + y2!) / 2 + 3);
    expect([0, 1]).toContain(found);
  });
  it('of nothing leave nothing', () => {
    const none = seriesReadings({}, []);
    for (const rule of ['zero', 'bridged'] as const) expect(filledReadings(none, rule).length).toBe(0);
  });
});
