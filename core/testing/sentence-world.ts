import { fullEngine } from '@sorvik/formula/full-engine';
import type { Board } from '../board/board';
import { boardVersion } from '../board/board';
import type { Chart } from '../board/chart';
import type { Compare } from '../board/compare';
import type { Cue } from '../board/cue';
import type { FigureFormat } from '../board/figure-format';
import type { Look } from '../board/look';
import type { Measure } from '../board/measure';
import type { Condition } from '../conditions/registry';
import type { DatasetInfo, FieldInfo } from '../data/dataset';
import type { Grain } from '../data/dimension';
import { addDays, periodStart } from '../data/periods';
import type { KeyValue } from '../data/values';
import type { Positions } from '../levers/lever-kind';
import type { Lever } from '../levers/registry';
import { rehearsedMeasure } from '../pipeline/chart-rules';
import { cubeRequest } from '../pipeline/cube-request';
import { cubeOfRows, type TestRow } from './cube-of-rows';

/** A board of one chart over a table, all at random, and where its levers have been moved to. */
export interface World {
  rows: TestRow[];
  dataset: DatasetInfo;
  board: Board;
  chart: Chart;
  positions: Positions;
  cube: ReturnType<typeof cubeOfRows>;
}

const quayNames: KeyValue[] = ['Quel – Ostrin', "O'Harl «x»", '🚢 é', 'Z', 'Tarsk', 'Aa', null];
const fares: KeyValue[] = ['adult', 'child', 'commuter'];
const grains: Grain[] = ['year', 'quarter', 'month', 'week', 'day'];

