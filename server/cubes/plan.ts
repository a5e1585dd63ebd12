import { type Atom, atomAggregates, type CubeRequest } from '@sorvik/core/cube/cube';
import { type FieldInfo, fieldOf } from '@sorvik/core/dataset';
import { type FieldCut, type Grain, grains } from '@sorvik/core/grain';
import { isNumeric, isTemporal } from '@sorvik/core/values';
import { quoted } from '../db/client';
import { invalid } from '../http/problem';

type Fields = { fields: FieldInfo[] };

/** The nearest of the names, for a suggestion beside one that does not exist. */
function nearest(name: string, names: string[]): string {
  const shared = (other: string) =>
    [...new Set(name)].filter((letter) => other.includes(letter)).length -
    Math.abs(other.length - name.length);
  const best = [...names].sort((a, b) => shared(b) - shared(a))[0];
  return best ? `; did you mean "${best}"?` : '';
}

function needField(dataset: Fields, key: string, pointer: string): FieldInfo {
  const field = fieldOf(dataset as never, key);
  if (!field)
    throw invalid([
      {
        pointer,
        message: `there is no field "${key}" in this dataset${nearest(
          key,
          dataset.fields.map((f) => f.key),
        )}`,
      },
    ]);
  return field;
}

/** `date.month` -> a cut that the dataset can really make. */
export function readKey(text: string, dataset: Fields): FieldCut {
  const [key = '', grain] = text.split('.');
  const field = needField(dataset, key, '/key');
  if (grain === undefined) return { field: key };
  if (!grains.includes(grain as Grain))
    throw invalid([{ pointer: '/key', message: `"${grain}" is no grain; there are ${grains.join(', ')}` }]);
  if (!isTemporal(field.type))
    throw invalid([{ pointer: '/key', message: `"${key}" is not a date, so it has no ${grain}s` }]);
  return { field: key, grain: grain as Grain };
}

/** `sum.passengers` -> an atom that the field's type allows. */
export function readAtom(text: string, dataset: Fields): Atom {
  const [aggregate, key] = text.split('.');
  const known = atomAggregates.find((name) => name === aggregate);
  if (!known)
    throw invalid([
      { pointer: '/atom', message: `"${aggregate}" is no aggregate; there are ${atomAggregates.join(', ')}` },
    ]);
  if (known === 'first') return { aggregate: known };
  if (key === undefined) {
    if (known === 'count') return { aggregate: known };
    throw invalid([{ pointer: '/atom', message: `${known} needs a field, as in ${known}.passengers` }]);
  }
  const field = needField(dataset, key, '/atom');
  if (known !== 'count' && !isNumeric(field.type))
    throw invalid([
      {
        pointer: '/atom',
        message: `"${key}" holds ${field.type}s; ${known} needs numbers. Count it, or change its type`,
      },
    ]);
  return { aggregate: known, field: key };
}

const keySql = ({ field, grain }: FieldCut) =>
  grain ? `date_trunc('${grain}', ${quoted(field)})::date` : quoted(field);

const atomSql = ({ aggregate, field }: Atom) => {
  if (aggregate === 'first') return 'min(ctid)';
  if (aggregate === 'count') return `count(${field ? quoted(field) : '*'})::float8`;
  return `${aggregate}(${quoted(field!)})::float8`;
};

/** Rows lie in a table in the order of the file, so the place of a row on disk is its place in the data. */
const placeSql = (name: string) => `((${name}::text::point)[0] * 65536 + (${name}::text::point)[1])`;

/**
 * The query of a cube: one row per combination that occurs, at most `limit` of them. Names are quoted identifiers
 * that were found in the dataset; grains come from a fixed list; there is no text of the caller's in it.
 */
export function cubeSql(request: CubeRequest, table: string, limit: number): string {
  const keys = request.keys.map((key, i) => `${keySql(key)} AS k${i}`);
  const atoms = request.atoms.map((atom, i) => `${atomSql(atom)} AS a${i}`);
  const group = request.keys.map((_, i) => i + 1).join(', ');
  const inner = `SELECT ${[...keys, ...atoms].join(', ')} FROM ${table}${group ? ` GROUP BY ${group}` : ''} LIMIT ${limit}`;
  const outer = [
    ...request.keys.map((_, i) => `k${i}`),
    ...request.atoms.map((atom, i) =>
      atom.aggregate === 'first' ? `${placeSql(`a${i}`)} AS a${i}` : `a${i}`,
    ),
  ];
  return `SELECT ${outer.join(', ')} FROM (${inner}) AS cube`;
}
