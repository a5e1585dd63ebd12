import type { DuckDBConnection } from '@duckdb/node-api';
import { partialKey } from '@sorvik/core/data/cube';
import { type Dimension, dimensionKey } from '@sorvik/core/data/dimension';
import { mostCombinations } from '@sorvik/core/pipeline/cube-size';
import { LRUCache } from 'lru-cache';
import type { Field } from '../../datasets/store';
import { type Dialect, ofParts, rollUpSql } from '../aggregate-sql';
import { placeColumn } from '../row-columns';
import type { Question } from '../source';
import { type Engine, TookTooLong } from './engine';

export interface RollUpOptions {
  /** Copies of fewer rows answer soon enough of themselves. */
  fewestRows: number;
  /** A roll-up is worth keeping where it has so many times fewer cells than there are rows. */
  worthwhile: number;
  /** So many rows are rolled up at a time. */
  slice: number;
}

/** Rows of a copy are read in tens of milliseconds up to here. */
export const usualRollUps: RollUpOptions = { fewestRows: 500_000, worthwhile: 8, slice: 1_000_000 };

/** More cells than this take memory that questions need. */
const mostCells = 1_000_000;
const mostKept = 64;
/** Nor do all of them together have more. */
const mostCellsKept = 4_000_000;
/** What came is beside what was there until there are so many times more cells, and so many. */
const spread = 8;
const spareCells = 20_000;
/** Rolled up slice by slice, there may be so many times more of them until they are put together. */
const mostApart = 4;
/** One that takes longer, ms, is given up: the copy has other work. */
const longest = 20_000;

/** A state of a copy's rows. */
export interface RowsAt {
  version: number;
  rows: number;
  places: number;
}

/** What is being rolled up. */
interface Rolling {
  wanted: Wanted;
  at: RowsAt;
  /** The table of the copy. */
  table: string;
  fields: readonly Field[];
  /** With more cells it is of no use. */
  most: number;
  /** Whether rows have at most come since. */
  isStill(): boolean;
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
  /** How often rows of a copy have gone: what was begun before is of no use. */
  private readonly changes = new Map<string, number>();
  /** What the rows of a copy are, where some only came since. */
  private readonly latest = new Map<string, RowsAt>();
  /** So many questions wait until one is made. */
  private hurried = 0;
  private count = 0;

  constructor(
    private readonly engine: Engine,
    private readonly options: RollUpOptions,
    /** The columns of a copy as its questions name them. */
    private readonly dialect: Dialect,
  ) {}

