import type { Arrangement } from '../board/split';
import type { Ends, Readings } from '../data/readings';

/** The sum of the sizes of all readings at each place. */
function sizesOf({ value, place, places }: Readings): Float64Array {
  const sizes = new Float64Array(places.length);
  for (let i = 0; i < value.length; i++)
    if (!Number.isNaN(value[i]!)) sizes[place[i]!]! += Math.abs(value[i]!);
  return sizes;
}

/**
 * The ends of readings on the value axis. Beside each other they begin at zero. Stacked, each series stands on the ones
 * before it, those below zero downwards; as shares, each place is one whole, of which a negative reading is a part below
 * zero.
 */
export function endsOf(readings: Readings, arrangement: Arrangement): Ends {
  const { value, place, places, length } = readings;
  const from = new Float64Array(length);
  if (arrangement === 'beside') return { from, to: value };
  const to = new Float64Array(length);
  const sizes = arrangement === 'shares' ? sizesOf(readings) : null;
  const up = new Float64Array(places.length);
  const down = new Float64Array(places.length);
  for (let i = 0; i < length; i++) {
    const at = place[i]!;
    const part = sizes ? value[i]! / (sizes[at]! || Number.NaN) : value[i]!;
    if (Number.isNaN(part)) {
      from[i] = to[i] = Number.NaN;
      continue;
    }
    const side = part < 0 ? down : up;
    from[i] = side[at]!;
    side[at]! += part;
    to[i] = side[at]!;
  }
  return { from, to };
}
