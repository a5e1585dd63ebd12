import type { KeyValue } from '../data/values';
import { kindOf, type Lever } from './registry';

/** Where a lever stands as code of a page says it: a figure, on or off, a value, a list of values, or texts as in an address. */
export type PlainPosition = KeyValue | readonly KeyValue[];

/** Where a lever stands, for code of the page. */
export function plainPosition(lever: Lever, position: unknown): PlainPosition {
  const kind = kindOf(lever);
  if (kind.isOn) return kind.isOn(position);
  const parts = kind.figures?.parts;
  if (parts?.length === 1) return kind.figures!.read(position, parts[0]!);
  if (kind.values && Array.isArray(position)) return [...kind.values(position)];
  if (kind.values) return kind.values(position)[0] ?? null;
  return kind.toQuery(position);
}

/** What code of the page says of a lever, in the words of an address. */
export function positionTexts(said: PlainPosition): string[] {
  if (Array.isArray(said)) return said.length ? said.map(String) : [''];
  if (typeof said === 'boolean') return [said ? 'on' : 'off'];
  return [said === null ? '' : String(said)];
}

/** What an attribute says of a lever: a text, or several as a list in JSON. */
export function attributeTexts(text: string): string[] {
  if (!text.startsWith('[')) return [text];
  try {
    const list: unknown = JSON.parse(text);
    if (Array.isArray(list)) return positionTexts(list);
  } catch {
    // Then it is a text that begins like one.
  }
  return [text];
}
