import type { FieldShape } from '@sorvik/core/board/api-types';
import { isNumeric, isTemporal } from '@sorvik/core/data/values';
import { firstGrain } from '@sorvik/core/edit/defaults';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { numberText } from '@sorvik/core/words/number-text';
import { cutText } from '../http/well-formed';
import type { Source } from '../sources/source';
import { tell } from '../tell';
import type { Field } from './store';

const binCount = 20;
const topCount = 8;

async function ranges(source: Source, field: Field, signal: AbortSignal): Promise<FieldShape> {
  const { min, max } = field.profile!;
  const low = Number(min);
  const high = Number(max);
  if (min === null || low === high)
    return {
      kind: 'ranges',
      bins: min === null ? [] : [{ label: numberText(low, english), count: field.profile!.count }],
      others: 0,
    };
  const whole = field.type === 'integer';
  // Bins of whole numbers hold as many of them each: else some would seem rarer than others.
  const width = whole ? Math.ceil((high - low + 1) / binCount) : (high - low) / binCount;
  const bins = whole ? Math.ceil((high - low + 1) / width) : binCount;
  const counts = await source.bins(field, { low, width, count: bins }, signal);
  const label = (i: number) => {
    const from = low + i * width;
    if (!whole)
      return tell('shape.to', { from: numberText(from, english), to: numberText(from + width, english) });
    return width === 1
      ? numberText(from, english)
      : tell('shape.to', {
          from: numberText(from, english),
          to: numberText(Math.min(high, from + width - 1), english),
        });
  };
  return {
    kind: 'ranges',
    bins: Array.from({ length: bins }, (_, i) => ({ label: label(i), count: counts[i]! })),
    others: 0,
  };
}

/** More periods than this are not drawn. */
const mostPeriods = 400;

async function periods(source: Source, field: Field, signal: AbortSignal): Promise<FieldShape> {
  const grain = firstGrain(field);
  const batch = await source.aggregate(
    {
      keys: [{ field: field.key, grain }],
      partials: [{ aggregate: 'count' }],
      kept: [],
      limit: field.profile!.distinct + 1,
    },
    signal,
  );
  const [keys, counts] = [batch.getChildAt(0)!, batch.getChildAt(1)!];
  const found = Array.from({ length: batch.numRows }, (_, i) => ({
    period: keys.get(i) as string | null,
    count: counts.get(i) as number,
  })).filter((each): each is { period: string; count: number } => each.period !== null);
  return {
    kind: 'ranges',
    bins: found
      .sort((a, b) => (a.period < b.period ? -1 : 1))
      .slice(0, mostPeriods)
      .map(({ period, count }) => ({ label: keyText(period, english, 'date', grain), count })),
    others: 0,
  };
}

async function values(source: Source, field: Field, signal: AbortSignal): Promise<FieldShape> {
  const found = await source.commonest(field, topCount, signal);
  const bins = found.map(({ value, count }) => ({
    label: cutText(keyText(value, english, field.type), 200),
    count,
  }));
  const counted = bins.reduce((total, bin) => total + bin.count, 0);
  return { kind: 'values', bins, others: field.profile!.count - counted };
}

/** The spread of a field that has its profile. */
export function fieldShape(source: Source, field: Field, signal: AbortSignal): Promise<FieldShape> {
  if (isTemporal(field.type)) return periods(source, field, signal);
  return isNumeric(field.type) && field.profile!.distinct > topCount
    ? ranges(source, field, signal)
    : values(source, field, signal);
}
