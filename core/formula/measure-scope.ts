import { type Board, leverOf } from '../board/board';
import type { Atom } from '../cube/cube';
import type { DatasetInfo } from '../dataset';
import { isNumeric } from '../values';
import type { Compiled, Rows, Scope } from './compiled';
import { FormulaError } from './compiled';
import type { Expression, FormulaProblem } from './expression';
import { formulaKit } from './kit';
import { type LeverNames, leverScope } from './lever-gift';
import { nearestName } from './nearest-name';
import { everyPart } from './parts-of';
import { valueTypeOf } from './value-type';

/** What a measure formula is put together from: the aggregates that add up over the cells of a cube. */
const addable: Record<string, (field: string | undefined) => Atom[]> = {
  COUNT: (field) => [{ aggregate: 'count', field }],
  SUM: (field) => [{ aggregate: 'sum', field }],
  MIN: (field) => [{ aggregate: 'min', field }],
  MAX: (field) => [{ aggregate: 'max', field }],
  AVG: (field) => [
    { aggregate: 'sum', field },
    { aggregate: 'count', field },
  ],
};

/** The atoms of a measure formula, each once; none where it cannot be read. */
export function formulaAtoms(text: string): Atom[] {
  const parsed = formulaKit()?.parse(text);
  if (!parsed?.ok) return [];
  const atoms = new Map<string, Atom>();
  for (const part of everyPart(parsed.expression)) {
    if (part.kind !== 'call') continue;
    const [arg] = part.args;
    const field = arg?.kind === 'name' ? arg.name : undefined;
    if (part.star || field)
      for (const atom of addable[part.name]?.(field) ?? []) atoms.set(refOf(atom), atom);
  }
  return [...atoms.values()];
}

const refOf = ({ aggregate, field = '' }: Atom) => `${aggregate} ${field}`;
const averageOf = 'average ';

/** The names that mean something in a measure formula: fields, inside of aggregates, and levers. */
function measureScope(names: LeverNames, fields: readonly string[]): Scope {
  return {
    column: () => undefined,
    names: () => [...fields],
    whyNot: (name) =>
      fields.includes(name)
        ? `"${name}" has many values here, one for each row: take them together, SUM(${name}).`
        : undefined,
    ...leverScope(names),
    aggregate(name, field) {
      if (!addable[name])
        return `${name} cannot be put together from parts: COUNT, SUM, AVG, MIN and MAX can.`;
      if (!field && name !== 'COUNT') return `${name} takes a field: ${name}(${fields[0] ?? 'revenue'}).`;
      const [atom] = addable[name](field);
      return { ref: name === 'AVG' ? averageOf + field : refOf(atom!), type: 'number' };
    },
    windows: false,
  };
}

export type ReadMeasure =
  | { ok: true; compiled: Compiled; atoms: Atom[] }
  | { ok: false; problem: FormulaProblem };

/** Reads and checks a measure formula; null while nothing is there to read it with. `fields` are those that it can name. */
export function readMeasure(text: string, names: LeverNames, fields: readonly string[]): ReadMeasure | null {
  const kit = formulaKit();
  if (!kit) return null;
  const parsed = kit.parse(text);
  if (!parsed.ok) return parsed;
  const { expression } = parsed;
  const bad = (message: string, { from, to }: Expression | FormulaProblem): ReadMeasure => ({
    ok: false,
    problem: { from, to, message },
  });
  try {
    const compiled = kit.compile(expression, measureScope(names, fields));
    if (compiled.type !== 'number' && compiled.type !== 'null')
      return bad('A measure is a number: this is something else.', expression);
    const atoms = formulaAtoms(text);
    if (!atoms.length) return bad('It takes nothing from the rows: SUM(field) or COUNT(*).', expression);
    return { ok: true, compiled, atoms };
  } catch (error) {
    if (error instanceof FormulaError) return bad(error.message, { ...error.at, message: '' });
    throw error;
  }
}

/** What is wrong with a measure formula on a board, in words; null when it is right or cannot be read yet. */
export function measureProblem(text: string, board: Board, dataset: DatasetInfo): FormulaProblem | null {
  const names: LeverNames = {
    lever: (id) => leverOf(board, id),
    levers: board.levers,
    typeOf: (cut) => valueTypeOf(cut, dataset),
  };
  const numeric = dataset.fields.filter(({ type }) => isNumeric(type)).map(({ key }) => key);
  const read = readMeasure(text, names, numeric);
  if (!read) return null;
  if (!read.ok) return read.problem;
  const { expression } = formulaKit()!.parse(text) as { expression: Expression };
  for (const part of everyPart(expression)) {
    if (part.kind !== 'call' || !addable[part.name]) continue;
    const [field] = part.args;
    if (field?.kind !== 'name') continue;
    const known = dataset.fields.find(({ key }) => key === field.name);
    const wanted = part.name === 'COUNT' ? dataset.fields.map(({ key }) => key) : numeric;
    if (wanted.includes(field.name)) continue;
    const near = nearestName(field.name, wanted);
    const message = known
      ? `${part.name} takes a field of numbers, and ${known.name} is none.`
      : `There is no field "${field.name}" here.${near ? ` Is ${near} meant?` : ''}`;
    return { from: field.from, to: field.to, message };
  }
  return null;
}

/** What formulas of measures take besides figures: what levers are and hold, and the day. */
export interface MeasureFormulas extends LeverNames {
  read: Rows['lever'];
  today: string;
}

const missing = new Float64Array(0);

/** The figures of a measure formula: one per group, from the groups' atoms in the order of `formulaAtoms`. NaN is null. */
export function formulaFigures(
  text: string,
  atoms: readonly Float64Array[],
  length: number,
  formulas: MeasureFormulas | undefined,
): Float64Array {
  const figures = new Float64Array(length).fill(Number.NaN);
  const known = formulaAtoms(text);
  const read =
    formulas &&
    readMeasure(
      text,
      formulas,
      known.flatMap(({ field }) => field ?? []),
    );
  if (!read?.ok) return figures;
  const at = new Map(known.map((atom, a) => [refOf(atom), atoms[a] ?? missing]));
  const value = (ref: string) => {
    const list = at.get(ref) ?? missing;
    return (i: number) => (Number.isNaN(list[i]!) ? null : list[i]!);
  };
  const figure = read.compiled.run({
    length,
    column(ref) {
      if (!ref.startsWith(averageOf)) return value(ref);
      const field = ref.slice(averageOf.length);
      const [sum, count] = [
        value(refOf({ aggregate: 'sum', field })),
        value(refOf({ aggregate: 'count', field })),
      ];
      return (i) => {
        const [total, n] = [sum(i), count(i)];
        return total === null || !n ? null : total / n;
      };
    },
    lever: formulas!.read,
    today: formulas!.today,
  });
  for (let i = 0; i < length; i++) figures[i] = (figure(i) as number | null) ?? Number.NaN;
  return figures;
}
