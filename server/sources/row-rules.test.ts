import type { KeyValue } from '@sorvik/core/data/values';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Field, fieldsOf, findDataset, type StoredDataset } from '../datasets/store';
import { quoted, tableOf } from '../db/client';
import { inNaturalOrder } from '../db/natural-order';
import { connectionTo } from '../testing/connection-to';
import { answered, expectSame, question, sampleCsv, wheres } from '../testing/every-type';
import { type TestApp, testApp } from '../testing/test-app';
import { InPlaceSource } from './in-place/in-place-source';
import { TableSource } from './postgres/table-source';
import type { Restriction } from './restriction';
import type { Question, Source } from './source';

/** Asks a view that somebody has written by hand, and knows of no rule. */
class ViewSource extends TableSource {
  view = '';

  protected override read<T>(work: Parameters<TableSource['read']>[0], signal?: AbortSignal): Promise<T> {
    return super.read((client) => work(client, () => this.view, this.view), signal) as Promise<T>;
  }
}

/** Rules for somebody, each beside the rows that they are to see by it, in PostgreSQL's own words. */
const somebody = { email: "o'clock", groups: ['Harl 2', 'null', 'a "quoted" name', '\\N'] };
const nobody = { email: null, groups: [] };
const list = `ARRAY['Harl 2', 'null', 'a "quoted" name', E'\\\\N']`;
const rules: [string, string, Omit<Restriction, 'rule'>?][] = [
  ...wheres.map((where): [string, string] => [where, where]),
  ['name = :person_email', `name = 'o''clock'`],
  ['name <> :person_email OR small > 0', `name <> 'o''clock' OR small > 0`],
  ['name = ANY (:person_groups)', `name = ANY (${list})`],
  ['NOT name = ANY (:person_groups) AND open', `NOT name = ANY (${list}) AND open`],
  ["'Harl 2' = ANY (:person_groups)", 'true'],
  ["'harl 2' = ANY (:person_groups)", 'false'],
  // Whoever has no name sees what is for nobody in particular.
  ['name = :person_email', 'false', nobody],
  ['NOT name = :person_email', 'false', nobody],
  ['name = ANY (:person_groups)', 'false', nobody],
  ['open OR name = :person_email', 'open', nobody],
];
/** What a column copy might see in another way, and what has no result for some rows. */
const asked: [string, string][] = [
  ["UPPER(name) LIKE 'H%'", "upper(name) LIKE 'H%'"],
  ['small / (small - 3) > 1', 'small::float8 / nullif(small - 3, 0) > 1'],
  ['SQRT(small) > 2', 'small > 4'],
  ['EXTRACT(YEAR FROM day) = 2001', 'extract(year from day) = 2001'],
];

let t: TestApp;
let dataset: StoredDataset;
let fields: Field[];
let placedOf: (restriction: Restriction) => Source;

beforeAll(async () => {
  t = await testApp({ copies: true });
  const { dataset: id } = await t.importCsv(sampleCsv(), 'Everything.csv');
  dataset = await findDataset(t.database.db, id!);
  fields = await fieldsOf(t.database.db, id!);
  await t.copies!.settled();
  const columns = fields.map(({ key }) => quoted(key)).join(', ');
  await t.database.pool.query(
    `CREATE VIEW public.everything AS SELECT ${columns} FROM ${tableOf(dataset.number)}`,
  );
  const connection = await t.sources.connections.create({ ...connectionTo(t.url), name: 'Elsewhere' });
  const { body } = await t.send('POST', `/api/connections/${connection.id}/datasets`, {
    schema: 'public',
    table: 'everything',
  });
  const elsewhere = await t.sources.of(body.id);
  const place = await t.sources.connections.place(connection.id);
  placedOf = (restriction) =>
    new InPlaceSource(
      place,
      { ...elsewhere.dataset, fields: elsewhere.fields, relation: elsewhere.dataset.relation! },
      (texts) => inNaturalOrder(t.database, texts),
      restriction,
    );
});
afterAll(() => t.close());

