import type { Board } from '@sorvik/core/board/board';
import { laidOut } from '@sorvik/core/board/items';
import { heldText, leversHeld } from '@sorvik/core/levers/levers-held';
import { noteText } from '@sorvik/core/text/note-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { fullEngine } from '@sorvik/formula/full-engine';
import type { BoardSheet, SheetCell } from '@sorvik/view/picture/board-sheet';
import { sizedChart, titleOf } from './chart-result';
import type { BoardStanding, DrawnBoard } from './drawn';
import type { Fonts } from './fonts';
import { noteLines } from './note-lines';

const words = ({ board }: BoardStanding) => vocabularyOf(board, undefined, fullEngine);

/** Where the levers stand that viewers see, and the day. */
function footOf(standing: BoardStanding): string {
  const { board, today } = standing;
  const { locale } = words(standing);
  const seen: Board = { ...board, levers: board.levers.filter(({ hidden }) => !hidden) };
  const day = new Intl.DateTimeFormat(locale.tag, { dateStyle: 'long', timeZone: 'UTC' });
  return [...leversHeld(seen, standing, words(standing)), day.format(new Date(today))].join(' · ');
}

/** What lies on a board, as a sheet shows it. */
export function boardSheet(drawn: DrawnBoard, caption: boolean, fonts: Fonts): BoardSheet {
  const { board, width, height } = drawn;
  const held = heldText(board, drawn, words(drawn));
  const cells = laidOut(board).map(({ item, place }): SheetCell => {
    if ('note' in item) return { place, lines: noteLines(noteText(item.note.text, held)) };
    const data = drawn.all.find(({ chart }) => chart === item.id)!;
    if ('problem' in data)
      return {
        place,
        lines: [
          { text: item.chart.title ?? item.id, size: 17, bold: true },
          { text: data.problem, size: 14 },
        ],
      };
    return { place, chart: sizedChart(drawn, data, fonts), words: { title: titleOf(drawn, data), caption } };
  });
  const { title, subtitle = '' } = board;
  return { title, subtitle, foot: footOf(drawn), cells, width, height, measure: fonts.measure };
}
