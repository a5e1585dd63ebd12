import { fieldOf, lastDayOf } from '../data/dataset';
import type { Grain } from '../data/dimension';
import { addDays, periodAt, periodEnd, periodOrdinal, periodStart } from '../data/periods';
import { isTemporal } from '../data/values';
import type { Interval, LeverFacts } from './lever-kind';

export const spanPresets = [
  'last 7 days',
  'last 30 days',
  'last 90 days',
  'last 12 months',
  'latest month',
  'latest quarter',
  'latest year',
  'year before',
  'everything',
] as const;
/** A stretch with a name, counted back from the last day in the data. */
export type SpanPreset = (typeof spanPresets)[number];

const wholePeriod = (day: string, grain: Grain, back = 0): Interval => {
  const start = periodAt(periodOrdinal(day, grain) - back, grain);
  return { from: start, to: periodEnd(start, grain) };
};

const dated: Record<SpanPreset, (first: string, last: string) => Interval> = {
  'last 7 days': (_first, last) => ({ from: addDays(last, -6), to: last }),
  'last 30 days': (_first, last) => ({ from: addDays(last, -29), to: last }),
  'last 90 days': (_first, last) => ({ from: addDays(last, -89), to: last }),
  'last 12 months': (_first, last) => ({
    from: periodAt(periodOrdinal(last, 'month') - 11, 'month'),
    to: periodEnd(last, 'month'),
  }),
  'latest month': (_first, last) => wholePeriod(last, 'month'),
  'latest quarter': (_first, last) => wholePeriod(last, 'quarter'),
  'latest year': (_first, last) => wholePeriod(last, 'year'),
  'year before': (_first, last) => wholePeriod(last, 'year', 1),
  everything: (first, last) => ({ from: first, to: last }),
};

/** The stretch a preset names in this data, cut to it; null where it has none. */
export function presetInterval(
  preset: SpanPreset,
  spec: { field: string; grain?: Grain | undefined },
  facts: LeverFacts | undefined,
): Interval | null {
  const field = facts && fieldOf(facts.dataset, spec.field);
  const { min, max } = field?.profile ?? {};
  if (!field || min === null || min === undefined || max === null || max === undefined) return null;
  if (!isTemporal(field.type)) return preset === 'everything' ? { from: min, to: max } : null;
  const first = String(min).slice(0, 10);
  const last = lastDayOf(field.profile!)!;
  const grain = spec.grain ?? 'day';
  const { from, to } = dated[preset](first, last);
  const low = periodStart(String(from) < first ? first : String(from), grain);
  const high = periodEnd(String(to) > last ? last : String(to), grain);
  return high < first ? null : { from: low, to: high };
}
