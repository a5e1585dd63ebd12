import type { Locale } from '../messages/locale';
import { say } from '../messages/say';

/** "1 route", "14 routes". */
export const counted = (n: number, noun: string, locale: Locale): string =>
  `${locale.count(n)} ${n === 1 ? noun : locale.plural(noun)}`;

/** "a", "a and b", "a, b and c"; beyond `limit`, "a, b and 4 more"; `total` counts those not listed. */
export function listed(
  items: readonly string[],
  locale: Locale,
  limit = items.length,
  total = items.length,
): string {
  const shown = items.slice(0, limit);
  const rest = total - shown.length;
  return locale.list(rest > 0 ? [...shown, say(locale, 'more', { n: rest })] : shown);
}

/** "1st", "2nd", "3rd", "11th". */
export const ordinal = (n: number, locale: Locale): string => say(locale, 'ordinal', { n });
