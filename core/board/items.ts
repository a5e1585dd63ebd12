import type { Board } from './board';
import type { Chart } from './chart';
import { type Laid, leastSize, type Place, placesOf, readingOrder } from './layout';
import type { Note } from './note';

/** What lies on the grid of a board. */
export type BoardItem = Laid & { id: string } & ({ chart: Chart } | { note: Note });

const leastNote = { width: 2, height: 1 };
const usualNote = { width: 6, height: 1 };

/** The charts of a board, and after them its notes. */
export const itemsOf = ({ charts, notes = [] }: Board): BoardItem[] => [
  ...charts.map(
    (chart): BoardItem => ({
      id: chart.id,
      chart,
      least: leastSize,
      ...(chart.place ? { place: chart.place } : {}),
    }),
  ),
  ...notes.map(
    (note): BoardItem => ({
      id: note.id,
      note,
      least: leastNote,
      usual: usualNote,
      ...(note.place ? { place: note.place } : {}),
    }),
  ),
];

/** Gives what lies on a board's draft its places, in the order of `itemsOf`. */
export function placeItems(draft: Board, places: readonly Place[]): void {
  [...draft.charts, ...(draft.notes ?? [])].forEach((item, i) => {
    item.place = places[i]!;
  });
}

export const boardPlaces = (board: Board): Place[] => placesOf(itemsOf(board));

/** What lies on a board in the order in which it is read, each with its place. */
export function laidOut(
  board: Board,
  places: readonly Place[] = boardPlaces(board),
): { item: BoardItem; place: Place; index: number }[] {
  const items = itemsOf(board);
  return readingOrder(places).map((i) => ({ item: items[i]!, place: places[i]!, index: i }));
}
