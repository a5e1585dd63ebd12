import { partialKey } from '@sorvik/core/data/cube';
import { type Dimension, dimensionKey } from '@sorvik/core/data/dimension';
import { mostCombinations } from '@sorvik/core/pipeline/cube-size';
import { LRUCache } from 'lru-cache';
import type { Field } from '../../datasets/store';
import { type Dialect, ofParts, rollUpSql } from '../aggregate-sql';
import { placeColumn } from '../row-columns';
import type { Question } from '../source';
import type { Engine } from './engine';

export interface RollUpOptions {
  /** Copies of fewer rows answer soon enough of themselves. */
  fewestRows: number;
  /** A roll-up is worth keeping where it has so many times fewer cells than there are rows. */
  worthwhile: number;
}

/** Rows of a copy are read in tens of milliseconds up to here. */
export const usualRollUps: RollUpOptions = { fewestRows: 500_000, worthwhile: 8 };

/** More cells than this take memory that questions need. */
const mostCells = 1_000_000;
const mostKept = 64;
/** Nor do all of them together have more. */
const mostCellsKept = 4_000_000;
/** What came is beside what was there until there are so many times more cells, and so many. */
const spread = 8;
const spareCells = 20_000;
/** One that takes longer, ms, is given up: the copy has other work. */
const longest = 20_000;

/** A state of a copy's rows. */
export interface RowsAt {
  version: number;
  rows: number;
  places: number;
}

/** What is rolled up, of which copy. */
interface Wanted {
  dataset: string;
  keys: Dimension[];
  partials: Question['partials'];
}

interface RollUp extends Wanted {
  /** Its table in the column store. */
  table: string;
  /** So many it has now: what was rolled up of rows that came stands beside the first ones. */
  cells: number;
  /** With more than so many it is sooner made anew. */
  most: number;
  version: number;
}

/** Where a question is answered from, and how that is asked. */
export interface Rolled {
  table: string;
  dialect: Dialect;
  /** It did not answer: it is given up. */
  failed(): void;
}

const nameOf = ({ dataset, keys, partials }: Wanted) =>
  JSON.stringify([dataset, keys.map(dimensionKey), partials.map(partialKey)]);

/** So many combinations of dimensions there are at most, by what is known of their fields. */
const combinationsOf = (keys: readonly Dimension[], fields: readonly Field[]) =>
  mostCombinations(keys, (key) => fields.find((field) => field.key === key)?.profile ?? undefined);

/** What a question groups and filters by, and what it adds up, in one order for all that ask the same. */
function wantedOf(dataset: string, { keys, partials, kept }: Question): Wanted {
  const dimensions = [...keys, ...kept].map(({ field, grain }) => ({ field, ...(grain ? { grain } : {}) }));
  const byName = <T>(list: readonly T[], name: (each: T) => string) =>
    [...new Map(list.map((each) => [name(each), each])).entries()].sort().map(([, each]) => each);
  return { dataset, keys: byName(dimensions, dimensionKey), partials: byName(partials, partialKey) };
}

/**
 * Aggregates of a copy by all that a chart groups and filters by, kept in memory: what is asked again with other rows kept
 * is added up from those instead of from all rows. One is made as soon as a lever filters, which takes hardly longer than the answer
 * alone, and in the background where something else is asked a second time. Rows that come are rolled up by themselves and put beside;
 * where rows went it is given up.
 */
export class RollUps {
  private readonly made = new Map<string, RollUp>();
  /** What was asked before; what is not worth a roll-up is `no`. */
  private readonly asked = new LRUCache<string, 'once' | 'no'>({ max: 2000 });
  private making: Promise<void> = Promise.resolve();
  private readonly wanted = new Map<string, Promise<void>>();
  /** How often rows of a copy have changed: what was begun before is of no use. */
  private readonly changes = new Map<string, number>();
  private count = 0;

  constructor(
    private readonly engine: Engine,
    private readonly options: RollUpOptions,
    /** The columns of a copy as its questions name them. */
    private readonly dialect: Dialect,
  ) {}

  /** What answers a question sooner than all rows do; null where nothing does as yet. */
  async of(
    dataset: string,
    at: RowsAt,
    table: string,
    fields: readonly Field[],
    question: Question,
  ): Promise<Rolled | null> {
    if (at.rows < this.options.fewestRows) return null;
    if (question.partials.some(({ aggregate }) => aggregate === 'nonAdditive')) return null;
    const wanted = wantedOf(dataset, question);
    const name = nameOf(wanted);
    const ready = this.readyFor(name, at);
    if (ready) return ready;
    const before = this.asked.get(name);
    if (before === 'no') return null;
    if (before === undefined) this.asked.set(name, 'once');
    const filters = question.kept.length > 0 && combinationsOf(wanted.keys, fields) <= this.most(at);
    if (!filters && before === undefined) return null;
    const made = this.want(name, wanted, at, table, fields);
    if (!filters) return null;
    await made;
    return this.readyFor(name, at);
  }

  private readyFor(name: string, at: RowsAt): Rolled | null {
    const found = this.made.get(name);
    if (found?.version !== at.version) return null;
    // The one that was asked last is given up last.
    this.made.delete(name);
    this.made.set(name, found);
    return { table: found.table, dialect: this.dialectOf(found), failed: () => void this.giveUp(name) };
  }