  /**
   * What answers a question sooner than all rows do; null where nothing does as yet. `patient` where whoever asks waits for it
   * to be made after what others ask.
   */
  async of(
    dataset: string,
    at: RowsAt,
    table: string,
    fields: readonly Field[],
    question: Question,
    patient = false,
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
    if (!filters && !patient && before === undefined) return null;
    const made = this.want(name, wanted, { at, table, fields, most: this.most(at) }, filters);
    if (!filters && !patient) return null;
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
    from: Omit<Rolling, 'wanted' | 'isStill'>,
    hurried: boolean,
  ): Promise<void> {
    const known = this.wanted.get(name);
    if (known) return known;
    const { dataset } = wanted;
    const changes = this.changes.get(dataset);
    const rolling: Rolling = { ...from, wanted, isStill: () => this.changes.get(dataset) === changes };
    if (hurried) this.hurried++;
    this.making = this.making.then(() =>
      this.make(rolling)
        .catch(() => {
          if (rolling.isStill()) this.asked.set(name, 'no');
        })
        .finally(() => {
          this.wanted.delete(name);
          if (hurried) this.hurried--;
        }),
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

  private async make(rolling: Rolling): Promise<void> {
    if (!rolling.isStill()) return;
    const { wanted, at, most } = rolling;
    const name = nameOf(wanted);
    const own = `memory.main.rolled_${++this.count}`;
    let kept = false;
    try {
      const cells = await this.rollUp(own, rolling);
      if (cells === null || cells > most) {
        if (rolling.isStill()) this.asked.set(name, 'no');
        return;
      }
      const made = { ...wanted, table: own, cells, most: spread * cells + spareCells, version: at.version };
      made.version = await this.catchUp(made, at, rolling);
      kept = rolling.isStill();
      if (kept) this.made.set(name, made);
    } finally {
      if (!kept) await this.drop(own);
    }
    const all = () => [...this.made.values()].reduce((sum, each) => sum + each.cells, 0);
    while (this.made.size > mostKept || (this.made.size > 1 && all() > mostCellsKept)) {
      const [oldest] = this.made.keys();
      await this.giveUp(oldest!);
    }
  }

  /**
   * Makes the table of a roll-up, some rows after the other: what is asked meanwhile waits for no more than those. Gives how many cells
   * it has; null where those are too many, or rows have gone.
   */
  private async rollUp(own: string, rolling: Rolling): Promise<number | null> {
    const { wanted, at, most } = rolling;
    const slices = `${own}_slices`;
    const began = performance.now();
    const run = async <T>(work: (connection: DuckDBConnection) => Promise<T>): Promise<T> => {
      const left = longest - (performance.now() - began);
      if (left <= 0) throw new TookTooLong();
      const act = () => this.engine.on(work, undefined, left);
      return this.hurried ? act() : this.engine.behind(act);
    };
    const rollUpOf = (from: number, to: number) =>
      rollUpSql(
        wanted,
        rolling.table,
        [...rolling.fields],
        this.dialect,
        `${placeColumn} BETWEEN ${from} AND ${to - 1}`,
      );
    const none = rollUpOf(0, 0);
    const keys = wanted.keys.map((_, i) => `r${i}`);
    const sums = wanted.partials.map(
      ({ aggregate }, i) => `${ofParts[aggregate as keyof typeof ofParts]}(p${i}) AS p${i}`,
    );
    try {
      await run((connection) =>
        this.engine.run(connection, `CREATE TABLE ${slices} AS ${none.text} LIMIT 0`, none.values),
      );
      let cells = 0;
      for (let from = 0; from < at.places; from += this.options.slice) {
        if (!rolling.isStill()) return null;
        const { text, values } = rollUpOf(from, Math.min(at.places, from + this.options.slice));
        cells += await run(
          async (connection) =>
            (await this.engine.run(connection, `INSERT INTO ${slices} ${text} LIMIT ${most + 1}`, values))
              .rowsChanged,
        );
        if (cells > mostApart * most) return null;
      }
      return await run(async (connection) => {
        await connection.run(
          `CREATE TABLE ${own} AS SELECT ${[...keys, ...sums].join(', ')} FROM ${slices}${keys.length ? ` GROUP BY ${keys.join(', ')}` : ''} LIMIT ${most + 1}`,
        );
        const counted = await connection.runAndReadAll(`SELECT count(*)::double FROM ${own}`);
        return counted.getRows()[0]![0] as number;
      });
    } finally {
      await this.drop(slices);
    }
  }

  /** Adds the rows that came while a roll-up was being made; gives the version that it is of then. */
  private async catchUp(rollUp: RollUp, at: RowsAt, { table, fields, isStill }: Rolling): Promise<number> {
    for (let known = at; ; ) {
      const now = this.latest.get(rollUp.dataset) ?? at;
      if (!isStill() || now.version <= known.version) return known.version;
      rollUp.cells += await this.add(rollUp, known, now, table, fields);
      known = now;
    }
  }

  /** Puts the rows that came between two states beside those that are in a roll-up; gives how many cells those have. */
  private async add(
    rollUp: RollUp,
    before: RowsAt,
    after: RowsAt,
    table: string,
    fields: readonly Field[],
  ): Promise<number> {
    const came = `${placeColumn} BETWEEN ${before.places} AND ${after.places - 1}`;
    const { text, values } = rollUpSql(rollUp, table, [...fields], this.dialect, came);
    const { rowsChanged } = await this.engine.on((connection) =>
      this.engine.run(connection, `INSERT INTO ${rollUp.table} ${text}`, values),
    );
    return rowsChanged;
  }

  /** Rows of a copy have come or gone. Where they only came, its roll-ups have them too once this resolves. */
  async follow(
    dataset: string,
    before: RowsAt,
    after: RowsAt,
    table: string,
    fields: readonly Field[],
  ): Promise<void> {
    const onlyCame = after.rows - before.rows === after.places - before.places;
    if (onlyCame) this.latest.set(dataset, after);
    else this.changed(dataset);
    for (const [name, rollUp] of [...this.made]) {
      if (rollUp.dataset !== dataset || rollUp.version >= after.version) continue;
      if (!onlyCame || rollUp.version !== before.version) {
        await this.giveUp(name);
        continue;
      }
      try {
        rollUp.cells += await this.add(rollUp, before, after, table, fields);
        rollUp.version = after.version;
        if (rollUp.cells > rollUp.most) await this.giveUp(name);
      } catch {
        await this.giveUp(name);
      }
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
    this.latest.delete(dataset);
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
