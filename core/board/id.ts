import { Matches } from 'class-validator';
import { tell } from '../messages/desk';

/** Ids stand in addresses and in files: short, lower case, readable. */
export const idPattern = /^[a-z0-9][a-z0-9_-]{0,62}$/;

export const idSchema = { type: 'string', pattern: idPattern.source };

export const IsId = () =>
  Matches(idPattern, {
    message: ({ property }) => tell('check.id', { property }),
  });

/** "Ollen Sound: May" -> "ollen-sound-may"; made unique against `taken` by a number at the end. */
export function idFrom(text: string, taken: Iterable<string> = [], fallback = 'item'): string {
  const stem =
    text
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 48)
      .replace(/-+$/, '') || fallback;
  const used = new Set(taken);
  let id = stem;
  for (let n = 2; used.has(id); n++) id = `${stem}-${n}`;
  return id;
}
