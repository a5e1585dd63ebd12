import { type Field, fieldsOf, findDataset, type StoredDataset } from '../datasets/store';
import type { Database } from '../db/client';
import { TableSource } from './postgres/table-source';
import { OtherVersion, type Source } from './source';

/** So often in a row nobody changes a dataset. */
const mostTries = 5;

/** A dataset with what answers for its rows. */
export interface Asked {
  dataset: StoredDataset;
  fields: Field[];
  source: Source;
}

/** What the rows of datasets come from. */
export class Sources {
  constructor(readonly database: Database) {}

  /** What answers for a dataset as it is now. Throws 404 where there is none. */
  async of(id: string): Promise<Asked> {
    const { db } = this.database;
    const dataset = await findDataset(db, id);
    const fields = await fieldsOf(db, id);
    return { dataset, fields, source: new TableSource(this.database, { ...dataset, fields }) };
  }

  /** Asks a dataset as it is now; asks again where it was changed just then. */
  async ask<T>(id: string, work: (asked: Asked) => Promise<T>): Promise<T> {
    for (let tries = 1; ; tries++)
      try {
        return await work(await this.of(id));
      } catch (error) {
        if (!(error instanceof OtherVersion) || tries === mostTries) throw error;
      }
  }

  /** The same for work that nobody waits for, and that may take longer than a question. */
  async slowly(dataset: StoredDataset): Promise<Source> {
    const fields = await fieldsOf(this.database.db, dataset.id);
    return new TableSource(this.database, { ...dataset, fields }, true);
  }
}
