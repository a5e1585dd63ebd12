import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import { type Colour, isValueColour } from '../board/look';
import { type Measure, measureKey } from '../board/measure';
import { conditionKinds } from '../conditions/registry';
import { type Atom, atomKey, type CubeRequest } from '../data/cube';
import { cutKey, type FieldCut } from '../data/grain';
import type { Kept } from '../data/kept';
import { againstOf, alsoOf } from './chart-rules';
import { measureAtoms } from './measure-atoms';

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
    .filter((cue) => cue.effect === 'light' && !cue.off)
    .flatMap((cue) => [
      ...(conditionKinds.get(cue.condition.kind).measures?.(cue.condition) ?? []),
      ...[cue.look, ...(cue.looks ?? [])].flatMap(({ colour }) => isMeasured(colour)),
    ]);
  if (against) named.push(against);
  if (chart.whole?.of === 'measure' && chart.whole.measure) named.push(chart.whole.measure);
  named.push(...alsoOf(chart).map((also) => also.measure));
  return [...new Map(named.map((measure) => [measureKey(measure), measure])).values()];
}

/** The measures of a chart that are formulas. */
export const formulaMeasures = (chart: Chart): Measure[] =>
  [chart.measure, ...measuresOf(chart)].filter(({ aggregate }) => aggregate === 'formula');

/** What the levers of a chart may filter on, wherever they stand. */
export function filterCuts(chart: Chart, board: Board): FieldCut[] {
  return chart.cues.flatMap((cue) => {
    if (cue.effect !== 'filter' || cue.off) return [];
    return conditionKinds.get(cue.condition.kind).filters(cue.condition, (id) => leverOf(board, id)) ?? [];
  });
}

/**
 * The cube a chart needs: its categories and whatever its levers may filter on, so that moving them asks nothing of the
 * server. Where figures cannot be added up, its categories alone: the server is asked for each move.
 */
export function cubeRequest(chart: Chart, board: Board, engine: FormulaEngine | null): CubeRequest {
  const atoms = [chart.measure, ...measuresOf(chart)].flatMap((measure) => measureAtoms(measure, engine));
  if (chart.order.by === 'data') atoms.push({ aggregate: 'first' });
  const cuts: FieldCut[] = [chart.by, ...(chart.split ? [chart.split] : [])];
  if (!atoms.some(isAsked)) cuts.push(...filterCuts(chart, board));
  const keys = [
    ...new Map(cuts.map((cut) => [cutKey(cut), { field: cut.field, grain: cut.grain }])).values(),
  ];
  return { keys, atoms: [...new Map(atoms.map((atom) => [atomKey(atom), atom])).values()] };
}

const isAsked = ({ aggregate }: Atom) => aggregate === 'asked';

/** Whether a chart has figures that cannot be added up, so that each move of a lever that filters asks the database. */
export const asksPerMove = ({ atoms }: CubeRequest): boolean => atoms.some(isAsked);

/** The request for each combination of its keys by which a chart takes its figures together. */
export function requestLevels({ keys, atoms }: CubeRequest): CubeRequest[] {
  const single = keys.length > 1 ? keys.map((key) => ({ keys: [key], atoms })) : [];
  return [{ keys, atoms }, ...single, { keys: [], atoms }];
}

/** The request as a query string in one fixed spelling: `version=3&key=route&key=date.month&atom=sum.passengers`. */
export function cubeQuery(request: CubeRequest, version: number, kept: readonly Kept[] = []): string {
  const query = new URLSearchParams({ version: String(version) });
  for (const key of request.keys) query.append('key', cutKey(key));
  for (const atom of request.atoms) query.append('atom', atomKey(atom));
  for (const each of kept) query.append('keep', JSON.stringify(each));
  return query.toString();
}
