import { FormulaError } from '@sorvik/formula/compiled';
import type { FormulaProblem, Value } from '@sorvik/formula/expression';
import { type MarkNames, markRows, markScope } from '../conditions/mark-scope';
import type { Readings } from '../data/readings';
import type { PositionLookup } from '../levers/lever-kind';
import type { Locale } from '../messages/locale';
import { numberText } from '../words/number-text';

const textOf = (value: Value, locale: Locale): string =>
  value === null ? '' : typeof value === 'number' ? numberText(value, locale) : String(value);

/** What a formula says of each mark, as text; nothing where it is null. Null where the formula cannot be read, or not yet. */
export function markTexts(
  text: string,
  readings: Readings,
  names: MarkNames,
  positionOf: PositionLookup,
  today: string,
  locale: Locale,
): ((index: number) => string) | null {
  const { engine } = names;
  const parsed = engine?.parse(text);
  if (!engine || !parsed?.ok) return null;
  try {
    const read = engine
      .compile(parsed.expression, markScope(names))
      .run(markRows(readings, names, positionOf, today));
    return (index) => textOf(read(index), locale);
  } catch (error) {
    if (error instanceof FormulaError) return null;
    throw error;
  }
}

/** What is wrong with a formula that is to say something of each mark; null when it is right or cannot be read yet. */
export function markTextProblem(text: string, names: MarkNames): FormulaProblem | null {
  const { engine } = names;
  if (!engine) return null;
  const parsed = engine.parse(text);
  if (!parsed.ok) return parsed.problem;
  try {
    engine.compile(parsed.expression, markScope(names));
    return null;
  } catch (error) {
    if (error instanceof FormulaError) return { ...error.at, message: error.message };
    throw error;
  }
}
