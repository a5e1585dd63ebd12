import type { Digesting } from './digesting';

/** What an origin said of what it gave before. */
export interface Known {
  etag: string | null;
  modified: string | null;
  digest: string | null;
}

export interface Fetched extends Known {
  name: string;
  /** Null where nothing has changed since. */
  body: Digesting | null;
}

/** A kind of place that rows are fetched from. */
export interface Origin {
  /** Whether an address is one of its own. */
  isMine(address: string): boolean;
  /** Throws `UnusableFile` or a problem with a sentence where nothing can ever be fetched from there. */
  check(address: string): Promise<void>;
  /** Fetches what is there, unless nothing has changed since it was known. Throws as `check` does. */
  fetch(address: string, known: Known | null, signal: AbortSignal): Promise<Fetched>;
}
