// What every place that core runs in has: a page, a worker, a server. Whole programs know them from their own types.

declare function structuredClone<T>(value: T): T;

declare class URLSearchParams {
  constructor(init?: string | Record<string, string> | readonly (readonly [string, string])[]);
  append(name: string, value: string): void;
  delete(name: string): void;
  get(name: string): string | null;
  getAll(name: string): string[];
  has(name: string): boolean;
  keys(): IterableIterator<string>;
  [Symbol.iterator](): IterableIterator<[string, string]>;
  toString(): string;
}