  private most(at: RowsAt): number {
    return Math.min(mostCells, Math.floor(at.rows / this.options.worthwhile));
  }

  /** Has it made after what was wanted before. Does not throw. */
  private want(
    name: string,
    wanted: Wanted,
    at: RowsAt,
    table: string,
    fields: readonly Field[],
  ): Promise<void> {
    const known = this.wanted.get(name);
    if (known) return known;
    const { dataset } = wanted;
    const changes = this.changes.get(dataset);
    const isCurrent = () => this.changes.get(dataset) === changes;
    this.making = this.making.then(() =>
      this.make(wanted, at, table, fields, isCurrent)
        .catch(() => {
          if (isCurrent()) this.asked.set(name, 'no');
        })
        .finally(() => this.wanted.delete(name)),
    );
    this.wanted.set(name, this.making);
    return this.making;
  }

  private dialectOf({ keys, partials }: Wanted): Dialect {
    const keyAt = new Map(keys.map((key, i) => [dimensionKey(key), `r${i}`]));
    const partialAt = new Map(
      partials.map((partial, i) => {
        const sum = `${ofParts[partial.aggregate as keyof typeof ofParts]}(p${i})`;
        // Of no rows there are none, where a sum of nothing would be null.
        return [partialKey(partial), partial.aggregate === 'count' ? `coalesce(${sum}, 0)` : sum];
      }),
    );
    return {
      ...this.dialect,
      keyOf: (key) => keyAt.get(dimensionKey(key)),
      partialOf: (partial) => partialAt.get(partialKey(partial)),
    };
  }

  private async make(
    wanted: Wanted,
    at: RowsAt,
    table: string,
    fields: readonly Field[],
    isCurrent: () => boolean,
  ): Promise<void> {
    if (!isCurrent()) return;
    const most = this.most(at);
    const own = `memory.main.rolled_${++this.count}`;
    // Rows that come meanwhile are not among these.
    const { text, values } = rollUpSql(
      wanted,
      table,
      [...fields],
      this.dialect,
      `${placeColumn} < ${at.places}`,
    );
    const cells = await this.engine.on(
      async (connection) => {
        await this.engine.run(connection, `CREATE TABLE ${own} AS ${text} LIMIT ${most + 1}`, values);
        const counted = await connection.runAndReadAll(`SELECT count(*)::double FROM ${own}`);
        return counted.getRows()[0]![0] as number;
      },
      undefined,
      longest,
    );
    const name = nameOf(wanted);
    if (cells > most) this.asked.set(name, 'no');
    if (cells > most || !isCurrent()) {
      await this.drop(own);
      return;
    }
    this.made.set(name, {
      ...wanted,
      table: own,
      cells,
      most: spread * cells + spareCells,
      version: at.version,
    });
    const all = () => [...this.made.values()].reduce((sum, each) => sum + each.cells, 0);
    while (this.made.size > mostKept || (this.made.size > 1 && all() > mostCellsKept)) {
      const [oldest] = this.made.keys();
      await this.giveUp(oldest!);
    }
  }

  /** Rows of a copy have come or gone. Where they only came, its roll-ups have them too once this resolves. */
  async follow(
    dataset: string,
    before: RowsAt,
    after: RowsAt,
    table: string,
    fields: readonly Field[],
  ): Promise<void> {
    this.changed(dataset);
    const onlyCame = after.rows - before.rows === after.places - before.places;
    for (const [name, rollUp] of [...this.made]) {
      if (rollUp.dataset !== dataset) continue;
      if (!onlyCame || rollUp.version !== before.version) {
        await this.giveUp(name);
        continue;
      }
      const came = `${placeColumn} BETWEEN ${before.places} AND ${after.places - 1}`;
      const { text, values } = rollUpSql(rollUp, table, [...fields], this.dialect, came);
      await this.engine
        .on((connection) => this.engine.run(connection, `INSERT INTO ${rollUp.table} ${text}`, values))
        .then(async ({ rowsChanged }) => {
          rollUp.cells += rowsChanged;
          rollUp.version = after.version;
          if (rollUp.cells > rollUp.most) await this.giveUp(name);
        })
        .catch(() => this.giveUp(name));
    }
  }

  /** A copy is let go of. */
  async leave(dataset: string): Promise<void> {
    this.changed(dataset);
    for (const [name, rollUp] of [...this.made]) if (rollUp.dataset === dataset) await this.giveUp(name);
  }

  /** Resolves once what is being made is there. */
  async settled(): Promise<void> {
    await this.making;
  }

  private changed(dataset: string): void {
    this.changes.set(dataset, (this.changes.get(dataset) ?? 0) + 1);
  }

  private async giveUp(name: string): Promise<void> {
    const rollUp = this.made.get(name);
    this.asked.delete(name);
    this.made.delete(name);
    if (rollUp) await this.drop(rollUp.table);
  }

  /** Questions under way are answered from it to their end. */
  private async drop(table: string): Promise<void> {
    await this.engine.ask(`DROP TABLE IF EXISTS ${table}`).catch(() => {});
  }
}
