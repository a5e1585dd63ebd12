import { keepValues } from '@sorvik/core/conditions/keep-values';
import { cubeFromArrow } from '@sorvik/core/data/cube-from-arrow';
import { readingsOf } from '@sorvik/core/pipeline/readings-of';
import type { StartedServer } from './server';
import { median, quantile, rounded } from './statistics';

/** A filter lever's move over a large dataset: the roll-up in the browser's code against the same question to PostgreSQL. */
export async function filterBench(server: StartedServer, dataset: string, rows: number) {
  const { version } = await (await fetch(`${server.url}/api/datasets/${dataset}`)).json();
  const query = `version=${version}&key=route&key=date.year&aggregate=sum.passengers`;
  const response = await fetch(`${server.url}/api/datasets/${dataset}/cube?${query}`);
  const bytes = new Uint8Array(await response.arrayBuffer());
  const cube = cubeFromArrow(bytes);
  const years = cube.dimensions[1]!.values;
  const chart = {
    by: { field: 'route' },
    measure: { aggregate: 'sum', field: 'passengers' },
    order: { by: 'value', direction: 'descending' },
  } as const;

  const moves: number[] = [];
  for (let i = 0; i < 2000; i++) {
    const filter = keepValues({ field: 'date', grain: 'year' }, [years[i % years.length]!]);
    const started = performance.now();
    readingsOf(cube, chart, [filter]);
    moves.push(performance.now() - started);
  }
  const table = await server.tableOf(dataset);
  const asked: number[] = [];
  for (let i = 0; i < 24; i++) {
    const year = years[i % years.length];
    const started = performance.now();
    await server.query(
      `SELECT route, sum(passengers)::float8 AS v FROM ${table} WHERE date_trunc('year', date)::date = ANY ($1::date[]) GROUP BY 1 ORDER BY 2 DESC`,
      [[year]],
    );
    asked.push(performance.now() - started);
  }
  return {
    rows,
    cells: cube.cells,
    cubeKb: rounded(bytes.byteLength / 1000, 1),
    moveMedianMs: rounded(median(moves), 4),
    moveP95Ms: rounded(quantile(moves, 0.95), 4),
    postgresMedianMs: rounded(median(asked)),
    timesFaster: Math.round(median(asked) / median(moves)),
  };
}
