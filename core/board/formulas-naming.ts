import { leversIn } from '@sorvik/formula/lever-names';
import type { Board } from './board';
import { formulaKeys } from './text-formulas';

/** The formulas that stand in a part of a board. */
export function* formulasIn(part: unknown): Generator<string> {
  if (typeof part !== 'object' || part === null) return;
  for (const [key, value] of Object.entries(part))
    if (typeof value !== 'string') yield* formulasIn(value);
    else if (formulaKeys.includes(key)) yield value;
}

/** The formulas of a board that name a lever, each once. */
export const formulasNaming = ({ charts }: Board, lever: string): string[] => [
  ...new Set([...formulasIn(charts)].filter((text) => leversIn(text).includes(lever))),
];
