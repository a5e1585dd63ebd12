import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** How many rows each table has that is ours, by its name; `client` sees one state of the database. */
export async function rowCounts(client) {
  const { rows } = await client.query(
    `SELECT format('%I.%I', schemaname, tablename) AS name FROM pg_tables WHERE schemaname IN ('sorvik', 'data') ORDER BY 1`,
  );
  const counts = {};
  for (const { name } of rows) {
    const found = await client.query(`SELECT count(*)::float8 AS n FROM ${name}`);
    counts[name] = found.rows[0].n;
  }
  return counts;
}

/** How many steps the schema of a database has been brought up to; 0 for an empty one. */
export async function stepsOf(client) {
  const { rows } = await client.query("SELECT to_regclass('drizzle.__drizzle_migrations') AS there");
  if (!rows[0].there) return 0;
  return (await client.query('SELECT count(*)::int AS n FROM drizzle.__drizzle_migrations')).rows[0].n;
}

/** How many steps this version of Sorvik knows. */
export const knownSteps = (root) =>
  JSON.parse(readFileSync(join(root, 'server/migrations/meta/_journal.json'), 'utf8')).entries.length;
