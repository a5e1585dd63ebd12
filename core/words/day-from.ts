import { utcParse } from 'd3-time-format';
import { isDateText } from '../data/periods';

const written = ['%d %b %Y', '%d %B %Y', '%d.%m.%Y', '%b %Y', '%B %Y', '%Y-%m', '%Y'].map((form) =>
  utcParse(form),
);

/** A day as people write it: 2021-03-12, 12 Mar 2021, 12.3.2021, Mar 2021, 2021. Undefined for anything else. */
export function dayFrom(text: string): string | undefined {
  const plain = text.trim().replace(/\s+/g, ' ');
  if (isDateText(plain as unknown)) return plain.slice(0, 10);
  for (const parse of written) {
    const date = parse(plain);
    if (date) return date.toISOString().slice(0, 10);
  }
  return undefined;
}
