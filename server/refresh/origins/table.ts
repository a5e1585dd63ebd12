import { pipeline } from 'node:stream';
import { datasetAt } from '@sorvik/core/data/table-address';
import { arrowStream } from '../../datasets/arrow-stream';
import { fieldsOf, findDataset, type StoredDataset } from '../../datasets/store';
import { HttpProblem } from '../../http/problem';
import type { Sources } from '../../sources/sources';
import { tell } from '../../tell';
import { digesting } from './digesting';
import type { Fetched, Origin } from './origin';

/** A value of another database as text; empty where there is none. */
const cellOf = (value: unknown): string => (value === null || value === undefined ? '' : String(value));

/** The rows of a table in place as they are now. They travel as Arrow, which keeps their types. */
async function fetchTable(sources: Sources, dataset: StoredDataset, signal: AbortSignal): Promise<Fetched> {
  const { db } = sources.database;
  const fields = await fieldsOf(db, dataset.id);
  const source = await sources.placed(dataset);
  async function* batches() {
    for await (const rows of source.allRows(signal)) yield rows.map((row) => row.map(cellOf));
  }
  const body = digesting();
  // What goes wrong on the way is told by whoever reads.
  pipeline(arrowStream(fields, batches()), body, () => {});
  return { name: dataset.source.file, etag: null, modified: null, digest: null, body };
}

/** Tables in place, by the datasets that are names for them. */
export function tableOrigin(sources: Sources): Origin {
  const { db } = sources.database;
  const find = async (address: string): Promise<StoredDataset> => {
    const dataset = await findDataset(db, datasetAt(address)!);
    if (dataset.connection === null)
      throw new HttpProblem(409, 'not-in-place', tell('connections.notInPlace', { name: dataset.name }));
    return dataset;
  };
  return {
    isMine: (address) => datasetAt(address) !== null,
    async check(address) {
      await find(address);
    },
    fetch: async (address, _known, signal) => fetchTable(sources, await find(address), signal),
  };
}
