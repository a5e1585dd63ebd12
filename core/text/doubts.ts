import type { Board } from '../board/board';
import { leverOf } from '../board/board';
import type { Chart } from '../board/chart';
import type { Cue } from '../board/cue';
import type { Look } from '../board/look';
import type { Moment } from '../board/moment';
import { differByColourAlone } from '../board/second-sign';
import { conditionKinds } from '../conditions/registry';
import { lastDayOf } from '../data/dataset';
import { periodEnd, periodStart } from '../data/periods';
import { positionsOfMoment } from '../levers/moment-positions';
import type { Facts } from '../levers/settled-positions';
import { settledPosition } from '../levers/settled-positions';
import { tell } from '../messages/desk';
import { english } from '../messages/locale';
import { formulaMeasures } from '../pipeline/cube-request';
import { colourName } from '../words/colour-name';
import { keyText } from '../words/key-text';
import { chartTitle } from '../words/measure-text';
import type { Vocabulary } from '../words/vocabulary';
import { chartSentences } from './chart-sentences';
import { leverReach } from './lever-reach';

/** Something wrong or doubtful on a board, and the way to it. */
export interface Doubt {
  text: string;
  lever?: string;
  chart?: string;
}

/** That the first or the last period of a chart is not all there: it seems low beside the others. */
function partialPeriods({ by }: Chart, words: Vocabulary): string[] {
  const profile = words.field(by.field)?.profile;
  if (!by.grain || by.grain === 'day' || !profile) return [];
  const { grain } = by;
  const [first, last] = [String(profile.min).slice(0, 10), lastDayOf(profile) ?? ''];
  const day = (text: string) => keyText(text, words.locale, 'date');
  return [
    ...(isDay(first!) && periodStart(first!, grain) !== first
      ? [tell('doubt.firstPeriod', { grain, day: day(first!) })]
      : []),
    ...(isDay(last!) && periodEnd(periodStart(last!, grain), grain) !== last
      ? [tell('doubt.lastPeriod', { grain, day: day(last!) })]
      : []),
  ];
}

/** That a measure is a formula without a name, which viewers would read in titles and legends. */
const unnamedFormulas = (chart: Chart): string[] =>
  formulaMeasures(chart)
    .filter(({ name }) => !name?.trim())
    .map(({ text }) => tell('doubt.unnamed', { formula: text! }));

/** The looks of a cue, one for each side; stretches between events are told apart by where they lie as well. */
function looksToTell(cue: Cue): Look[] {
  const placed = conditionKinds.get(cue.condition.kind).sideLooks !== undefined;
  return placed || !cue.looks?.length ? [cue.look] : cue.looks.map((side) => ({ ...cue.look, ...side }));
}

/** That two looks of a chart differ by colour alone, which some people cannot see. */
function coloursAlone({ cues }: Chart): string[] {
  const looks = cues.filter(({ effect, off }) => effect === 'light' && !off).flatMap(looksToTell);
  for (const [i, look] of looks.entries()) {
    const other = looks.slice(i + 1).find((each) => differByColourAlone(look, each));
    if (!other) continue;
    const [one, two] = [look, other].map(({ colour }) => colourName(colour as string, english));
    return [tell('doubt.colourAlone', { one: one!, two: two! })];
  }
  return [];
}

/** What a moment says of levers that have gone, that cannot be read, or that the data no longer have. */
function momentDoubts({ levers }: Board, moment: Moment, facts: Facts): string[] {
  const positions = positionsOfMoment(levers, moment);
  return Object.keys(moment.at).flatMap((id) => {
    const lever = levers.find((each) => each.id === id);
    if (!lever) return tell('doubt.noLever', { lever: id });
    if (!(id in positions)) return tell('doubt.unread', { lever: lever.name });
    return settledPosition(lever, positions, facts).notice?.(english) ?? [];
  });
}

const isDay = (text: string) => /^\d{4}-\d\d-\d\d$/.test(text);

/** Everything on a board that its author should look at. */
export function boardDoubts(board: Board, facts: Facts, wordsOf: (dataset: string) => Vocabulary): Doubt[] {
  const doubts: Doubt[] = [];
  for (const lever of board.levers) {
    const { notice } = settledPosition(lever, {}, facts);
    if (notice)
      doubts.push({
        text: tell('doubt.start', { lever: lever.name, notice: notice(english) }),
        lever: lever.id,
      });
    const does = leverReach(board, lever.id).flatMap((reach) => reach.does);
    if (!does.some((word) => word !== 'fed'))
      doubts.push({
        text: does.length
          ? tell('doubt.fedOnly', { lever: lever.name })
          : tell('doubt.reachesNone', { lever: lever.name }),
        lever: lever.id,
      });
  }
  for (const moment of board.moments ?? [])
    for (const text of momentDoubts(board, moment, facts))
      doubts.push({ text: tell('doubt.of', { name: moment.caption, doubt: text }) });
  for (const chart of board.charts) {
    const words = wordsOf(chart.dataset);
    const name = chartTitle(chart, words, (id) => leverOf(board, id)?.name ?? id);
    for (const { problem } of chartSentences(chart, board, words))
      if (problem) doubts.push({ text: tell('doubt.of', { name, doubt: problem }), chart: chart.id });
    for (const text of [...unnamedFormulas(chart), ...coloursAlone(chart), ...partialPeriods(chart, words)])
      doubts.push({ text: tell('doubt.of', { name, doubt: text }), chart: chart.id });
  }
  return doubts;
}
