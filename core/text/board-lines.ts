import type { FormulaEngine } from '@sorvik/formula/engine';
import { type Board, datasetOf } from '../board/board';
import type { Moment } from '../board/moment';
import type { DatasetInfo } from '../data/dataset';
import { positionsOfMoment } from '../levers/moment-positions';
import { positionText } from '../levers/position-text';
import { kindOf } from '../levers/registry';
import { colourName } from '../words/colour-name';
import { keyText } from '../words/key-text';
import { english } from '../words/locale';
import { chartTitle } from '../words/measure-text';
import { sentenceText } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { chartSentences } from './chart-sentences';
import { clearingText } from './touch-sentence';

/** Where levers stand in a moment: "Count 5, Side lowest". */
function momentText(
  board: Board,
  moment: Moment,
  datasets: readonly DatasetInfo[],
  engine: FormulaEngine | null,
): string {
  const held = positionsOfMoment(board.levers, moment);
  const texts = board.levers
    .filter(({ id }) => id in held)
    .map((lever) => {
      const dataset = datasets.find(({ id }) => id === datasetOf(lever));
      const words = vocabularyOf(board, dataset, engine, english);
      return `${lever.name} ${positionText(lever, held[lever.id], undefined, words)}`;
    });
  return texts.join(', ') || 'as it starts';
}

/** All that a board says, line by line, for telling two states of it apart. */
export function boardLines(
  board: Board,
  datasets: readonly DatasetInfo[],
  engine: FormulaEngine | null,
): string[] {
  return [
    `Title: ${board.title}`,
    ...(board.subtitle ? [`Under it: ${board.subtitle}`] : []),
    ...(board.locale ? [`Language for viewers: ${board.locale}`] : []),
    ...(board.ground ? [`Theme for viewers: ${board.ground}`] : []),
    ...board.levers.map(
      (lever) =>
        `Lever ${lever.name}: ${kindOf(lever).noun}, starts with ${kindOf(lever).summary(lever, kindOf(lever).start(lever, undefined), undefined, english)}, when cleared: ${clearingText(lever.clearing)}`,
    ),
    ...(board.notes ?? []).map(({ text }) => `Note: ${text.replace(/\s+/g, ' ').slice(0, 200)}`),
    ...(board.moments ?? []).map(
      (moment) => `Moment ${moment.caption}: ${momentText(board, moment, datasets, engine)}`,
    ),
    ...(board.events ?? []).map(
      ({ name, date, colour }) =>
        `Event ${name}: ${keyText(date, english, 'date')}${colour ? `, in ${colourName(colour, english)}` : ''}`,
    ),
    ...board.charts.flatMap((chart) => {
      const words = vocabularyOf(
        board,
        datasets.find(({ id }) => id === chart.dataset),
        engine,
        english,
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
