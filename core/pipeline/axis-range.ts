import type { Axis } from '../board/axis';
import { extentOf } from '../forms/extent';
import type { AxisRange } from '../forms/value-axis';

/** The lowest and the highest of the figures that an axis of this sort can show; NaN where there is none. */
function spread(values: ArrayLike<number>, log: boolean): [number, number] {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (Number.isNaN(value) || (log && value <= 0)) continue;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return [low, high];
}

/**
 * What a value axis shows: from zero to the largest of the figures, or below it as far as they go, unless the author has
 * fixed an end. `others` are figures of guides, which the axis grows for. Marks measured from zero keep it in view.
 */
export function axisRange(
  axis: Axis | undefined,
  values: ArrayLike<number>,
  others: readonly number[],
  fromZero: boolean,
): AxisRange {
  const scale = axis?.scale ?? 'even';
  const log = scale === 'log';
  const [least, most] = spread(values, log);
  const [lowest, highest] = spread(others, log);
  const some = Number.isFinite(Math.min(least, lowest));
  const withZero = extentOf([Math.min(least, lowest), Math.max(most, highest)].filter(Number.isFinite));
  const near = some ? ([Math.min(least, lowest), Math.max(most, highest)] as const) : ([0, 0] as const);
  const open = log || (axis?.from === 'data' && !fromZero);
  const fixed = (end: number | 'data' | undefined) =>
    typeof end === 'number' && !(log && end <= 0) ? end : undefined;
  const from = fixed(axis?.from);
  const to = fixed(axis?.to);
  const low = Math.min(
    from ?? (open ? near[0] : withZero[0]),
    fromZero && !log ? 0 : Number.POSITIVE_INFINITY,
  );
  const high = to ?? (open ? near[1] : withZero[1]);
  return {
    scale,
    ...(low < high || (low === high && from === undefined && to === undefined)
      ? { low, high }
      : { low, high: low + Math.max(1, Math.abs(low)) }),
    ...(from !== undefined ? { keepsLow: true } : {}),
    ...(to !== undefined ? { keepsHigh: true } : {}),
  };
}
