import { type Compiled, FormulaError } from '@sorvik/formula/compiled';
import type { FormulaProblem, ValueType } from '@sorvik/formula/expression';
import { leversIn, withLevers } from '@sorvik/formula/lever-names';
import { everyPart } from '@sorvik/formula/parts-of';
import { IsIn, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import type { Dimension } from '../data/dimension';
import type { KeyValue } from '../data/values';
import type { LeverNames } from '../levers/formula-levers';
import { kindOf } from '../levers/registry';
import { tell } from '../messages/desk';
import { say } from '../messages/say';
import {
  type Claim,
  type ConditionContext,
  type ConditionKind,
  type MarkKeys,
  verdicts,
  type WorkingsColumn,
} from './condition-kind';
import { type MarkNames, markRows, markScope } from './mark-scope';

/** Met by readings of which a formula is true: a standard SQL expression over the readings of the chart. */
export class FormulaCondition {
  @IsIn(['formula'])
  kind!: 'formula';

  @IsString()
  @IsNotEmpty()
  @MaxLength(10_000)
  text!: string;
}

/** A formula that can be computed, or what is wrong with it. */
export type ReadFormula = { ok: true; compiled: Compiled } | { ok: false; problem: FormulaProblem };

/** Reads and checks a formula that is to be true or false; null while nothing is there to read it with. */
export function readFormula(text: string, names: MarkNames): ReadFormula | null {
  const { engine } = names;
  if (!engine) return null;
  const parsed = engine.parse(text);
  if (!parsed.ok) return parsed;
  try {
    const compiled = engine.compile(parsed.expression, markScope(names));
    if (compiled.type === 'boolean' || compiled.type === 'null') return { ok: true, compiled };
    const { from, to } = parsed.expression;
    return {
      ok: false,
      problem: { from, to, message: tell('formula.noCondition') },
    };
  } catch (error) {
    if (error instanceof FormulaError) return { ok: false, problem: { ...error.at, message: error.message } };
    throw error;
  }
}

const typeOfValue = (value: KeyValue | undefined): ValueType =>
  typeof value === 'number' ? 'number' : typeof value === 'boolean' ? 'boolean' : 'text';

/** The names of a chart's readings; of what type they are is seen from the values. */
function namesOf({
  by,
  split,
  measure,
  against,
  also,
  readings,
  lever,
  engine,
}: ConditionContext): MarkNames {
  const known = (list: readonly KeyValue[]) => typeOfValue(list.find((value) => value !== null));
  const typeOf = (dimension: Dimension): ValueType =>
    dimension.grain ? 'date' : known(split?.field === dimension.field ? readings.series : readings.places);
  return { by, split, measure, against, also, lever, typeOf, engine };
}

/** What is wrong with a formula on a chart, in words; null when it is right or cannot be read yet. */
export function formulaProblem(
  text: string,
  { by, split, measure, against, also }: MarkKeys,
  rest: LeverNames,
): FormulaProblem | null {
  const read = readFormula(text, { by, split, measure, against, also, ...rest });
  return read && !read.ok ? read.problem : null;
}

interface FormulaClaim extends Claim {
  text: string;
  readable: boolean;
}

export const formula: ConditionKind<FormulaCondition, FormulaClaim> = {
  kind: 'formula',
  Spec: FormulaCondition,
  levers: ({ text }) => leversIn(text),
  readsFormulas: () => true,
  usual: {
    text: () => tell('formula.usual'),
    offer: { use: () => tell('formula.use') },
    make: () => ({ kind: 'formula', text: 'RANK() OVER (ORDER BY value DESC) <= 3' }),
  },
  evaluate({ text }, context) {
    const { readings, positionOf } = context;
    const verdict = new Uint8Array(readings.length);
    const names = namesOf(context);
    const read = readFormula(text, names);
    if (!read?.ok) return { active: false, verdict };
    const value = read.compiled.run(markRows(readings, names, positionOf, context.today));
    for (let i = 0; i < verdict.length; i++) {
      const found = value(i);
      verdict[i] = found === true ? verdicts.yes : found === false ? verdicts.no : verdicts.unknown;
    }
    return { active: true, verdict };
  },
  workings({ text }, context) {
    const names = namesOf(context);
    const { engine } = context;
    const parsed = engine?.parse(text);
    if (!engine || !parsed?.ok || !readFormula(text, names)?.ok) return [];
    const rows = markRows(context.readings, names, context.positionOf, context.today);
    // What looks at other readings is what nobody can check by eye: each such part, as it is written.
    const looking = [...everyPart(parsed.expression)].filter((part) => part.kind === 'call' && part.over);
    const columns = new Map(
      looking.map((part): [string, WorkingsColumn] => {
        const name = text.slice(part.from, part.to);
        const { type, run } = engine.compile(part, markScope(names));
        const value = run(rows);
        const values = Array.from({ length: rows.length }, (_, i) => value(i));
        const figures = () => Float64Array.from(values, (each) => (each as number | null) ?? Number.NaN);
        return [name, { name, values: type === 'number' ? figures() : values }];
      }),
    );
    return [...columns.values()];
  },
  restText: (locale) => say(locale, 'rest.formula'),
  filters: () => null,
  rowFilter: () => null,
  unfit({ text }, keys, lever, words) {
    const typeOf = (dimension: Dimension): ValueType => {
      const type = words.field(dimension.field)?.type;
      if (dimension.grain) return 'date';
      return type === 'integer' || type === 'decimal' ? 'number' : (type ?? 'text');
    };
    return (
      formulaProblem(text, keys, { engine: words.engine, lever, levers: words.levers, typeOf })?.message ??
      null
    );
  },
  legend: ({ text }) => [text.length > 40 ? `${text.slice(0, 39)}…` : text],
  parts: ({ text }) => ['where ', { slot: 'formula', path: ['text'], text, value: text }],
  claim({ text }, context, index) {
    const names = namesOf(context);
    const read = readFormula(text, names);
    if (!read?.ok) return { says: 'formula', verdict: verdicts.no, text, readable: false };
    const rows = markRows(context.readings, names, context.positionOf, context.today);
    const found = read.compiled.run(rows)(index);
    const verdict = found === true ? verdicts.yes : found === false ? verdicts.no : verdicts.unknown;
    return { says: 'formula', verdict, text, readable: true };
  },
  claimText: ({ text, verdict, readable }, { locale }) =>
    readable
      ? say(locale, 'claim.formula', { text, verdict: ['no', 'unknown', 'yes'][verdict]! })
      : say(locale, 'claim.unreadable'),
  without(spec, lever, context) {
    const source = context.lever(lever);
    const figures = source && kindOf(source).figures;
    const position = context.positionOf(lever);
    // Only a figure can be written in its place.
    if (!figures || figures.parts.length > 1 || position === undefined) return null;
    return {
      ...spec,
      text: withLevers(spec.text, (id) =>
        id === lever ? String(figures.read(position, figures.parts[0]!)) : undefined,
      ),
    };
  },
};
