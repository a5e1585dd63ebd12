import { type Board, boardVersion } from '../../board/board';
import type { Chart } from '../../board/chart';
import type { Measure } from '../../board/measure';
import type { DatasetInfo } from '../../data/dataset';
import type { Lever } from '../../levers/registry';
import { vocabularyOf } from '../../words/vocabulary';
import { type FieldsByRole, measureOf } from '../field-roles';
import type { OfferContext } from '../offers/offer';
import { offersFor } from '../offers/offers-for';

/** A board that answers a question about a dataset, ready to be operated. */
export interface Starter {
  id: string;
  question: string;
  /** What a viewer does there, and what happens. */
  says: string;
  board: Board;
  /** The board as it is once the lowest and the highest reading of its chart are known, where that makes a better one. */
  withRange?(range: ReadingRange): Board;
}

/** The lowest and the highest reading of a chart. */
export type ReadingRange = NonNullable<OfferContext['range']>;

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
  { finish, range }: { finish?(draft: Board): void; range?: ReadingRange } = {},
): Board {
  const draft: Board = { version: boardVersion, title, levers: [], charts: [structuredClone(chart)] };
  for (const id of offers) {
    const [now] = draft.charts;
    const words = vocabularyOf(draft, dataset, null);
    offersFor({
      chart: now!,
      board: structuredClone(draft),
      dataset,
      words,
      ...(range ? { range } : {}),
    })
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

/** The first day of the last year of which data up to a day hold at least half. */
export function lastYear(day: string): string {
  const year = Number(day.slice(0, 4));
  return `${Number(day.slice(5, 7)) < 6 ? year - 1 : year}-01-01`;
}
