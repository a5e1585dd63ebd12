import { IntlMessageFormat } from 'intl-messageformat';
import type english from './messages/en.json';

export type FormulaMessage = keyof typeof english;
type Slots = Readonly<Record<string, string | number>>;

/** Messages in the ICU message format, or parsed from it. */
let messages: Partial<Record<FormulaMessage, string>> = {};
const formats = new Map<FormulaMessage, IntlMessageFormat>();

/**
 * Takes in what is told of mistakes. Whoever shows it to authors does so (`english.ts`); a show computes with formulas
 * that were right when they were written, and carries none of it.
 */
export function learnMessages(known: Record<FormulaMessage, string>): void {
  messages = known;
  formats.clear();
}

/** What is wrong, in words; the id itself, while nothing is learned. */
export function tell(id: FormulaMessage, slots?: Slots): string {
  const text = messages[id];
  if (text === undefined) return id;
  const format = formats.get(id) ?? new IntlMessageFormat(text, 'en-001', undefined, { ignoreTag: true });
  formats.set(id, format);
  return String(format.format(slots));
}

/** What may have been meant instead of what is written, for messages that end in it. */
export const meantInstead = (near: string | undefined) => ({ meant: near ? 'yes' : 'no', near: near ?? '' });
