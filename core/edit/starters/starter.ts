import { type Board, boardVersion } from '../../board/board';
import type { Chart } from '../../board/chart';
import type { Measure } from '../../board/measure';
import type { DatasetInfo } from '../../data/dataset';
import type { Lever } from '../../levers/registry';
import { vocabularyOf } from '../../words/vocabulary';
import { type FieldsByRole, measureOf } from '../field-roles';
import { offersFor } from '../offers/offers-for';

/** A board that answers a question about a dataset, ready to be operated. */
export interface Starter {
  id: string;
  question: string;
  /** What a viewer does there, and what happens. */
  says: string;
  board: Board;
}

export interface StarterContext {
  dataset: DatasetInfo;
  fields: FieldsByRole;
}

/** One way to begin: a board where the dataset has what it takes, else null. */
export type StarterMaker = (context: StarterContext) => Starter | null;

/** The first thing that is measured, or how many rows there are. */
export const usualMeasure = ({ fields, dataset }: StarterContext): Measure =>
  fields.measures[0] ? measureOf(fields.measures[0], dataset.rows) : { aggregate: 'count' };

/**
 * A board with one chart, of which some of the sentences that are offered for it are said: levers are made, named and
 * bounded just as when an author takes them. Those that are not offered are left out.
 */
export function boardSaying(
  { dataset }: StarterContext,
  title: string,
  chart: Chart,
  offers: readonly string[],
  finish?: (draft: Board) => void,
): Board {
  const draft: Board = { version: boardVersion, title, levers: [], charts: [chart] };
  for (const id of offers) {
    const [now] = draft.charts;
    const words = vocabularyOf(draft, dataset, null);
    offersFor({ chart: now!, board: structuredClone(draft), dataset, words })
      .find((offer) => offer.id === id)
      ?.accept(draft);
  }
  finish?.(draft);
  return draft;
}

/** The first lever of a kind that a board has been given. */
export const leverOfKind = <K extends Lever['kind']>(
  { levers }: Board,
  kind: K,
): Extract<Lever, { kind: K }> | undefined =>
  levers.find((lever): lever is Extract<Lever, { kind: K }> => lever.kind === kind);
