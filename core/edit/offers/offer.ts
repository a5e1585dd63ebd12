import type { Board } from '../../board/board';
import type { Chart } from '../../board/chart';
import type { Measure } from '../../board/measure';
import type { Condition } from '../../conditions/registry';
import type { DatasetInfo } from '../../data/dataset';
import type { Guide } from '../../guides/registry';
import { rehearsedMeasure } from '../../pipeline/chart-rules';
import type { Vocabulary } from '../../words/vocabulary';

/** What sentences are about: the parts of a guide to them. */
export type OfferSubject = 'shows' | 'lights' | 'leaves out' | 'draws' | 'compares' | 'reads';

/** A sentence that would make sense on a chart, and what accepting it does to a draft of the board. */
export interface Offer {
  id: string;
  text: string;
  about: OfferSubject;
  /** What it is good for, in a sentence; offers of one sort say the same. */
  use: string;
  /** What it adds that a chart needs but once: it is not offered where one of the kind is there already. */
  once?: { lights: Condition['kind'] } | { keeps: Condition['kind'] } | { guide: Guide['kind'] };
  accept(draft: Board): void;
}

/** What offers are made from. */
export interface OfferContext {
  chart: Chart;
  board: Board;
  dataset: DatasetInfo;
  words: Vocabulary;
  /** The lowest and highest reading now, by which limits get sensible bounds; left out while not known. */
  range?: { min: number; max: number };
}

/** An offer where it makes sense, and none where it does not. */
export const offeredIf = (sensible: boolean | undefined, offer: Offer): Offer[] => (sensible ? [offer] : []);

/** Sentences of one sort. */
export type OfferMaker = (context: OfferContext) => Offer[];

/** A chart that rehearses a change is about the changed figures: sentences that are added go by those. */
export function byRehearsed(chart: Chart): { measure?: Measure } {
  const measure = rehearsedMeasure(chart);
  return measure ? { measure } : {};
}

export const chartIn = (draft: Board, id: string): Chart => draft.charts.find((chart) => chart.id === id)!;
