import type { Measure } from '../board/measure';
import type { DatasetInfo, FieldInfo } from '../data/dataset';
import { isNumeric, isTemporal } from '../data/values';

/**
 * What a field is to somebody who looks for a chart: when, what it is sorted by (a few values, or many), how much of
 * something (amounts add up, levels do not), or what only tells rows apart or says where they are.
 */
export type FieldRole = 'date' | 'few' | 'many' | 'amount' | 'level' | 'name';

/** More categories than this are not taken in at a glance. */
export const mostFew = 60;

/** The words that a key is made of: `unitPrice` and `unit_price` are `unit price`. */
const wordsOf = ({ key, name }: FieldInfo): string =>
  `${key} ${name}`
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[_\W]+/g, ' ')
    .toLowerCase();

const hasWord = (list: string) => new RegExp(`(^| )(${list})s?( |$)`);
const namesWords = hasWord(
  'id|uid|uuid|no|nr|code|key|number|zip|postcode|phone|fax|year|month|day|hour|minute|second|week|weekday|quarter|index|row|line|lat|latitude|lon|lng|long|longitude|coordinate|easting|northing|version',
);
const levelWords = hasWord(
  'price|rate|ratio|share|percent|percentage|pct|average|avg|mean|median|temperature|temp|score|grade|rating|rank|age|speed|height|weight|width|length|depth|distance|level|pressure|humidity|open|close|high|low|delay|duration|balance|capacity|yield|density|altitude|elevation|magnitude|margin|size',
);

/** Whole numbers that count up, one for each row, tell rows apart. */
const tellsApart = ({ type, profile }: FieldInfo, rows: number): boolean =>
  rows > 1 && type !== 'decimal' && profile?.distinct === rows && profile.missing === 0;

/** What a field most likely is; its author may know better. */
export function roleOf(field: FieldInfo, rows: number): FieldRole {
  const { type, profile } = field;
  const distinct = profile?.distinct ?? 0;
  if (isTemporal(type)) return 'date';
  if (!isNumeric(type)) return distinct <= mostFew ? 'few' : 'many';
  const words = wordsOf(field);
  if (namesWords.test(words) || tellsApart(field, rows)) return 'name';
  if (levelWords.test(words)) return 'level';
  // Shares, from 0 to 1, are seldom added up.
  const [min, max] = [Number(profile?.min), Number(profile?.max)];
  return type === 'decimal' && min >= 0 && max <= 1 && max > 0 ? 'level' : 'amount';
}

/** How a number is taken together: amounts are added up, levels averaged. */
export const measureOf = (field: FieldInfo, rows: number): Measure => ({
  aggregate: roleOf(field, rows) === 'level' ? 'average' : 'sum',
  field: field.key,
});

export interface FieldsByRole extends Record<FieldRole, FieldInfo[]> {
  /** What there is to measure, amounts first. */
  measures: FieldInfo[];
}

/** The fields of a dataset by what they are, in their own order; those that always say the same are none. */
export function fieldsByRole({ fields, rows }: DatasetInfo): FieldsByRole {
  const found: FieldsByRole = { date: [], few: [], many: [], amount: [], level: [], name: [], measures: [] };
  for (const field of fields) if ((field.profile?.distinct ?? 0) > 1) found[roleOf(field, rows)].push(field);
  found.measures = [...found.amount, ...found.level];
  return found;
}
