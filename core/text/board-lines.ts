import type { FormulaEngine } from '@sorvik/formula/engine';
import { type Board, datasetOf } from '../board/board';
import type { Moment } from '../board/moment';
import type { DatasetInfo } from '../data/dataset';
import { positionsOfMoment } from '../levers/moment-positions';
import { positionText } from '../levers/position-text';
import { kindOf } from '../levers/registry';
import { tell } from '../messages/desk';
import { english } from '../messages/locale';
import { colourName } from '../words/colour-name';
import { keyText } from '../words/key-text';
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
      return tell('line.stands', {
        lever: lever.name,
        position: positionText(lever, held[lever.id], undefined, words),
      });
    });
  return texts.join(', ') || tell('line.asItStarts');
}

/** All that a board says, line by line, for telling two states of it apart. */
export function boardLines(
  board: Board,
  datasets: readonly DatasetInfo[],
  engine: FormulaEngine | null,
): string[] {
  return [
    tell('line.title', { title: board.title }),
    ...(board.subtitle ? [tell('line.subtitle', { text: board.subtitle })] : []),
    ...(board.locale ? [tell('line.language', { language: board.locale })] : []),
    ...(board.ground ? [tell('line.theme', { theme: board.ground })] : []),
    ...board.levers.map((lever) => {
      const kind = kindOf(lever);
      return tell('line.lever', {
        lever: lever.name,
        kind: kind.noun,
        start: kind.summary(lever, kind.start(lever, undefined), undefined, english),
        clearing: clearingText(lever.clearing),
      });
    }),
    ...(board.notes ?? []).map(({ text }) =>
      tell('line.note', { text: text.replace(/\s+/g, ' ').slice(0, 200) }),
    ),
    ...(board.moments ?? []).map((moment) =>
      tell('line.moment', {
        moment: moment.caption,
        stands: momentText(board, moment, datasets, engine),
      }),
    ),
    ...(board.events ?? []).map(({ name, date, colour }) =>
      tell('line.event', {
        event: name,
        date: keyText(date, english, 'date'),
        coloured: colour ? 'yes' : 'no',
        colour: colour ? colourName(colour, english) : '',
      }),
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
        tell('line.chart', { chart: title }),
        ...chartSentences(chart, board, words).map((sentence) =>
          tell('line.sentence', {
            chart: title,
            off: sentence.off ? 'yes' : 'no',
            sentence: sentenceText(sentence),
          }),
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