/** Makes worlds from a source of numbers from 0 up to 1. */
export function worldFrom(random: () => number): World {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const chance = (share: number) => random() < share;
  const int = (from: number, to: number) => from + Math.floor(random() * (to - from + 1));

  const grainOfData = pick(['day', 'day', 'month', 'week'] as const);
  const scale = pick([1, 1, 0.25, 1 / 128, 1000, 123_456]);
  const dayAt = () => {
    const day = addDays('2022-11-20', int(0, pick([20, 200, 700])));
    return grainOfData === 'day' ? day : periodStart(day, grainOfData);
  };
  const quays = quayNames.slice(0, int(1, quayNames.length));
  if (chance(0.5)) quays.push(null);
  const figure = () => (chance(0.1) ? null : int(-20, 60) * scale * (chance(0.2) ? 1 + 1 / 8192 : 1));
  const rows = Array.from({ length: int(1, 45) }, () => ({
    quay: pick(quays),
    fare: pick(fares),
    day: chance(0.04) ? null : dayAt(),
    boats: figure(),
    cost: figure(),
  }));
  const field = (key: 'quay' | 'fare' | 'day' | 'boats' | 'cost', type: FieldInfo['type']): FieldInfo => {
    const known = rows.map((row) => row[key]).filter((value) => value !== null) as (string | number)[];
    const sorted = [...known].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
    const distinct = new Set(known).size;
    return {
      key,
      name: key[0]!.toUpperCase() + key.slice(1),
      type,
      profile: {
        count: known.length,
        distinct,
        missing: rows.length - known.length,
        min: sorted[0] ?? null,
        max: sorted.at(-1) ?? null,
        ...(type === 'date' ? { grain: distinct > 1 ? grainOfDates(known as string[]) : 'day' } : {}),
      },
    };
  };
  const dataset: DatasetInfo = {
    id: 'landings',
    name: 'Landings',
    version: 1,
    rows: rows.length,
    fields: [
      field('quay', 'text'),
      field('fare', 'text'),
      field('day', 'date'),
      field('boats', 'decimal'),
      field('cost', 'decimal'),
    ],
  };

  const format = (): FigureFormat | undefined =>
    pick<FigureFormat | undefined>([
      undefined,
      undefined,
      { as: 'number', decimals: int(0, 3) },
      { as: 'number', unit: '€', unitAt: 'before' },
      { as: 'percent' },
      { as: 'percent', decimals: 1 },
      { as: 'brief', unit: 'pax' },
    ]);
  const formatted = (measure: Measure): Measure => {
    const found = format();
    return found ? { ...measure, format: found } : measure;
  };
  const plainMeasures: Measure[] = [
    { aggregate: 'sum', field: 'boats' },
    { aggregate: 'average', field: 'boats' },
    { aggregate: 'count' },
    { aggregate: 'count', field: 'boats' },
    { aggregate: 'min', field: 'cost' },
    { aggregate: 'max', field: 'boats' },
    { aggregate: 'formula', text: 'SUM(Boats) - SUM(cost)', name: 'margin' },
  ];
  const measure = formatted(pick(plainMeasures));
  const byDay = chance(0.55);
  const by = byDay ? { field: 'day', grain: pick(grains) } : { field: 'quay' };
  const split = chance(0.35) ? { field: 'fare', colours: pick(['own', 'one'] as const) } : undefined;
  const form = pick(['bars', 'columns', 'line', 'area', 'dots', 'table']);
  const shares = chance(0.2) && measure.aggregate !== 'formula';
  if (shares)
    measure.share = pick([
      'everything',
      'kept',
      ...(split ? (['category', 'series'] as const) : []),
    ] as const);

  const span: Lever = {
    kind: 'span',
    id: 'stretch',
    name: 'Stretch',
    dataset: 'landings',
    field: 'day',
    grain: pick(['day', 'day', 'month']),
    start: null,
    presets: [],
    outside: 'nearest',
    clearing: 'empty',
  };
  const levers: Lever[] = [
    {
      kind: 'pick',
      id: 'quays',
      name: 'Quays',
      dataset: 'landings',
      field: 'quay',
      start: [],
      clearing: 'empty',
    },
    {
      kind: 'pick',
      id: 'years',
      name: 'Years',
      dataset: 'landings',
      field: 'day',
      grain: 'year',
      start: [],
      clearing: 'empty',
    },
    {
      kind: 'number',
      id: 'count',
      name: 'Count',
      min: 0,
      max: 50,
      step: 1,
      start: 3,
      outside: 'nearest',
      clearing: 'start',
    },
    {
      kind: 'number',
      id: 'change',
      name: 'Change',
      min: -50,
      max: 50,
      step: 1,
      start: 10,
      outside: 'nearest',
      clearing: 'start',
    },
    {
      kind: 'limits',
      id: 'limits',
      name: 'Limits',
      as: 'value',
      min: -1e9,
      max: 1e9,
      step: 0.001,
      start: { low: 0, high: 1 },
      meeting: 'push',
      outside: 'nearest',
      clearing: 'start',
    },
    span,
    {
      kind: 'choice',
      id: 'against',
      name: 'Compared with',
      dataset: 'landings',
      field: byDay ? 'day' : 'quay',
      ...(byDay ? { grain: by.grain } : {}),
      all: true,
      clearing: 'start',
    },
  ] as Lever[];
  const low = int(-20, 50) * scale;
  const from = dayAt();
  const positions: Record<string, unknown> = {
    count: int(0, 8),
    change: int(-50, 50),
    limits: { low, high: low + int(0, 30) * scale },
    quays: chance(0.3)
      ? []
      : [...new Set([pick(quayNames), pick(quayNames)])].filter((each) => each !== null),
    years: chance(0.5) ? [] : [pick(['2022-01-01', '2023-01-01', '2024-01-01'])],
    stretch: chance(0.2) ? null : { from, to: addDays(from, int(0, 150)) },
    against: chance(0.3) ? null : byDay ? periodStart(dayAt(), by.grain!) : pick(quays),
  };

  const rehearsed: Measure = {
    aggregate: 'formula',
    text: 'SUM(boats) * (1 + :change / 100)',
    name: 'with the change',
  };
  const several = !split && form !== 'dots' && chance(0.25);
  const also = several
    ? [
        {
          measure: formatted(pick([rehearsed, plainMeasures[3]!, plainMeasures[4]!])),
          ...(chance(0.6) ? { base: 'muted' as const } : {}),
        },
      ]
    : undefined;
  const other = () => (chance(0.3) ? { measure: formatted(pick(plainMeasures)) } : {});
  const limitFigure = () =>
    pick([
      low,
      low + 5 * scale,
      { lever: 'limits', part: 'low' as const },
      { of: 'mean' as const },
      { of: 'median' as const },
    ]);
  const condition = (depth = 0): Condition => {
    const is = pick(['at or above', 'above', 'at or below', 'below', 'between', 'outside'] as const);
    const two = is === 'between' || is === 'outside';
    const all: Condition[] = [
      {
        kind: 'rank',
        count: pick([{ lever: 'count' }, int(0, 6)]),
        side: pick(['highest', 'lowest']),
        ties: pick(['share', 'first']),
        ...other(),
        ...(split && chance(0.5) ? { within: pick(['series', 'category', 'chart']) } : {}),
      } as Condition,
      {
        kind: 'threshold',
        is,
        limit: two ? { lever: 'limits', part: 'low' } : limitFigure(),
        ...(two ? { upper: { lever: 'limits', part: 'high' } } : {}),
        ...other(),
      } as Condition,
      { kind: 'position', is, limit: 0.25, ...(two ? { upper: 0.75 } : {}), ...other() } as Condition,
      { kind: 'member', lever: byDay ? 'years' : 'quays' },
      ...(byDay
        ? ([
            { kind: 'span', lever: 'stretch', match: pick(['touching', 'whole', 'starting', 'cut']) },
            { kind: 'latest', of: pick(['data', 'view']) },
            { kind: 'segment', ...(chance(0.5) ? { only: [int(0, 2)] } : {}) },
          ] as Condition[])
        : []),
    ];
    const one = pick(all);
    if (depth > 0 || chance(0.7)) return one;
    if (chance(0.3)) return { kind: 'not', of: condition(1) };
    return { kind: pick(['all', 'any'] as const), of: [condition(1), condition(1)] } as Condition;
  };
  const look = (): Look =>
    pick<Look>([
      { colour: 'ember' },
      { colour: 'kelp', outline: true },
      { weight: 'heavy' },
      { colour: 'tide' },
    ]);
  const cue = (id: string): Cue => ({
    id,
    effect: 'light',
    condition: condition(),
    look: look(),
    resting: pick(['plain', 'muted']),
  });
  const cues: Cue[] = Array.from({ length: int(0, 3) }, (_, i) => cue(`cue${i}`));
  if (chance(0.35))
    cues.push({
      ...cue('keep'),
      effect: 'filter',
      condition: { kind: 'member', lever: pick(['years', 'quays']) },
    });
  if (chance(0.3))
    cues.push({
      ...cue('days'),
      effect: 'filter',
      condition: { kind: 'span', lever: 'stretch', match: 'touching' },
    });
  const compare: Compare | undefined =
    !several && form !== 'dots' && chance(0.25)
      ? {
          with: pick([
            'touched',
            'average',
            'whole',
            ...(byDay ? (['previous', 'year'] as const) : []),
          ] as const),
          as: pick(['difference', 'ratio', 'percent'] as const),
          lever: 'against',
          ...(chance(0.3) ? { missing: 'zero' as const } : {}),
        }
      : undefined;
  if (compare && compare.with !== 'touched') delete compare.lever;
  const chart: Chart = {
    id: 'c',
    form,
    dataset: 'landings',
    by,
    measure,
    ...(split ? { split } : {}),
    ...(also ? { also } : {}),
    ...(compare ? { compare } : {}),
    order: {
      by: byDay ? pick(['key', 'key', 'value']) : pick(['value', 'key', 'data']),
      direction: pick(['ascending', 'descending']),
    },
    subtitle: '{lit} of {all}, {total}',
    cues,
    guides: [],
    touches: [],
  };
  const rehearsal = rehearsedMeasure(chart);
  if (rehearsal && chance(0.5))
    for (const each of chart.cues)
      if (each.condition.kind === 'rank') each.condition = { ...each.condition, measure: rehearsal };
  const board: Board = {
    version: boardVersion,
    title: 'Landings',
    levers,
    charts: [chart],
    events: [
      { id: 's', name: 'the storm', date: '2023-01-20' },
      { id: 'p', name: 'the pier', date: '2023-07-01' },
    ],
  };
  const request = cubeRequest(chart, board, fullEngine);
  return {
    rows,
    dataset,
    board,
    chart,
    positions,
    cube: cubeOfRows(rows, request.keys, request.partials, random),
  };
}

/** The coarsest grain of which all dates are first days. */
function grainOfDates(dates: readonly string[]): Grain {
  return grains.find((grain) => dates.every((date) => periodStart(date, grain) === date)) ?? 'day';
}
