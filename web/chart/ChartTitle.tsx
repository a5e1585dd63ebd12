import { type Board, leverOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { titleParts } from '@sorvik/core/words/title-parts';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { InlineLever } from '../levers/InlineLever';

/** A chart's title, with the levers that it names standing in it. */
export function ChartTitle({ board, chart, words }: { board: Board; chart: Chart; words: Vocabulary }) {
  const parts = titleParts(chart.title?.trim() ?? '');
  if (!parts.some((part) => typeof part !== 'string')) return chartTitle(chart, words);
  return parts.map((part, i) => {
    if (typeof part === 'string') return part;
    const lever = leverOf(board, part.lever);
    // biome-ignore lint/suspicious/noArrayIndexKey: a title's parts have no other name than their place
    return lever ? <InlineLever key={i} lever={lever} /> : `{${part.lever}}`;
  });
}
