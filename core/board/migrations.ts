import { tell } from '../messages/desk';
import { boardVersion } from './board';

type Document = Record<string, unknown>;

/**
 * `migrations[n]` turns a document of version n into one of version n + 1. Version 0 is the shape of the first
 * trials: charts had neither guides nor touches.
 */
const migrations: Record<number, (document: Document) => Document> = {
  0: (document) => ({
    ...document,
    version: 1,
    charts: Array.isArray(document.charts)
      ? document.charts.map((chart) => ({ guides: [], touches: [], ...(chart as Document) }))
      : document.charts,
  }),
};

/** Brings a document to the present version. Throws a sentence for the reader when that cannot be done. */
export function migrateBoard(document: Document): Document {
  const version = document.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0)
    throw new Error(tell('board.noVersion'));
  if (version > boardVersion)
    throw new Error(tell('board.newerVersion', { version: String(version), known: String(boardVersion) }));
  let current = document;
  for (let at = version; at < boardVersion; at++) current = migrations[at]!(current);
  return current;
}
