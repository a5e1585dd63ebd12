import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board } from '../board/board';
import type { DatasetInfo } from '../data/dataset';
import { kindOf } from '../levers/registry';
import { chartTitle } from '../words/measure-text';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { chartSentences } from './chart-sentences';

/** All that a board says, line by line, for telling two states of it apart. */
export function boardLines(
  board: Board,
  datasets: readonly DatasetInfo[],
  engine: FormulaEngine | null,
): string[] {
  return [
    `Title: ${board.title}`,
    ...(board.subtitle ? [`Under it: ${board.subtitle}`] : []),
    ...(board.ground ? [`Theme for viewers: ${board.ground}`] : []),
    ...board.levers.map(
      (lever) =>
        `Lever ${lever.name}: ${kindOf(lever).noun}, starts with ${kindOf(lever).summary(lever, kindOf(lever).start(lever, undefined), undefined)}, clearing ${lever.clearing}`,
    ),
    ...(board.notes ?? []).map(({ text }) => `Note: ${text.replace(/\s+/g, ' ').slice(0, 200)}`),
    ...(board.moments ?? []).map(
      ({ caption, at }) =>
        `Moment ${caption}: ${new URLSearchParams(Object.entries(at).flatMap(([lever, texts]) => texts.map((text) => [lever, text])))}`,
    ),
    ...(board.events ?? []).map(
      ({ name, date, colour }) => `Event ${name}: ${date}${colour ? `, in ${colour}` : ''}`,
    ),
    ...board.charts.flatMap((chart) => {
      const words = vocabularyOf(
        board,
        datasets.find(({ id }) => id === chart.dataset),
        engine,
      );
      const title = chartTitle(chart, words);
      return [
        `Chart ${title}`,
        ...chartSentences(chart, board, words).map(
          (sentence) => `${title}: ${sentence.off ? 'switched off: ' : ''}${sentenceText(sentence)}`,
        ),
      ];
    }),
  ];
}

/** What one state of a board says and another one does not. */
export const linesOnlyIn = (lines: readonly string[], others: readonly string[]): string[] => {
  const known = new Set(others);
  return lines.filter((line) => !known.has(line));
};
