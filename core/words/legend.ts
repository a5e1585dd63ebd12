import type { Chart } from '../board/chart';
import type { Look } from '../board/look';
import type { LeverContext } from '../conditions/condition-kind';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Readings } from '../cube/readings';
import {
  type CueEvaluation,
  type Emphasis,
  type MarkState,
  markStates,
  stateCode,
} from '../emphasis/emphasise';
import { showsSeriesColours } from '../looks/series-looks';
import type { Vocabulary } from './vocabulary';

/** What one look on a chart means, in words. */
export interface LegendEntry {
  text: string;
  state: MarkState;
  look?: Look;
  /** The series it stands for, by its index. */
  series?: number;
}

/** More series than this are told apart by pointing at them, not by a list. */
const mostListed = 12;

/** The sides or stretches that some reading in view is lit on. */
function variantsLit({ evaluation }: CueEvaluation): Set<number> {
  const { verdict, variant } = evaluation;
  const lit = new Set<number>();
  for (let i = 0; i < verdict.length; i++) if (verdict[i] === verdicts.yes) lit.add(variant?.[i] ?? 0);
  return lit;
}

function cueEntries(evaluated: CueEvaluation, context: LeverContext, words: Vocabulary): LegendEntry[] {
  const { cue, evaluation, standsIn } = evaluated;
  const texts = conditionKinds.get(cue.condition.kind).legend(cue.condition, context, words);
  const lit = evaluation.variant ? variantsLit(evaluated) : new Set([0]);
  return texts.flatMap((text, variant): LegendEntry[] =>
    lit.has(variant)
      ? [
          {
            text: standsIn ? 'what stands in' : text,
            state: 'lit',
            look: { ...cue.look, ...cue.looks?.[variant] },
          },
        ]
      : [],
  );
}

/** What the looks on a chart mean: its series while they have colours of their own, what is lit, and the rest. */
export function legendOf(
  chart: Chart,
  readings: Readings,
  emphasis: Emphasis,
  context: LeverContext,
  words: Vocabulary,
  seriesNames: readonly string[],
  seriesLook: (series: number) => Look,
): LegendEntry[] {
  const listed = chart.split && readings.series.length <= mostListed;
  const entries: LegendEntry[] =
    listed && showsSeriesColours(chart.split)
      ? readings.series.map((_, series) => ({
          text: seriesNames[series]!,
          state: emphasis.active ? markStates[emphasis.rest]! : 'plain',
          look: seriesLook(series),
          series,
        }))
      : [];
  if (!emphasis.active) return entries;
  for (const evaluated of emphasis.evaluations)
    if (evaluated.evaluation.active) entries.push(...cueEntries(evaluated, context, words));
  if (emphasis.rest === stateCode.muted && emphasis.litCount < readings.length)
    entries.push({ text: 'the rest', state: 'muted' });
  return entries;
}
