import type { Workings } from './workings';

const field = (text: string) => {
  const held = /^[=+@\t\r]|^-(?![\d.])/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(held) ? `"${held.replaceAll('"', '""')}"` : held;
};

/** Workings as CSV (RFC 4180), in an order: figures in full, null as nothing. */
export function workingsCsv({ steps }: Workings, order: ArrayLike<number>): string {
  const lines = Array.from(order, (i) =>
    steps.map((step) => (step.numeric ? String(step.value(i) ?? '') : field(step.text(i)))).join(','),
  );
  return `${[steps.map(({ heading }) => field(heading)).join(','), ...lines].join('\r\n')}\r\n`;
}
