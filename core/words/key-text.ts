import { utcFormat } from 'd3-time-format';
import type { Grain } from '../data/dimension';
import { restCategory } from '../data/kept-categories';
import type { FieldType, KeyValue } from '../data/values';

const missing = '(missing)';
const day = utcFormat('%-d %b %Y');
const periodTexts: Record<Grain, (date: Date) => string> = {
  year: utcFormat('%Y'),
  quarter: (date) => `${date.getUTCFullYear()} Q${Math.floor(date.getUTCMonth() / 3) + 1}`,
  month: utcFormat('%b %Y'),
  week: utcFormat('%-d %b %Y'),
  day,
};

/** How the value of a field, or a period of it, reads. Years and other whole numbers used as names carry no marks. */
export function keyText(value: KeyValue, type?: FieldType, grain?: Grain): string {
  if (value === null) return missing;
  if (value === restCategory) return 'others';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  // In full: two different values never read alike.
  if (typeof value === 'number') return String(value);
  if (type !== 'date' && type !== 'datetime') return value === missing ? `"${value}"` : value;
  const date = new Date(value.length > 10 ? `${value}Z` : value);
  if (Number.isNaN(date.getTime())) return value;
  if (grain) return periodTexts[grain](date);
  return type === 'date' ? day(date) : `${day(date)} ${value.slice(11)}`;
}
