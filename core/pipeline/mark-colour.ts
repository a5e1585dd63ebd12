import { isNamedColour, isValueColour, type Look, type LookColour } from '../board/look';
import { measuredBy } from '../conditions/measured';
import type { Readings } from '../data/readings';
import { colourOfValue, farthestFrom } from './value-colour';

/** A colour of the theme's by its name, or one of its own in CSS; neither where a look sets none. */
export interface MarkColour {
  named?: LookColour;
  css?: string;
}

const farthest = new WeakMap<Float64Array, Map<number, number>>();

function farthestKnown(values: Float64Array, centre: number): number {
  const known = farthest.get(values) ?? new Map<number, number>();
  farthest.set(values, known);
  const before = known.get(centre);
  if (before !== undefined) return before;
  const found = farthestFrom(centre, values);
  known.set(centre, found);
  return found;
}

/** The colour of a mark with a look; one that follows a measure goes by the mark's own figure. */
export function markColour(look: Look | undefined, readings: Readings, index: number): MarkColour {
  const colour = look?.colour;
  if (!colour) return {};
  if (!isValueColour(colour)) return isNamedColour(colour) ? { named: colour } : { css: colour };
  const { value } = measuredBy(colour.measure, readings);
  const css = colourOfValue(colour, value[index] ?? Number.NaN, farthestKnown(value, colour.centre ?? 0));
  return css ? { css } : {};
}
