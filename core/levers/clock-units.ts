import type { FieldInfo } from '../data/dataset';
import { type ClockUnit, clockUnits } from './zone-time';

/** From which number to which a unit of time runs. Weekdays begin with Monday, which is 1. */
export const unitRanges: Record<ClockUnit, readonly [number, number]> = {
  second: [0, 59],
  minute: [0, 59],
  hour: [0, 23],
  weekday: [1, 7],
  day: [1, 31],
  month: [1, 12],
};

/** From the one that changes most often to the one that changes least. */
const fineness: readonly ClockUnit[] = ['second', 'minute', 'hour', 'weekday', 'day', 'month'];

/** Of two units the one that changes more often: a clock that shows it can tell the other too. */
export const finerUnit = (a: ClockUnit, b: ClockUnit): ClockUnit =>
  fineness.indexOf(a) <= fineness.indexOf(b) ? a : b;

/** Whether a clock that changes with one unit can tell another one. */
export const tells = (shown: ClockUnit, wanted: ClockUnit): boolean => finerUnit(shown, wanted) === shown;

/**
 * The units that the whole numbers of a field can be: what its name says, unless they reach beyond that; else what they
 * fill from the first to the last, as 0 to 23 are hours.
 */
export function unitsOfNumbers({ key, name, profile }: FieldInfo): ClockUnit[] {
  const { min, max } = profile ?? {};
  const within = ([first, last]: readonly [number, number]) =>
    typeof min !== 'number' || typeof max !== 'number' || (min >= first && max <= last);
  const said = clockUnits.filter((unit) => new RegExp(unit, 'i').test(`${key} ${name}`));
  // "weekday" has a "day" in it.
  const named = said.filter(
    (unit) => !(unit === 'day' && said.includes('weekday')) && within(unitRanges[unit]),
  );
  if (named.length) return named;
  return clockUnits.filter((unit) => min === unitRanges[unit][0] && max === unitRanges[unit][1]);
}
