import type { KeyValue } from '../values';
import type { PickPosition } from './pick';

/** The values of an ordered list from one to another, both included, whichever comes first. */
export function stretchOf(order: readonly KeyValue[], from: KeyValue, to: KeyValue): KeyValue[] {
  const a = order.indexOf(from);
  const b = order.indexOf(to);
  if (a < 0 || b < 0) return [to];
  return order.slice(Math.min(a, b), Math.max(a, b) + 1).filter((value) => value !== null);
}

export const toggled = (position: PickPosition, value: KeyValue): PickPosition =>
  position.includes(value) ? position.filter((held) => held !== value) : [...position, value];

export const added = (position: PickPosition, values: readonly KeyValue[]): PickPosition => [
  ...new Set([...position, ...values]),
];

export const inverted = (position: PickPosition, all: readonly KeyValue[]): PickPosition => {
  const held = new Set(position);
  return all.filter((value) => !held.has(value));
};
