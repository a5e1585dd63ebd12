import { readdirSync, readFileSync } from 'node:fs';
import { readBoard } from '@sorvik/core/edit/read-board';
import { randomFrom } from '@sorvik/core/testing/cube-of-rows';
import { Ajv2020 } from 'ajv/dist/2020';
import { expect, it } from 'vitest';
import { publishedBoardSchema } from './board-schema';

const folder = new URL('../../demo/boards/', import.meta.url);
const demoBoards = readdirSync(folder).map((name) => JSON.parse(readFileSync(new URL(name, folder), 'utf8')));

const takes = new Ajv2020({ strict: false }).compile(publishedBoardSchema());

/** What is wrong with a whole, and no schema can say. */
const ofTheWhole = /is used twice|there is no lever|cannot stand here|must be an IANA time zone/;

type Way = (string | number)[];
function* waysIn(value: unknown, way: Way = []): Generator<Way> {
  if (way.length) yield way;
  if (typeof value !== 'object' || value === null) return;
  for (const [name, each] of Object.entries(value))
    yield* waysIn(each, [...way, Array.isArray(value) ? Number(name) : name]);
}

const values: unknown[] = [
  null,
  '',
  ' ',
  'x',
  'X!',
  '#zzz',
  '#b84',
  'rgb(1, 2, 3)',
  'ember',
  'formula',
  'count',
  'bars',
  'between',
  'figure',
  'measure',
  'percentile',
  '2024-13-99',
  '2023-02-29',
  '2024-02-29',
  'a'.repeat(70),
  '🚢'.repeat(45),
  0,
  -1,
  1,
  1.5,
  7,
  1e9,
  true,
  [],
  ['x'],
  [null],
  {},
  { lever: 'x' },
  { of: 'median' },
  { of: 'percentile' },
  { text: 'AVG(value)' },
  { aggregate: 'formula' },
  { aggregate: 'sum', field: 'x' },
  { by: 'sign', above: 'kelp', below: '#zzz' },
  { by: 'gradient', above: 'kelp', below: 'ember', measure: { aggregate: 'count' } },
  { from: '2024-01-01', to: '2024-02-30' },
  { from: 1, to: 2 },
];

/** A copy in which one thing is another, is gone, or has something more. */
function changed(board: unknown, random: () => number): { board: unknown; what: string } {
  const copy = structuredClone(board) as Record<string, unknown>;
  const ways = [...waysIn(copy)].filter(([first]) => first !== 'version');
  const way = ways[Math.floor(random() * ways.length)]!;
  const last = way.at(-1)!;
  const owner = way.slice(0, -1).reduce((at, step) => (at as never)[step], copy as unknown) as Record<
    string,
    unknown
  >;
  const how = random();
  const value = values[Math.floor(random() * values.length)];
  if (how < 0.15 && !Array.isArray(owner)) delete owner[last];
  else if (
    how < 0.25 &&
    typeof owner[last] === 'object' &&
    owner[last] !== null &&
    !Array.isArray(owner[last])
  )
    (owner[last] as Record<string, unknown>).extra = value;
  else owner[last] = value;
  return { board: copy, what: `${way.join('/')} = ${JSON.stringify(owner[last]) ?? 'gone'}` };
}

it('takes the same documents as the reader, whatever is changed in a board', () => {
  const random = randomFrom(Number(process.env.SORVIK_SCHEMA_SEED ?? 20_241_231));
  const apart: string[] = [];
  let refused = 0;
  for (let n = 0; n < 1500; n++) {
    const { board, what } = changed(demoBoards[n % demoBoards.length], random);
    const read = readBoard(board);
    const schema = takes(board);
    if (!schema) refused++;
    if (read.ok === schema) continue;
    if (read.ok)
      apart.push(`${what}: only the schema refuses it, ${JSON.stringify(takes.errors?.slice(0, 3))}`);
    else if (!read.problems.every(({ message }) => ofTheWhole.test(message)))
      apart.push(`${what}: only the reader refuses it, ${JSON.stringify(read.problems.slice(0, 3))}`);
  }
  expect(apart).toEqual([]);
  expect(refused).toBeGreaterThan(500);
}, 120_000);
