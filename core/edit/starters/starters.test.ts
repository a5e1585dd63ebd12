import { describe, expect, it } from 'vitest';
import type { DatasetInfo, FieldInfo } from '../../data/dataset';
import type { FieldType } from '../../data/values';
import { roleOf } from '../field-roles';
import { readBoard } from '../read-board';
import { startersFor } from './starters-for';

const field = (
  name: string,
  type: FieldType,
  distinct: number,
  ends: [string | number, string | number] = ['a', 'z'],
): FieldInfo => ({
  key: name.toLowerCase().replaceAll(' ', '_'),
  name,
  type,
  profile: { count: 5000, distinct, missing: 0, min: ends[0], max: ends[1] },
});
const table = (...fields: FieldInfo[]): DatasetInfo => ({
  id: 'd',
  name: 'Table',
  version: 1,
  rows: 5000,
  fields,
});
const day = field('Day', 'date', 2000, ['2019-01-02', '2024-12-30']);
const questions = (dataset: DatasetInfo) => startersFor(dataset).map(({ question }) => question);

describe('what a field is', () => {
  it.each([
    ['Latitude', 'decimal', 4000, -80, 80, 'name'],
    ['Order id', 'integer', 5000, 1, 5000, 'name'],
    ['Zip', 'integer', 900, 1000, 99_999, 'name'],
    ['Year', 'integer', 6, 2019, 2024, 'name'],
    ['Unit price', 'decimal', 900, 0.5, 80, 'level'],
    ['Close', 'decimal', 4000, 100, 900, 'level'],
    ['Load', 'decimal', 4000, 0, 1, 'level'],
    ['Wounds', 'integer', 40, 0, 900, 'amount'],
    ['Sales', 'decimal', 4000, -20, 9000, 'amount'],
  ] as const)('%s is rightly taken', (name, type, distinct, min, max, role) => {
    expect(roleOf(field(name, type, distinct, [min, max]), 5000)).toBe(role);
  });
});

describe('boards to begin with', () => {
  const all = table(
    day,
    field('Desk', 'text', 7),
    field('Area', 'text', 40),
    field('Country', 'text', 220),
    field('Sales', 'decimal', 4000, [0, 900]),
    field('Price', 'decimal', 900, [1, 90]),
    field('Hour', 'integer', 24, [0, 23]),
  );
  it('ask what this table can answer', () => {
    expect(questions(all)).toEqual([
      'Which desk has the most sales?',
      'Sales by day, with limits to move',
      'Sales by month, one year at a time',
      'Sales by desk, one area at a time',
      'One area among 40',
      'The 20 largest of 220 countries',
      'Every desk compared with one',
      'Where is the present hour?',
    ]);
  });
  it('are sound, wired, named and bounded', () => {
    const asFirst = startersFor(all);
    const known = asFirst.flatMap(({ id, withRange }) =>
      withRange ? [{ id: `${id} in figures`, board: withRange({ min: -20, max: 900 }) }] : [],
    );
    expect(known.map(({ board }) => board.levers[0])).toMatchObject([
      { kind: 'limits', as: 'value', min: -100, max: 900 },
    ]);
    for (const { id, board } of [...asFirst, ...known]) {
      const reading = readBoard(JSON.parse(JSON.stringify(board)));
      expect(reading.ok ? [] : reading.problems, id).toEqual([]);
      expect(board.levers.length, id).toBeGreaterThan(0);
      const { cues, compare } = board.charts[0]!;
      expect(board.charts[0]!.id).toBe('chart-1');
      expect(cues.length + Number(compare !== undefined), id).toBeGreaterThan(0);
    }
  });
  it('average levels, and count rows where nothing is measured', () => {
    const prices = table(day, field('Desk', 'text', 7), field('Close', 'decimal', 4000, [100, 900]));
    expect(questions(prices)[0]).toBe('Which desk has the highest close?');
    expect(startersFor(prices)[1]!.board.charts[0]).toMatchObject({
      form: 'line',
      by: { field: 'day', grain: 'day' },
      measure: { aggregate: 'average', field: 'close' },
    });
    const names = table(field('Desk', 'text', 7), field('Latitude', 'decimal', 4000, [-80, 80]));
    expect(questions(names)).toEqual(['Which desk has the most rows?', 'Every desk compared with one']);
    expect(startersFor(names)[0]!.board.charts[0]!.measure).toEqual({ aggregate: 'count' });
  });
  it('let one other field, or else the year, be chosen in the title', () => {
    const titled = (dataset: DatasetInfo) => {
      const found = startersFor(dataset).find(({ id }) => id === 'chosen-in-title');
      return found && { title: found.board.charts[0]!.title, lever: found.board.levers[0] };
    };
    expect(titled(all)).toMatchObject({
      title: 'Sales by desk: {area}',
      lever: { kind: 'choice', start: 'a' },
    });
    const years = table(day, field('Desk', 'text', 7), field('Sales', 'decimal', 4000, [0, 900]));
    expect(titled(years)).toMatchObject({
      title: 'Sales by desk: {day-year}',
      lever: { start: '2024-01-01' },
    });
    expect(titled(table(field('Desk', 'text', 7)))).toBeUndefined();
  });
  it('begin with something lit where that can be said', () => {
    const starts = new Map(
      startersFor(all).flatMap(({ id, board }) =>
        board.levers.map((lever) => [`${id} ${lever.kind}`, 'start' in lever ? lever.start : null]),
      ),
    );
    expect(starts.get('one-year pick')).toEqual(['2024-01-01']);
    expect(starts.get('against-one choice')).toBe('a');
  });
  it('are none where a table has nothing to show, and break on nothing', () => {
    expect(startersFor(table())).toEqual([]);
    expect(startersFor(table(field('Same', 'text', 1)))).toEqual([]);
    expect(startersFor({ ...table(), fields: [{ key: 'a', name: 'a', type: 'date' }] })).toEqual([]);
  });
});
