import { type Compiled, FormulaError } from '@sorvik/formula/compiled';
import type { FormulaEngine } from '@sorvik/formula/engine';
import type { FormulaProblem } from '@sorvik/formula/expression';
import { everyPart } from '@sorvik/formula/parts-of';
import { tell } from '../messages/desk';
import type { RowField } from './dataset';
import { rowScope } from './row-formula';

/** What a row rule knows of whoever asks: their address, and the names of their groups. */
export const ruleNames = {
  person_email: { type: 'text' },
  person_groups: { type: 'text', list: true },
} as const;
export type RuleName = keyof typeof ruleNames;

const isRuleName = (name: string): name is RuleName => Object.hasOwn(ruleNames, name);

export type ReadRule =
  | {
      ok: true;
      compiled: Compiled;
      /** What it asks of whoever asks, each once. */
      names: RuleName[];
    }
  | { ok: false; problem: FormulaProblem };

/**
 * Reads and checks the rule by which rows of a dataset are for somebody: a formula of the fields of a row that is true or false.
 * It may name `:person_email` and `:person_groups`.
 */
export function readRowRule(text: string, fields: readonly RowField[], engine: FormulaEngine): ReadRule {
  const parsed = engine.parse(text);
  if (!parsed.ok) return parsed;
  const { expression } = parsed;
  // Answers are kept for as long as the rows stay, also over midnight.
  for (const part of everyPart(expression))
    if (part.kind === 'name' && !part.quoted && part.name.toUpperCase() === 'CURRENT_DATE')
      return { ok: false, problem: { from: part.from, to: part.to, message: tell('rowRule.noToday') } };
  const scope = {
    ...rowScope(fields),
    lever: (name: string, part?: string) =>
      isRuleName(name) && part === undefined ? ruleNames[name] : tell('rowRule.noSuchName', { name }),
    levers: () => Object.keys(ruleNames),
  };
  try {
    const compiled = engine.compile(expression, scope);
    if (compiled.type !== 'boolean')
      return {
        ok: false,
        problem: { from: expression.from, to: expression.to, message: tell('rowRule.trueOrFalse') },
      };
    const names = [...everyPart(expression)].flatMap((part) =>
      part.kind === 'lever' && isRuleName(part.name) ? [part.name] : [],
    );
    return { ok: true, compiled, names: [...new Set(names)] };
  } catch (error) {
    if (error instanceof FormulaError) return { ok: false, problem: { ...error.at, message: error.message } };
    throw error;
  }
}
