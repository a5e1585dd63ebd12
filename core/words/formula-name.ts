import { tell } from '../messages/desk';
import { englishPlural } from '../messages/locale';
import type { Vocabulary } from './vocabulary';

/** One of several: "passenger" of "passengers". */
const singular = (text: string): string =>
  text
    .replace(/ies$/, 'y')
    .replace(/(x|ch|sh|ss)es$/, '$1')
    .replace(/([^s])s$/, '$1');

/** Formulas that many people write, and what these are called; `$n` stands for the name of the field in bracket n. */
const known: readonly [RegExp, (field: (n: number) => string, text: (n: number) => string) => string][] = [
  [
    /^SUM\((\w+)\) ?\/ ?SUM\((\w+)\)$/i,
    (field) => tell('formulaName.per', { what: field(1), each: singular(field(2)) }),
  ],
  [/^SUM\((\w+)\) ?\/ ?COUNT\(\*\)$/i, (field) => tell('formulaName.perRow', { what: field(1) })],
  [
    /^COUNT\(DISTINCT (\w+)\)$/i,
    (field) => tell('formulaName.different', { what: englishPlural(singular(field(1))) }),
  ],
  [
    /^PERCENTILE_CONT\((0?\.\d+)\) WITHIN GROUP \(ORDER BY (\w+)\)$/i,
    (field, text) => {
      const percent = Math.round(Number(text(1)) * 1000) / 10;
      return tell('formulaName.percentile', { percent, what: field(2) });
    },
  ],
  [
    /^SUM\((\w+)\) ?\* ?\(1 ?[+-] ?:\w+ ?\/ ?100\)$/i,
    (field) => tell('formulaName.changed', { what: field(1) }),
  ],
];

/** What a formula would be called by whoever speaks of it, where it is one of those that many write; else null. */
export function nameOfFormula(text: string, words: Vocabulary): string | null {
  const written = text.trim().replace(/\s+/g, ' ');
  for (const [pattern, name] of known) {
    const found = pattern.exec(written);
    if (found)
      return name(
        (n) => words.fieldName(found[n]!),
        (n) => found[n]!,
      );
  }
  return null;
}
