import type { LeverContext } from '../levers/lever-kind';
import type { FormulaProblem } from './expression';
import { formulaKit } from './kit';
import type { LeverNames } from './lever-gift';

/** A formula's figure over the marks in view; NaN where it is null, or cannot be read. */
export function formulaFigure(text: string, value: Float64Array, context: LeverContext): number {
  const read = formulaKit()?.figure(text, { lever: context.lever, typeOf: () => 'text' });
  return read?.ok ? read.run(value, context, context.today) : Number.NaN;
}

/** What is wrong with a formula that is to be one figure; null when it is right or cannot be read yet. */
export function figureProblem(text: string, names: LeverNames): FormulaProblem | null {
  const read = formulaKit()?.figure(text, names);
  return read && !read.ok ? read.problem : null;
}
