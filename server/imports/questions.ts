import type { ImportQuestion } from '@sorvik/core/board/api-types';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { exactNumberText } from '@sorvik/core/words/number-text';
import { tell } from '../tell';
import { asRead, type ColumnPlan } from './column-plan';
import { type DateOrder, dateReader, dateTimeReader } from './date-format';
import { decimalReader } from './number-format';

const dayOrders: DateOrder[] = ['dmy', 'mdy'];

/** What has to be asked about a column; null where its cells leave no doubt. */
function questionOf(plan: ColumnPlan): ImportQuestion | null {
  const { name: column, type, examples, ambiguousDate, ambiguousNumbers } = plan;
  if (ambiguousDate) {
    const reader = type === 'datetime' ? dateTimeReader : dateReader;
    const read = (order: DateOrder) => (cell: string) =>
      keyText(
        (reader(order)(cell) ?? cell).replace(' ', 'T'),
        english,
        type,
        type === 'date' ? 'day' : undefined,
      );
    return {
      column,
      asks: 'dates',
      examples,
      options: dayOrders.map((order) => ({ answer: order, reads: examples.map(read(order)) })),
    };
  }
  if (ambiguousNumbers.length > 1)
    return {
      column,
      asks: 'numbers',
      examples,
      options: ambiguousNumbers.map((format) => ({
        answer: format.decimal,
        reads: examples.map((cell) => exactNumberText(Number(decimalReader(format)(cell)), english)),
      })),
    };
  return null;
}

/** What has to be asked before a file can be loaded. */
export const questionsOf = (plans: readonly ColumnPlan[]): ImportQuestion[] =>
  plans.map(questionOf).filter((question) => question !== null);

/** What is missing among the answers, or is none, with the remedy. */
export function wrongAnswers(
  questions: readonly ImportQuestion[],
  answers: Readonly<Record<string, string>>,
): { pointer: string; message: string }[] {
  return questions.flatMap(({ column, options, within }) => {
    if (within && answers[within.column] !== within.answer) return [];
    const can = options
      .map(({ answer, reads }) => `"${answer}"${reads.length ? ` (${reads.join(', ')})` : ''}`)
      .join(' or ');
    const given = answers[column];
    if (options.some(({ answer }) => answer === given)) return [];
    const pointer = `/answers/${column}`;
    return [
      {
        pointer,
        message:
          given === undefined ? tell('questions.say', { can }) : tell('questions.isNoneSay', { given, can }),
      },
    ];
  });
}

/** The plan of a column that was asked about, by what was answered. */
export function answered(plan: ColumnPlan, answer: string | undefined): ColumnPlan {
  if (plan.ambiguousDate) return { ...plan, date: answer as DateOrder, ambiguousDate: false };
  const format = plan.ambiguousNumbers.find(({ decimal }) => decimal === answer);
  return format ? asRead(plan, format) : plan;
}
