import type { FormulaProblem } from '@sorvik/formula/expression';
import { type LeverNames, leverReader, leverScope } from '../levers/formula-levers';
import type { LeverContext } from '../levers/lever-kind';

/** A formula's figure over the marks in view; NaN where it is null, or cannot be read. */
export function formulaFigure(text: string, value: Float64Array, context: LeverContext): number {
  const names: LeverNames = { engine: context.engine, lever: context.lever, typeOf: () => 'text' };
  const read = names.engine?.figure(text, leverScope(names));
  if (!read?.ok) return Number.NaN;
  return read.run(value, { lever: leverReader(names, context.positionOf), today: context.today });
}

/** What is wrong with a formula that is to be one figure; null when it is right or cannot be read yet. */
export function figureProblem(text: string, names: LeverNames): FormulaProblem | null {
  const read = names.engine?.figure(text, leverScope(names));
  return read && !read.ok ? read.problem : null;
}
