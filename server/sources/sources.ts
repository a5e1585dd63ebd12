import type { Connections } from '../connections/connections';
import { type Field, fieldsOf, findDataset, type StoredDataset } from '../datasets/store';
import type { Database } from '../db/client';
import { inNaturalOrder } from '../db/natural-order';
import { BestSource } from './best-source';
import type { Copies } from './copies/copies';
import { InPlaceSource } from './in-place/in-place-source';
import { TableSource } from './postgres/table-source';
import type { Restriction } from './restriction';
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
  private readonly known = new Map<string, Omit<Asked, 'source'>>();
  /** Another one after each change. */
  private state = 0;

  /** `copies` is null where there are to be none. */
  constructor(
    readonly database: Database,
    readonly copies: Copies | null,
    readonly connections: Connections,
    /** Which rows of a dataset are for whoever asks now. */
    private readonly restrictionOf: (dataset: StoredDataset) => Promise<Restriction | null> = async () =>
      null,
  ) {
    database.changes.on(() => {
      this.state++;
      this.known.clear();
    }, ['datasets', 'fields', 'connections', 'refresh_schedules']);
  }

  /** A dataset and its fields; remembered until something changes. */
  private async find(id: string): Promise<Omit<Asked, 'source'>> {
    const { db, changes } = this.database;
    const known = changes.listening ? this.known.get(id) : undefined;
    if (known) return known;
    const before = this.state;
    const dataset = await findDataset(db, id);
    const found = { dataset, fields: await fieldsOf(db, id) };
    if (this.state === before) this.known.set(id, found);
    return found;
  }

  /**
   * What answers for a dataset as it is now, of the rows that are for whoever asks: what is known of the fields of all rows is
   * then left out. Throws 404 where there is none.
   */
  async of(id: string): Promise<Asked> {
    const { dataset } = await this.find(id);
    return this.asSeen(id, await this.restrictionOf(dataset));
  }

  /** The same of some rows, whoever asks. */
  async asSeen(id: string, restriction: Restriction | null): Promise<Asked> {
    const { dataset, fields: known } = await this.find(id);
    const fields = restriction ? known.map((field) => ({ ...field, profile: null })) : known;
    const inPlace = await this.inPlace(dataset, fields, restriction);
    if (inPlace) return { dataset, fields, source: inPlace };
    const table = new TableSource(this.database, { ...dataset, fields }, { restriction });
    await this.copies?.caughtUp(dataset);
    return { dataset, fields, source: this.withCopy(dataset, fields, table, restriction) };
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

  /**
   * The same of all rows, for the server's own work, which may take longer than a question. Where there is `much` to do, a copy that is on its way is
   * waited for: with it the whole is done sooner.
   */
  async slowly(dataset: StoredDataset, much: boolean): Promise<Source> {
    const fields = await fieldsOf(this.database.db, dataset.id);
    const inPlace = await this.inPlace(dataset, fields, null);
    if (inPlace) return inPlace;
    const table = new TableSource(this.database, { ...dataset, fields }, { slow: true });
    if (much) await this.copies?.made(dataset);
    await this.copies?.caughtUp(dataset);
    return this.withCopy(dataset, fields, table, null);
  }

  /** A table in place that a dataset is a name for. */
  async placed(dataset: StoredDataset): Promise<InPlaceSource> {
    const found = await this.inPlace(dataset, await fieldsOf(this.database.db, dataset.id), null);
    if (!found) throw new Error(`${dataset.id} is no name for a table in place`);
    return found;
  }

  private async inPlace(
    { version, rows, connection, relation }: StoredDataset,
    fields: readonly Field[],
    restriction: Restriction | null,
  ): Promise<InPlaceSource | null> {
    if (connection === null || relation === null) return null;
    const place = await this.connections.place(connection);
    return new InPlaceSource(
      place,
      { version, rows, fields, relation },
      (texts) => inNaturalOrder(this.database, texts),
      restriction,
    );
  }

  private withCopy(
    dataset: StoredDataset,
    fields: Field[],
    table: TableSource,
    restriction: Restriction | null,
  ): Source {
    const copy = this.copies?.of(dataset, fields, restriction);
    return copy
      ? new BestSource(copy, table, (error) => this.copies?.didNotAnswer(dataset, copy.table, error))
      : table;
  }
}
