import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import { type Colour, type Look, seriesColour } from '../board/look';
import { formatOf } from '../board/measure';
import type { LegendContext } from '../conditions/condition-kind';
import { verdicts } from '../conditions/condition-kind';
import { conditionKinds } from '../conditions/registry';
import type { Readings } from '../data/readings';
import type { LeverContext } from '../levers/lever-kind';
import { say } from '../messages/say';
import { colouredBy, shownMeasures } from '../pipeline/chart-rules';
import {
  type CueEvaluation,
  type Emphasis,
  type MarkState,
  markStates,
  stateCode,
} from '../pipeline/emphasise';
import { showsSeriesColours } from '../pipeline/series-looks';
import { figureWriter } from '../words/figure-writer';
import type { Vocabulary } from '../words/vocabulary';

/** What one look on a chart means, in words. */
export interface LegendEntry {
  text: string;
  state: MarkState;
  look?: Look;
  /** The series it stands for, by its index. */
  series?: number;
  /** For a look that follows the series: the colours of those that are lit. */
  colours?: Colour[];
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

/** The series of which something is lit in their own colour. */
function seriesLit(
  { seriesOf }: Readings,
  { look, looks }: Emphasis,
  seriesLook: (series: number) => Look,
): Set<number> {
  const lit = new Set<number>();
  for (let i = 0; i < look.length; i++) {
    const series = seriesOf[i]!;
    if (look[i]! < 0 || lit.has(series)) continue;
    const { colour } = looks[look[i]!]!;
    if (!colour || colour === seriesLook(series).colour) lit.add(series);
  }
  return lit;
}
const coloursOf = (series: readonly number[], seriesLook: (series: number) => Look): Colour[] => [
  ...new Set(series.slice(0, 4).flatMap((each) => seriesLook(each).colour ?? [])),
];

function cueEntries(evaluated: CueEvaluation, context: LegendContext, words: Vocabulary): LegendEntry[] {
  const { cue, evaluation, standsIn } = evaluated;
  const texts = conditionKinds.get(cue.condition.kind).legend(cue.condition, context, words);
  const lit = evaluation.variant ? variantsLit(evaluated) : new Set([0]);
  return texts.flatMap((text, variant): LegendEntry[] =>
    lit.has(variant)
      ? [
          {
            text: standsIn ? say(words.locale, 'legend.default') : text,
            state: 'lit',
            look: { ...cue.look, ...cue.looks?.[variant] },
          },
        ]
      : [],
  );
}

const readsFocus = ({ condition }: Cue) =>
  conditionKinds.get(condition.kind).readsFocus?.(condition) ?? false;

const paintOf = ({ look, colours }: LegendEntry) => JSON.stringify(colours ?? [look?.colour]);

/** Each look once: what two sentences light alike, or what a sentence says of a series that is listed, is not said again. */
function eachOnce(entries: readonly LegendEntry[]): LegendEntry[] {
  const names = (of: LegendEntry, entry: LegendEntry) =>
    entry !== of &&
    entry.series === undefined &&
    paintOf(entry) === paintOf(of) &&
    entry.text.toLowerCase().includes(of.text.toLowerCase());
  return entries.filter((entry, i) => {
    if (entry.series !== undefined)
      return !entries.some((other) => names(entry, other) && other.text.length > entry.text.length);
    const before = entries.slice(0, i);
    return !before.some(
      (other) =>
        other.text === entry.text &&
        other.state === entry.state &&
        (other.series !== undefined || paintOf(other) === paintOf(entry)),
    );
  });
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
  /** Whether the names of series stand on the plot, and whether nothing can be pointed at. */
  { named, still }: { named: boolean; still: boolean },
): LegendEntry[] {
  const split = colouredBy(chart);
  const listed = !named && split && readings.series.length <= mostListed;
  const lit = seriesLit(readings, emphasis, seriesLook);
  const entries: LegendEntry[] =
    listed && showsSeriesColours(split)
      ? readings.series.map((_, series) => ({
          text: seriesNames[series]!,
          state: !emphasis.active ? 'plain' : lit.has(series) ? 'lit' : markStates[emphasis.rest]!,
          look: seriesLook(series),
          series,
        }))
      : [];
  const written: LegendContext = {
    ...context,
    chart: shownMeasures(chart),
    figure(value, measure = chart.measure, set = false) {
      const writer = figureWriter(formatOf(measure), words.locale);
      return set ? writer.asSet(value) : writer.full(value);
    },
  };
  // What passes with the pointer is explained all the time: the plot must not move under it.
  const passes = (cue: Cue) => !still && readsFocus(cue);
  const passing = emphasis.evaluations.some(({ cue }) => passes(cue));
  if (!emphasis.active && !passing) return entries;
  for (const evaluated of emphasis.evaluations)
    if (evaluated.evaluation.active || passes(evaluated.cue))
      for (const entry of cueEntries(evaluated, written, words)) {
        const own = showsSeriesColours(split) && !entry.look?.colour;
        const bySeries = own || entry.look?.colour === seriesColour;
        entries.push(bySeries ? { ...entry, colours: coloursOf([...lit], seriesLook) } : entry);
      }
  const rest = emphasis.rest !== stateCode.gone && chart.otherwise?.marks !== 'gone';
  const told = eachOnce(entries);
  // Series that are listed muted are the rest.
  const listedMuted = told.some(({ series, state }) => series !== undefined && state === 'muted');
  if (rest && !listedMuted && (passing || emphasis.litCount < readings.length))
    told.push({ text: say(words.locale, 'legend.rest'), state: 'muted' });
  return told;
}
