import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readKey, readPartial } from '../cubes/read-question';
import { aggregateSql } from './aggregate-sql';
import { arrowStream, coded, cubeBatch } from './arrow';

const sent = (
  rows: unknown[][],
  request: Parameters<typeof cubeBatch>[1],
  types: Parameters<typeof cubeBatch>[2],
) => {
  const keys = request.keys.length;
  const columns = {
    length: rows.length,
    keys: request.keys.map((_, k) => coded(rows.map((row) => row[k]))),
    partials: request.partials.map((_, p) =>
      Float64Array.from(rows, (row) => (row[keys + p] as number | null) ?? Number.NaN),
    ),
  };
  return cubeFromArrow(arrowStream(cubeBatch(columns, request, types)));
};

const fields = {
  fields: [
    { key: 'quay', name: 'Quay', type: 'text' as const },
    { key: 'open', name: 'Open', type: 'boolean' as const },
    { key: 'berth', name: 'Berth', type: 'integer' as const },
    { key: 'day', name: 'Day', type: 'date' as const },
  ],
};

describe('a cube on its way', () => {
  it('arrives as it was sent', () => {
    const row = fc.tuple(
      fc.option(fc.string()),
      fc.option(fc.boolean()),
      fc.option(fc.integer()),
      fc.option(fc.double({ noNaN: true })),
    );
    fc.assert(
      fc.property(fc.array(row, { maxLength: 40 }), (rows) => {
        const request = {
          keys: [{ field: 'quay' }, { field: 'open' }, { field: 'berth' }],
          partials: [{ aggregate: 'sum' as const, field: 'berth' }],
        };
        const cube = sent(rows, request, ['text', 'boolean', 'integer']);
        expect(cube.cells).toBe(rows.length);
        cube.dimensions.forEach((dimension, d) => {
          const values = Array.from(dimension.codes, (code) => (code < 0 ? null : dimension.values[code]));
          expect(values).toEqual(rows.map((each) => each[d]));
        });
        const sums = Array.from(cube.partials[0]!.values, (value) => (Number.isNaN(value) ? null : value));
        expect(sums).toEqual(rows.map((each) => each[3]));
      }),
    );
  });

  it('keeps its names', () => {
    const request = {
      keys: [{ field: 'day', grain: 'month' as const }],
      partials: [{ aggregate: 'count' as const }, { aggregate: 'first' as const }],
    };
    const cube = sent([['2021-03-01', 4, 12]], request, ['date']);
    expect(cube.dimensions[0]).toMatchObject({ field: 'day', grain: 'month', values: ['2021-03-01'] });
    expect(cube.partials.map(({ aggregate, field }) => [aggregate, field])).toEqual([
      ['count', undefined],
      ['first', undefined],
    ]);
  });
});

describe('the question to the database', () => {
  it('is made of known names only', () => {
    const request = {
      keys: [readKey('quay', fields), readKey('day.quarter', fields)],
      partials: [
        readPartial('sum.berth', fields),
        readPartial('count', fields),
        readPartial(`["max",null,"berth * 2","quay = 'x''; DROP'"]`, fields),
      ],
    };
    const dialect = {
      firstDayOf: (grain: string, day: string) => `first(${grain}, ${day})`,
      isOneOf: () => '',
      place: '0',
      isWithin: () => '',
    };
    expect(
      aggregateSql({ ...request, kept: [], limit: 99 }, () => 'data.d_7', fields.fields, dialect),
    ).toEqual({
      text: `SELECT "quay" AS k0, first(quarter, "day") AS k1, (sum("berth"))::float8 AS a0, (count(*))::float8 AS a1, (max((("berth"::double precision) * ($1::double precision))) FILTER (WHERE (("quay") COLLATE "C" = ($2::text))))::float8 AS a2 FROM data.d_7 GROUP BY 1, 2 LIMIT 100`,
      values: [2, "x'; DROP"],
    });
  });
  it('takes nothing else for a name', () => {
    const hostile = fc.oneof(
      fc.string(),
      fc.constantFrom(
        'quay"; DROP TABLE x',
        'quay.month',
        'day.hour',
        '__proto__',
        'constructor',
        "day.year'",
      ),
    );
    fc.assert(
      fc.property(hostile, (text) => {
        let key: ReturnType<typeof readKey> | undefined;
        try {
          key = readKey(text, fields);
        } catch {}
        if (key) expect(fields.fields.map((field) => field.key)).toContain(key.field);
      }),
    );
  });
});
