import { type Board, boardVersion, datasetOf } from '../board/board';
import type { Chart } from '../board/chart';
import { idFrom } from '../board/id';
import { conditionKinds } from '../conditions/registry';
import { formKinds } from '../forms/registry';
import { guideKinds } from '../guides/registry';
import { type Lever, leverKinds } from '../levers/registry';
import { copyChartTo, leversOf, meaningOf, standIns } from './copy-chart';
import { sayOn } from './say-on';

/** A chart, one of its sentences, or a lever, copied from a board with what it needs there. */
export interface Clipping {
  sorvik: 'chart' | 'sentence' | 'lever';
  levers: Lever[];
  events?: Board['events'];
  chart?: Chart;
  /** Of a sentence, the part of the chart that it speaks of. */
  part?: (string | number)[];
}

/** A chart of which only one part is said. */
function saying(chart: Chart, part: (string | number)[]): Chart {
  const { id, form, dataset, by, measure, order } = chart;
  const alone: Chart = { id, form, dataset, by, measure, order, cues: [], guides: [], touches: [] };
  sayOn(alone, chart, { part });
  return alone;
}

const withEvents = (board: Board) => (board.events?.length ? { events: board.events } : {});

export const clipChart = (board: Board, chart: Chart): Clipping => ({
  sorvik: 'chart',
  chart,
  levers: leversOf(chart, board),
  ...withEvents(board),
});

export function clipSentence(board: Board, chart: Chart, part: (string | number)[]): Clipping {
  const alone = saying(chart, part);
  return { sorvik: 'sentence', chart: alone, part, levers: leversOf(alone, board), ...withEvents(board) };
}

export const clipLever = (lever: Lever): Clipping => ({ sorvik: 'lever', levers: [lever] });

const isList = (value: unknown): value is Record<string, unknown>[] =>
  Array.isArray(value) && value.every((each) => typeof each === 'object' && each !== null);

/** Whether all that is in a clipping is of kinds that there are. */
function isKnown({ chart, levers, sorvik, part }: Clipping): boolean {
  if (!isList(levers) || !levers.every(({ kind, id, name }) => leverKinds.has(kind) && id && name))
    return false;
  if (sorvik === 'lever') return levers.length === 1;
  if (sorvik !== 'chart' && !(sorvik === 'sentence' && Array.isArray(part) && part.length > 0)) return false;
  if (!chart || !formKinds.has(chart.form) || typeof chart.by?.field !== 'string' || !chart.measure)
    return false;
  return (
    isList(chart.cues) &&
    isList(chart.guides) &&
    isList(chart.touches) &&
    chart.cues.every(({ condition }) => conditionKinds.has((condition as { kind?: unknown })?.kind)) &&
    chart.guides.every(({ kind }) => guideKinds.has(kind))
  );
}

/** What a text was copied from, if it was copied here; null for any other text. */
export function clippingIn(text: string): Clipping | null {
  if (!text.startsWith('{"sorvik":')) return null;
  try {
    const clipping = JSON.parse(text) as Clipping;
    return isKnown(clipping) ? clipping : null;
  } catch {
    return null;
  }
}

/** The datasets that a clipping reads. */
export const datasetsRead = ({ chart, levers }: Clipping): string[] => [
  ...new Set([chart?.dataset, ...levers.map(datasetOf)].filter((id) => id !== undefined)),
];

/** Levers that are on the draft already and do the same work under the same name. */
function alreadyThere(draft: Board, levers: readonly Lever[]): Map<string, string> {
  const found = levers.flatMap((lever): [string, string][] => {
    const [first] = standIns(lever, draft);
    return first?.name === lever.name ? [[lever.id, first.id]] : [];
  });
  return new Map(found);
}

/**
 * Puts a clipping on a draft: a chart beside the others, a sentence on the chart in hand, a lever among the levers.
 * Levers that it needs come along, but for those that are there already. Returns the id of what is new, if it has one.
 */
export function pasteClipping(
  draft: Board,
  clipping: Clipping,
  inHand: string | undefined,
): string | undefined {
  const { sorvik, chart, levers, events, part } = clipping;
  if (sorvik === 'lever') {
    const [lever] = levers as [Lever];
    const same = draft.levers.find(
      (each) => meaningOf(each) === meaningOf(lever) && each.name === lever.name,
    );
    const name = same ? `${lever.name} 2` : lever.name;
    const id = idFrom(
      lever.id,
      draft.levers.map((each) => each.id),
    );
    draft.levers.push({ ...structuredClone(lever), id, name });
    return id;
  }
  const from: Board = { version: boardVersion, title: '', levers, charts: [chart!], events: events ?? [] };
  const id = copyChartTo(draft, chart!, from, alreadyThere(draft, levers));
  if (sorvik === 'chart') return id;
  const target = draft.charts.find((each) => each.id === inHand);
  const copied = draft.charts.pop()!;
  if (target) sayOn(target, copied, { part: typeof part![1] === 'number' ? [part![0]!, 0] : part! });
  return undefined;
}
