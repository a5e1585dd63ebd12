import { type PartialAggregate, partialAggregates, partialFromKey } from '@sorvik/core/data/cube';
import { type FieldInfo, fieldOf } from '@sorvik/core/data/dataset';
import { type Dimension, type Grain, grains } from '@sorvik/core/data/dimension';
import type { Kept } from '@sorvik/core/data/kept';
import { isNumeric, isTemporal, type KeyValue } from '@sorvik/core/data/values';
import { invalid } from '../http/problem';
import { askedCall, compiledRow } from '../sources/row-expressions';
import { tell } from '../tell';

type Fields = { fields: FieldInfo[] };

/** The nearest of the names, for a suggestion beside one that does not exist; empty where there are none. */
function nearest(name: string, names: string[]): string {
  const shared = (other: string) =>
    [...new Set(name)].filter((letter) => other.includes(letter)).length -
    Math.abs(other.length - name.length);
  const best = [...names].sort((a, b) => shared(b) - shared(a))[0];
  return best ?? '';
}

function needField(dataset: Fields, key: string, pointer: string): FieldInfo {
  const field = fieldOf(dataset as never, key);
  if (!field) {
    const meant = nearest(
      key,
      dataset.fields.map((each) => each.key),
    );
    throw invalid([
      {
        pointer,
        message: tell('question.noField', { key, known: meant ? 'yes' : 'no', meant }),
      },
    ]);
  }
  return field;
}

/** `date.month` -> a dimension that the dataset can really make. */
export function readKey(text: string, dataset: Fields): Dimension {
  const [key = '', grain] = text.split('.');
  const field = needField(dataset, key, '/key');
  if (grain === undefined) return { field: key };
  if (!grains.includes(grain as Grain))
    throw invalid([
      { pointer: '/key', message: tell('question.isNoDateUnit', { grain, units: grains.join(', ') }) },
    ]);
  if (!isTemporal(field.type))
    throw invalid([{ pointer: '/key', message: tell('question.isNotADate', { key, grain }) }]);
  return { field: key, grain: grain as Grain };
}

const isList = (value: unknown): value is unknown[] => Array.isArray(value) && value.length <= mostKept;
const isHeld = (value: unknown): value is KeyValue =>
  typeof value === 'string' || typeof value === 'boolean' || Number.isFinite(value);
const mostKept = 10_000;

/** `{"field":"route","values":["Quel"]}` -> which rows are kept. */
export function readKept(text: string, dataset: Fields): Kept {
  const wrong = (message: string) => invalid([{ pointer: '/keep', message }]);
  let given: Record<string, unknown>;
  try {
    given = JSON.parse(text) ?? {};
  } catch {
    throw wrong(tell('question.itIsNoJson'));
  }
  const { field, grain, values, ranges } = given;
  if (typeof field !== 'string' || (grain !== undefined && typeof grain !== 'string'))
    throw wrong(tell('question.fieldAndGrainName'));
  const dimension = readKey(grain === undefined ? field : `${field}.${grain}`, dataset);
  if (isList(values) && values.every(isHeld) && ranges === undefined) return { ...dimension, values };
  const { type } = fieldOf(dataset as never, dimension.field)!;
  if (isList(ranges) && values === undefined && (isNumeric(type) || isTemporal(type))) {
    const pairs = ranges.filter(
      (range): range is [KeyValue, KeyValue] => isList(range) && range.length === 2 && range.every(isHeld),
    );
    if (pairs.length === ranges.length) return { ...dimension, ranges: pairs };
  }
  throw wrong(tell('question.valuesAreAList'));
}

/** `sum.passengers` -> a partial aggregate that the types of its fields allow. */
export function readPartial(text: string, dataset: Fields): PartialAggregate {
  const partial = partialFromKey(text);
  const wrong = (message: string) => invalid([{ pointer: '/aggregate', message }]);
  if (!partial)
    throw wrong(
      tell('question.isNoAggregateThere', { text: text.slice(0, 80), known: partialAggregates.join(', ') }),
    );
  const { aggregate, field: key, of, where } = partial;
  if (aggregate === 'first') return { aggregate };
  if (aggregate === 'nonAdditive') {
    if (of === undefined || key !== undefined || where !== undefined)
      throw wrong(tell('question.whatIsAskedAs'));
    askedCall(of, dataset.fields);
    return partial;
  }
  if (key !== undefined && of !== undefined) throw wrong(tell('question.itTakesAField'));
  if (where !== undefined) compiledRow(where, dataset.fields, 'boolean');
  if (of !== undefined) {
    compiledRow(of, dataset.fields, aggregate === 'count' ? undefined : 'number');
    return partial;
  }
  if (key === undefined) {
    if (aggregate === 'count') return partial;
    throw wrong(tell('question.needsAFieldAs', { aggregate }));
  }
  const field = needField(dataset, key, '/aggregate');
  if (aggregate !== 'count' && !isNumeric(field.type))
    throw wrong(tell('question.holdsSNeedsNumbers', { key, type: field.type, aggregate }));
  return partial;
}
