import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type Colour, isValueColour } from '../board/look';
import { type Measure, measureKey } from '../board/measure';
import { conditionKinds } from '../conditions/registry';
import { type CubeRequest, type PartialAggregate, partialKey } from '../data/cube';
import { type Dimension, dimensionKey, sameDimension } from '../data/dimension';
import type { Kept } from '../data/kept';
import { againstOf, compareOf, furtherMeasures, splitOf } from './chart-rules';
import { measurePartials } from './measure-partials';

const isMeasured = (colour: Colour | undefined): Measure[] =>
  isValueColour(colour) && colour.measure ? [colour.measure] : [];

/**
 * The measures that a chart's marks stand along or are filled up to, or that its lighting cues compare or colour by,
 * besides its own; each once.
 */
export function measuresOf(
  chart: Pick<Chart, 'cues' | 'form' | 'split' | 'against' | 'also' | 'whole'>,
): Measure[] {
  const against = againstOf(chart);
  const named = chart.cues
    .filter((cue) => cue.effect !== 'filter' && !cue.off)
    .flatMap((cue) => [
      ...(conditionKinds.get(cue.condition.kind).measures?.(cue.condition) ?? []),
      ...[cue.look, ...(cue.looks ?? [])].flatMap(({ colour }) => isMeasured(colour)),
    ]);
  if (against) named.push(against);
  if (chart.whole?.of === 'measure' && chart.whole.measure) named.push(chart.whole.measure);
  named.push(...furtherMeasures(chart).map((also) => also.measure));
  return [...new Map(named.map((measure) => [measureKey(measure), measure])).values()];
}

/** The measures of a chart that are formulas. */
export const formulaMeasures = (chart: Chart): Measure[] =>
  [chart.measure, ...measuresOf(chart)].filter(({ aggregate }) => aggregate === 'formula');

/** What the levers of a chart may filter on, wherever they stand. */
export function filterDimensions(chart: Chart, board: Board): Dimension[] {
  return chart.cues.flatMap((cue) => {
    if (cue.effect !== 'filter' || cue.off) return [];
    return conditionKinds.get(cue.condition.kind).filters(cue.condition, (id) => leverOf(board, id)) ?? [];
  });
}

/** What other fields its lighting cues look marks up by. */
export function groupDimensions(chart: Chart, board: Board): Dimension[] {
  return chart.cues.flatMap(({ effect, off, condition }) =>
    effect === 'light' && !off
      ? (conditionKinds.get(condition.kind).groups?.(condition, chart, (id) => leverOf(board, id)) ?? [])
      : [],
  );
}

const keyOf = ({ field, grain }: Dimension): Dimension => ({ field, grain });

/**
 * The cube a chart needs: its categories and whatever its levers may filter on, so that moving them asks nothing of the
 * server. Where figures cannot be added up, or where that would be too large (`perMove`), without what levers filter on:
 * the server is asked for each move.
 */
export function cubeRequest(
  chart: Chart,
  board: Board,
  engine: FormulaEngine | null,
  { perMove = false } = {},
): CubeRequest {
  const partials = [chart.measure, ...measuresOf(chart)].flatMap((measure) =>
    measurePartials(measure, engine),
  );
  if (chart.order.by === 'data' || chart.split?.order?.by === 'data') partials.push({ aggregate: 'first' });
  const dimensions: Dimension[] = [chart.by, ...(chart.split ? [chart.split] : [])];
  if (!partials.some(isAsked)) {
    if (!perMove) dimensions.push(...filterDimensions(chart, board));
    dimensions.push(...groupDimensions(chart, board));
  }
  const keys = [
    ...new Map(dimensions.map((dimension) => [dimensionKey(dimension), keyOf(dimension)])).values(),
  ];
  return { keys, partials: [...new Map(partials.map((partial) => [partialKey(partial), partial])).values()] };
}

const isAsked = ({ aggregate }: PartialAggregate) => aggregate === 'nonAdditive';

/** Whether a chart has figures that cannot be added up, so that each move of a lever that filters asks the database. */
export const asksPerMove = ({ partials }: CubeRequest): boolean => partials.some(isAsked);

/** What is asked for a chart that asks per move; `overall` goes beyond what its window has in view. */
export interface AskedLevel extends CubeRequest {
  overall?: true;
}

/** Over all of a chart's axis: the wholes that its shares are parts of, that it is compared with, or filled up to. */
function overallLevels(chart: Chart, partials: PartialAggregate[]): AskedLevel[] {
  const { by, whole } = chart;
  const split = splitOf(chart);
  const shares = [chart.measure, ...measuresOf(chart)].map(({ share }) => share);
  const sumsUp =
    shares.some((share) => share === 'everything' || share === 'kept' || (share === 'series' && !split)) ||
    compareOf(chart)?.with === 'whole' ||
    whole?.of === 'everything' ||
    whole?.of === 'filters';
  return [
    ...(split && !sameDimension(split, by) && shares.includes('series')
      ? [{ keys: [keyOf(split)], partials, overall: true as const }]
      : []),
    ...(sumsUp ? [{ keys: [], partials, overall: true as const }] : []),
  ];
}

/**
 * What is asked for a chart that asks per move: where figures cannot be added up, each combination of its keys by which
 * it takes them together; of one whose window is asked for, what is to be known besides what is in view.
 */
export function requestLevels({ keys, partials }: CubeRequest, windowed?: Chart): AskedLevel[] {
  if (!partials.some(isAsked))
    return [{ keys, partials }, ...(windowed ? overallLevels(windowed, partials) : [])];
  const single = keys.length > 1 ? keys.map((key) => ({ keys: [key], partials })) : [];
  return [{ keys, partials }, ...single, { keys: [], partials }];
}

/** The keys alone, for asking how large a cube would be. */
export const sizeQuery = ({ keys }: CubeRequest, version: number): string =>
  cubeQuery({ keys, partials: [] }, version);

/** The request as a query string in one fixed spelling: `version=3&key=route&key=date.month&aggregate=sum.passengers`. */
export function cubeQuery(request: CubeRequest, version: number, kept: readonly Kept[] = []): string {
  const query = new URLSearchParams({ version: String(version) });
  for (const key of request.keys) query.append('key', dimensionKey(key));
  for (const partial of request.partials) query.append('aggregate', partialKey(partial));
  for (const each of kept) query.append('keep', JSON.stringify(each));
  return query.toString();
}
