import type { FormulaEngine } from '@sorvik/formula/engine';
import { everyPart } from '@sorvik/formula/parts-of';

const plain = /^[a-z_][a-z0-9_]*$/i;

/**
 * A formula with other names where it names fields. `change` gives the new name, or undefined for one that stays. A
 * formula that cannot be read stays as it is.
 */
export function withFieldNames(
  text: string,
  change: (name: string) => string | undefined,
  engine: FormulaEngine,
): string {
  const parsed = engine.parse(text);
  if (!parsed.ok) return text;
  const places = [...everyPart(parsed.expression)]
    .flatMap((part) => {
      const next =
        part.kind === 'name'
          ? (change(part.name) ?? (part.quoted ? undefined : change(part.name.toLowerCase())))
          : undefined;
      return next === undefined ? [] : [{ from: part.from, to: part.to, next }];
    })
    .sort((a, b) => b.from - a.from);
  let written = text;
  for (const { from, to, next } of places) {
    // A name that is a word of the language, or has other letters, stands in quotes.
    const alone = plain.test(next) ? engine.parse(next) : null;
    const isName = alone?.ok && alone.expression.kind === 'name';
    const name = isName ? next : `"${next.replaceAll('"', '""')}"`;
    written = written.slice(0, from) + name + written.slice(to);
  }
  return written;
}
