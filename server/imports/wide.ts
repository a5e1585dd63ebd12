import type { ImportQuestion } from '@sorvik/core/board/api-types';
import { tell } from '../tell';
import { readCsv } from './csv-rows';
import { CsvWriter } from './formats/csv-writer';
import type { Inspection } from './inspect';
import { readable, textOf } from './text-file';

/** Columns that are named by periods: more than so many are no chance. */
const fewest = 3;
/** Languages in which the names of months are known. */
const languages = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'sv', 'da', 'nb'];

const plain = (text: string) => text.toLowerCase().replace(/\./g, '').normalize('NFC').trim();

/** The names of months, long and short, with the number of each. */
const months = new Map<string, number>(
  languages.flatMap((language) =>
    (['long', 'short'] as const).flatMap((month) => {
      const format = new Intl.DateTimeFormat(language, { month, timeZone: 'UTC' });
      return Array.from({ length: 12 }, (_, i): [string, number] => [
        plain(format.format(new Date(Date.UTC(2024, i, 15)))),
        i + 1,
      ]);
    }),
  ),
);

const two = (n: number) => String(n).padStart(2, '0');
const year = '((?:19|20|21)\\d{2})';

/** The first day of the period that a column is named by: a year, a quarter, a month or a day; null where it is none. */
export function periodOf(name: string): string | null {
  const text = plain(name);
  const first = (y: string, month: number, day = 1) => {
    const iso = `${y}-${two(month)}-${two(day)}`;
    return month >= 1 && month <= 12 && new Date(`${iso}T00:00:00Z`).getUTCDate() === day ? iso : null;
  };
  let found = new RegExp(`^${year}$`).exec(text);
  if (found) return first(found[1]!, 1);
  found = new RegExp(`^${year}[-/ ](\\d{1,2})(?:-(\\d{1,2}))?$`).exec(text);
  if (found) return first(found[1]!, Number(found[2]), Number(found[3] ?? 1));
  found = new RegExp(`^(\\d{1,2})[-/ ]${year}$`).exec(text);
  if (found) return first(found[2]!, Number(found[1]));
  found = new RegExp(`^(?:q([1-4])[-/ ]?${year}|${year}[-/ ]?q([1-4]))$`).exec(text);
  if (found) return first((found[2] ?? found[3])!, 3 * Number(found[1] ?? found[4]) - 2);
  found = new RegExp(`^(\\p{L}+)[-/ ]?${year}$`, 'u').exec(text);
  if (found && months.has(found[1]!)) return first(found[2]!, months.get(found[1]!)!);
  found = new RegExp(`^${year}[-/ ]?(\\p{L}+)$`, 'u').exec(text);
  if (found && months.has(found[2]!)) return first(found[1]!, months.get(found[2]!)!);
  return null;
}

/** The columns that are periods, each with its first day; null where there are too few, or nothing but them. */
export function periodColumns(names: readonly string[]): Map<number, string> | null {
  const found = new Map<number, string>();
  names.forEach((name, c) => {
    const period = periodOf(name);
    if (period) found.set(c, period);
  });
  const distinct = new Set(found.values()).size === found.size;
  return found.size >= fewest && distinct && found.size < names.length ? found : null;
}

/** What rows are called once each is of one period. */
export const longNames = () => ({ period: tell('wide.period'), value: tell('wide.value') });

/** Whether fields are those of rows of one period each. */
export function isLong(names: readonly string[]): boolean {
  const { period, value } = longNames();
  return names.includes(period) && names.includes(value);
}

/** Asks whether columns that are periods become rows, with what is there before and after. */
export function wideQuestion({ plans }: Pick<Inspection, 'plans'>): ImportQuestion | null {
  const columns = periodColumns(plans.map(({ name }) => name));
  if (!columns) return null;
  const kept = plans.filter((_, c) => !columns.has(c));
  const cell = (plan: (typeof plans)[number]) => plan.examples[0] ?? '';
  const [first, second] = [...columns];
  const row = ([c, period]: [number, string]) => [...kept.map(cell), period, cell(plans[c]!)].join(' · ');
  const { period, value } = longNames();
  return {
    column: '#wide',
    asks: 'wide',
    examples: [...columns.keys()].slice(0, 3).map((c) => plans[c]!.name),
    options: [
      {
        answer: 'long',
        reads: [[...kept.map(({ name }) => name), period, value].join(' · '), row(first!), row(second!)],
      },
      {
        answer: 'wide',
        reads: [plans.map(({ name }) => name).join(' · '), plans.map(cell).join(' · ')].map((text) =>
          text.slice(0, 200),
        ),
      },
    ],
  };
}

/** Writes a file anew with one row for each period: what is not one stands in each of them. */
export async function lengthen(
  { path, inspection }: { path: string; inspection: Inspection },
  out: string,
  signal: AbortSignal,
): Promise<void> {
  const { plans, encoding, separator } = inspection;
  const columns = periodColumns(plans.map(({ name }) => name))!;
  const { period, value } = longNames();
  const kept = plans.flatMap((_, c) => (columns.has(c) ? [] : [c]));
  const writer = new CsvWriter(out);
  await writer.write([...kept.map((c) => plans[c]!.name), period, value]);
  let head = true;
  await readCsv(
    textOf(path, encoding, () => {}),
    separator,
    async ({ rows }) => {
      for (const row of rows) {
        if (row.length === 1 && row[0]!.trim() === '') continue;
        if (!head)
          for (const [c, first] of columns)
            await writer.write([...kept.map((k) => readable(row[k] ?? '')), first, readable(row[c] ?? '')]);
        head = false;
      }
    },
    signal,
  );
  await writer.end();
}
