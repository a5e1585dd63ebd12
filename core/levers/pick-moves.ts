import type { KeyValue } from '../data/values';

export type PickPosition = readonly KeyValue[];

export const toggled = (position: PickPosition, value: KeyValue): PickPosition =>
  position.includes(value) ? position.filter((held) => held !== value) : [...position, value];

export const added = (position: PickPosition, values: readonly KeyValue[]): PickPosition => [
  ...new Set([...position, ...values]),
];

export const inverted = (position: PickPosition, all: readonly KeyValue[]): PickPosition => {
  const held = new Set(position);
  return all.filter((value) => !held.has(value));
};

/** A pasted list as its entries: one a line, or parted by tabs, semicolons or commas where it is one line. */
export function pastedEntries(text: string): string[] {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const mark = lines.some((line) => line.includes('\t')) ? '\t' : lines.length > 1 ? null : /[;,]/;
  const parts = mark === null ? lines : lines.flatMap((line) => line.split(mark));
  return [
    ...new Set(
      parts.map((part) =>
        part
          .trim()
          .replace(/^"(.*)"$/, '$1')
          .replaceAll('""', '"'),
      ),
    ),
  ].filter((part) => part !== '');
}