async function oracleOf(sql: string): Promise<Source> {
  await t.database.pool.query(
    `DROP VIEW IF EXISTS public.allowed; CREATE VIEW public.allowed AS SELECT * FROM ${tableOf(dataset.number)} WHERE ${sql}`,
  );
  const oracle = new ViewSource(t.database, { ...dataset, rows: 0, fields });
  oracle.view = 'public.allowed';
  return oracle;
}

async function expectAlike(source: Source, oracle: Source, runs: number) {
  await fc.assert(
    fc.asyncProperty(question, async (whole) => {
      const placed = source.lasting || whole.partials.every(({ aggregate }) => aggregate !== 'first');
      const wanted: Question = placed ? whole : { ...whole, partials: [{ aggregate: 'count' }] };
      const [found, right] = await Promise.all([answered(source, wanted), answered(oracle, wanted)]);
      expectSame(found, right, wanted.partials);
    }),
    { numRuns: runs },
  );
  for (const field of fields) {
    expect(await source.describe(field), field.key).toEqual(await oracle.describe(field));
    expect(await source.commonest(field, 5), field.key).toEqual(await oracle.commonest(field, 5));
  }
  const name = fields.find(({ key }) => key === 'name')!;
  expect(await source.values(name)).toEqual(await oracle.values(name));
  const small = fields.find(({ key }) => key === 'small')!;
  const bins = { low: -20, width: 4, count: 10 };
  expect(await source.bins(small, bins)).toEqual(await oracle.bins(small, bins));
  expect(await source.combinations([{ field: 'name' }, { field: 'open' }])).toBe(
    await oracle.combinations([{ field: 'name' }, { field: 'open' }]),
  );
  const known = (rows: unknown[][]) => new Set(rows.map((row) => JSON.stringify(row)));
  const all = await oracle.rows(0, 10_000);
  if (source.lasting) expect(await source.rows(7, 50)).toEqual(all.slice(7, 57));
  else expect(known(await source.rows(0, 10_000))).toEqual(known(all));
}

describe('rows that are for somebody are those of a view', () => {
  it.each(rules)(
    '%s',
    async (rule, sql, who = somebody) => {
      const restriction = { rule, ...who };
      const oracle = await oracleOf(sql);
      const copy = t.copies!.of(dataset, fields, restriction);
      expect(copy).not.toBeNull();
      const table = new TableSource(t.database, { ...dataset, fields }, { restriction });
      for (const source of [copy!, table, placedOf(restriction)]) await expectAlike(source, oracle, 12);
    },
    60_000,
  );

  it.each(asked)(
    '%s, of which a copy is not asked',
    async (rule, sql) => {
      const restriction = { rule, ...somebody };
      expect(t.copies!.of(dataset, fields, restriction)).toBeNull();
      const table = new TableSource(t.database, { ...dataset, fields }, { restriction });
      await expectAlike(table, await oracleOf(sql), 25);
    },
    60_000,
  );
});

it('of a rule that cannot be read nobody sees a row', async () => {
  const restriction = { rule: 'gone = 3', ...somebody };
  const table = new TableSource(t.database, { ...dataset, fields }, { restriction });
  const rows = (await table.rows(0, 10)) as KeyValue[][];
  expect(rows).toEqual([]);
});

it('people whom a rule treats alike share what is kept, and no others', () => {
  const scope = (rule: string, email: string | null, groups: string[]) =>
    new TableSource(t.database, { ...dataset, fields }, { restriction: { rule, email, groups } }).scope;
  expect(scope('open', 'a@example.org', ['one'])).toBe(scope('open', null, []));
  expect(scope('name = ANY (:person_groups)', 'a@example.org', ['one', 'two'])).toBe(
    scope('name = ANY (:person_groups)', 'b@example.org', ['two', 'one']),
  );
  expect(scope('name = ANY (:person_groups)', 'a', ['one'])).not.toBe(
    scope('name = ANY (:person_groups)', 'a', ['two']),
  );
  expect(scope('name = :person_email', 'a', [])).not.toBe(scope('name = :person_email', 'b', []));
  expect(scope('open', null, [])).not.toBe(new TableSource(t.database, { ...dataset, fields }).scope);
});
