import { stepLength } from './all-steps';

// The lists' own `from` goes through iterators and takes many times as long: these are plain loops.

/** A list of figures, each by its index. */
export function floats(length: number, at: (index: number) => number): Float64Array {
  const list = new Float64Array(length);
  for (let i = 0; i < length; i++) list[i] = at(i);
  return list;
}

/** The same in steps, for figures that take a while. */
export function* floatsInSteps(length: number, at: (index: number) => number): Generator<void, Float64Array> {
  const list = new Float64Array(length);
  for (let from = 0; from < length; from += stepLength) {
    const to = Math.min(length, from + stepLength);
    for (let i = from; i < to; i++) list[i] = at(i);
    yield;
  }
  return list;
}

/** A list of whole numbers, each by its index. */
export function ints(length: number, at: (index: number) => number): Int32Array {
  const list = new Int32Array(length);
  for (let i = 0; i < length; i++) list[i] = at(i);
  return list;
}

/** The figures at these indices, in their order. */
export function floatsAt(values: Float64Array, indices: Int32Array): Float64Array {
  const list = new Float64Array(indices.length);
  for (let i = 0; i < list.length; i++) list[i] = values[indices[i]!]!;
  return list;
}

/** The same for whole numbers. */
export function intsAt(values: Int32Array, indices: Int32Array): Int32Array {
  const list = new Int32Array(indices.length);
  for (let i = 0; i < list.length; i++) list[i] = values[indices[i]!]!;
  return list;
}

/** What each of these numbers stands for. */
export function named<T>(names: readonly T[], numbers: Int32Array): T[] {
  const list = new Array<T>(numbers.length);
  for (let i = 0; i < numbers.length; i++) list[i] = names[numbers[i]!]!;
  return list;
}
