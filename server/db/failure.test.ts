import pg from 'pg';
import { expect, inject, it } from 'vitest';
import { failureProblem } from '../http/problem';
import { failureOf } from './failure';

const coded = (code: string) => Object.assign(new Error('x'), { code });

it('tells what went wrong, also where it was wrapped on its way', () => {
  expect(failureOf(coded('53100'))).toBe('full');
  expect(failureOf(coded('ENOSPC'))).toBe('full');
  expect(failureOf(coded('57P01'))).toBe('lost');
  expect(failureOf(coded('ECONNREFUSED'))).toBe('lost');
  expect(failureOf(new Error('Connection terminated unexpectedly'))).toBe('lost');
  expect(failureOf(coded('57014'))).toBe('too long');
  expect(failureOf(coded('22003'))).toBe('value');
  expect(failureOf(coded('23505'))).toBe('other');
  expect(failureOf(new TypeError('x is not a function'))).toBe('other');
  expect(failureOf(new Error('query', { cause: new Error('inner', { cause: coded('53100') }) }))).toBe(
    'full',
  );
  expect(failureOf(new AggregateError([coded('ECONNREFUSED'), coded('ECONNREFUSED')]))).toBe('lost');
  expect(failureOf(null)).toBe('other');
  const round: { cause?: unknown } = {};
  round.cause = round;
  expect(failureOf(round)).toBe('other');
});

it('gives each an answer that says what to do, and none to what nobody foresaw', () => {
  expect(failureProblem(coded('53100'))).toMatchObject({
    status: 507,
    detail: expect.stringContaining('Free some space'),
  });
  expect(failureProblem(coded('57P03'))).toMatchObject({ status: 503, headers: { 'retry-after': '1' } });
  expect(failureProblem(coded('57014'))).toMatchObject({
    status: 503,
    detail: expect.stringContaining('longer than 30 seconds'),
  });
  expect(failureProblem(coded('23505'))).toBeUndefined();
});

it('knows what PostgreSQL itself says', async () => {
  const client = new pg.Client({ connectionString: inject('databaseUrl') });
  client.on('error', () => {});
  await client.connect();
  const fails = async (sql: string) => {
    const error = await client.query(sql).catch((thrown: unknown) => thrown);
    return failureOf(error);
  };
  expect(await fails("SELECT '9e99'::float8::int")).toBe('value');
  expect(await fails('SET statement_timeout = 50; SELECT pg_sleep(5)')).toBe('too long');
  expect(await fails('SELECT nothing')).toBe('other');
  expect(await fails('SELECT pg_terminate_backend(pg_backend_pid())')).toBe('lost');
  expect(await fails('SELECT 1')).toBe('lost');
});
