import { figureFormulas } from '../board/figure';
import type { LeverLookup } from '../levers/lever-kind';
import type { Vocabulary } from '../words/vocabulary';
import { figureProblem } from './figure-formula';

/** What is wrong with the formulas of the figures in a part of a chart, in words; null where nothing is. */
export function figuresProblem(
  part: unknown,
  lever: LeverLookup,
  { levers, engine }: Vocabulary,
): string | null {
  for (const text of figureFormulas(part)) {
    const problem = figureProblem(text, { engine, lever, levers, typeOf: () => 'text' });
    if (problem) return problem.message;
  }
  return null;
}
