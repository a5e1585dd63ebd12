import { type Along, type FormInput, textSize } from './form-kind';
import type { SceneLine, SceneText, ValueAxis } from './scene';
import type { UprightFrame } from './upright';
import { domainOf, positionOn, ticksOf } from './value-axis';

const tickEvery = 90;

/** An axis for a second measure below a plot: itself, its rules and figures, and the names of both axes. */
export function axisAlong(
  along: Along,
  { width, miniature, measure }: FormInput,
  frame: UprightFrame,
  right: number,
): { axis: ValueAxis; lines: SceneLine[]; texts: SceneText[] } {
  const { left, top, bottom } = frame;
  const count = Math.max(2, Math.floor((right - left) / tickEvery));
  const axis: ValueAxis = {
    direction: 'x',
    scale: along.range.scale,
    domain: domainOf(along.range, miniature ? 0 : count),
    start: left,
    end: right,
    crossStart: top,
    crossEnd: bottom,
  };
  if (miniature) return { axis, lines: [], texts: [] };
  const ticks = ticksOf(axis, count);
  const lines = ticks.map((tick): SceneLine => {
    const x = positionOn(axis, tick);
    return { x1: x, x2: x, y1: top, y2: bottom, role: tick === 0 ? 'zero' : 'grid' };
  });
  const tickTexts = along.tickTexts(ticks);
  const texts = ticks.map((tick, i): SceneText => {
    const text = tickTexts[i]!;
    const half = measure(text, textSize.tick) / 2;
    const x = Math.min(positionOn(axis, tick), width - half);
    return { x, y: bottom + 13, text, anchor: 'middle', role: 'tick' };
  });
  texts.push(
    { x: 0, y: 8, text: along.across, anchor: 'start', role: 'axis' },
    { x: right, y: bottom + 30, text: along.name, anchor: 'end', role: 'axis' },
  );
  return { axis, lines, texts };
}
