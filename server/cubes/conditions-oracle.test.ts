import { type ConditionContext, verdicts } from '@sorvik/core/conditions/condition-kind';
import { shareOfRange } from '@sorvik/core/conditions/figures';
import { allPlaces, rank } from '@sorvik/core/conditions/rank';
import { readingFigure } from '@sorvik/core/conditions/reading-figure';
import { position } from '@sorvik/core/conditions/threshold';
import { plainReadings, startsOf } from '@sorvik/core/data/readings';
import { fullEngine } from '@sorvik/formula/full-engine';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
beforeAll(async () => {
  t = await testApp();
});
afterAll(() => t.close());

const figures = fc.array(
  fc.option(
    fc.integer({ min: -50, max: 50 }).map((n) => n / 4),
    { freq: 6 },
  ),
  {
    minLength: 1,
    maxLength: 25,
  },
);
const contextOf = (values: (number | null)[]): ConditionContext => ({
  engine: fullEngine,
  readings: plainReadings(
    values.map(String),
    Float64Array.from(values, (value) => value ?? Number.NaN),
  ),
  by: { field: 'f' },
  lever: () => undefined,
  positionOf: () => undefined,
  today: '2024-12-31',
});
const is = (verdict: Uint8Array) => [...verdict].map((each) => each === verdicts.yes);

it('ranks are those of rank() OVER (ORDER BY ..), either way round', async () => {
  await fc.assert(
    fc.asyncProperty(figures, fc.integer({ min: 0, max: 9 }), fc.boolean(), async (values, count, high) => {
      const { rows } = await t.database.pool.query(
        `SELECT CASE WHEN v IS NOT NULL THEN rank() OVER (ORDER BY v ${high ? 'DESC' : 'ASC'} NULLS LAST) END::int AS place
         FROM unnest($1::float8[]) WITH ORDINALITY AS given(v, at) ORDER BY at`,
        [values],
      );
      const places = rows.map((row) => row.place as number | null);
      const context = contextOf(values);
      const own = allPlaces(context.readings.value, high ? 1 : -1);
      expect([...own].map((place) => (Number.isNaN(place) ? null : place))).toEqual(places);
      const { verdict } = rank.evaluate(
        { kind: 'rank', count, side: high ? 'highest' : 'lowest', ties: 'share' },
        context,
      );
      expect(is(verdict)).toEqual(places.map((place) => place !== null && place <= count));
    }),
    { numRuns: 150 },
  );
});

it('shares of the range are those of min() OVER () and max() OVER ()', async () => {
  await fc.assert(
    fc.asyncProperty(figures, fc.integer({ min: 0, max: 16 }), async (values, sixteenths) => {
      const share = sixteenths / 16;
      const { rows } = await t.database.pool.query(
        `SELECT coalesce(max(v) OVER () > min(v) OVER ()
                 AND v >= min(v) OVER () + $2::float8 * (max(v) OVER () - min(v) OVER ()), false) AS lit
         FROM unnest($1::float8[]) WITH ORDINALITY AS given(v, at) ORDER BY at`,
        [values, share],
      );
      const { verdict } = position.evaluate(
        { kind: 'position', is: 'at or above', limit: share },
        contextOf(values),
      );
      expect(is(verdict)).toEqual(rows.map((row) => row.lit));
    }),
    { numRuns: 150 },
  );
});

it('mean, median and percentiles are those of avg() and percentile_cont()', async () => {
  await fc.assert(
    fc.asyncProperty(figures, fc.integer({ min: 0, max: 100 }), async (values, percent) => {
      const { rows } = await t.database.pool.query(
        `SELECT avg(v) AS mean, percentile_cont(0.5) WITHIN GROUP (ORDER BY v) AS median,
                percentile_cont($2::float8) WITHIN GROUP (ORDER BY v) AS percentile
         FROM unnest($1::float8[]) AS given(v)`,
        [values, percent / 100],
      );
      const { readings } = contextOf(values);
      for (const [name, figure] of [
        ['mean', readingFigure({ of: 'mean' }, readings)],
        ['median', readingFigure({ of: 'median' }, readings)],
        ['percentile', readingFigure({ of: 'percentile', percent }, readings)],
      ] as const) {
        const expected = rows[0][name] as number | null;
        if (expected === null) expect(figure).toBeNaN();
        else expect(figure).toBeCloseTo(expected, 9);
      }
      expect(shareOfRange(0.5, contextOf([7, 7]).readings)).toBeNaN();
    }),
    { numRuns: 150 },
  );
});

it('ranks within series and within categories are those of rank() OVER (PARTITION BY ..)', async () => {
  const cell = fc.record({
    series: fc.integer({ min: 0, max: 3 }),
    place: fc.integer({ min: 0, max: 3 }),
    value: fc.option(fc.integer({ min: -3, max: 3 }), { freq: 6 }),
  });
  const cells = fc.uniqueArray(cell, { selector: ({ series, place }) => `${series} ${place}`, minLength: 1 });
  await fc.assert(
    fc.asyncProperty(
      cells,
      fc.integer({ min: 0, max: 3 }),
      fc.constantFrom('series', 'category'),
      async (list, count, within) => {
        const sorted = [...list].sort((a, b) => a.series - b.series || a.place - b.place);
        const { rows } = await t.database.pool.query(
          `SELECT v IS NOT NULL AND rank() OVER (PARTITION BY ${within === 'series' ? 's' : 'p'} ORDER BY v DESC NULLS LAST) <= $4::int AS lit
           FROM unnest($1::int[], $2::int[], $3::float8[]) WITH ORDINALITY AS given(s, p, v, at) ORDER BY at`,
          [sorted.map((c) => c.series), sorted.map((c) => c.place), sorted.map((c) => c.value), count],
        );
        const seriesOf = Int32Array.from(sorted, ({ series }) => series);
        const readings = {
          ...contextOf(sorted.map(({ value }) => value)).readings,
          places: [0, 1, 2, 3],
          place: Int32Array.from(sorted, ({ place }) => place),
          series: ['a', 'b', 'c', 'd'],
          seriesOf,
          starts: startsOf(seriesOf, 4),
        };
        const { verdict } = rank.evaluate(
          { kind: 'rank', count, side: 'highest', ties: 'share', within },
          { ...contextOf([]), readings },
        );
        expect(is(verdict)).toEqual(rows.map((row) => row.lit));
      },
    ),
    { numRuns: 120 },
  );
});
