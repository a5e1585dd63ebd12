import type { Board } from '@sorvik/core/board/board';
import { idFrom } from '@sorvik/core/board/id';
import { boardPlaces, itemsOf, placeItems } from '@sorvik/core/board/items';
import { type Alignment, alignedTo, alignments } from '@sorvik/core/board/layout';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { tell } from '../ui/tell';

interface Props {
  board: Board;
  selected: readonly string[];
  onSelect(selected: string[]): void;
}

const texts: Record<Alignment, string> = {
  'same size': tell('bench.selectedBar.sameSize'),
  'one column': tell('bench.selectedBar.stackVertically'),
  'one row': tell('bench.selectedBar.placeSideBySide'),
};

/** What can be done with several charts and notes at once. */
export function SelectedBar({ board, selected, onSelect }: Props) {
  const dispatch = useAppDispatch();
  const items = itemsOf(board);
  const which = selected.map((id) => items.findIndex((item) => item.id === id)).filter((at) => at >= 0);
  if (which.length < 2) return null;
  const align = (alignment: Alignment) =>
    dispatch(
      edit(tell('bench.selectedBar.theLayout'), (draft) =>
        placeItems(
          draft,
          alignedTo(boardPlaces(board), which, alignment, (i) => items[i]!.least),
        ),
      ),
    );
  const copy = () =>
    dispatch(
      edit(tell('bench.selectedBar.copiesOfCharts'), (draft) => {
        for (const id of selected) {
          const chart = board.charts.find((each) => each.id === id);
          if (!chart) continue;
          const { place: _place, ...rest } = structuredClone(chart);
          draft.charts.push({
            ...rest,
            id: idFrom(
              id,
              draft.charts.map((each) => each.id),
            ),
          });
        }
      }),
    );
  const remove = () => {
    dispatch(
      edit(tell('bench.selectedBar.chartsRemoved'), (draft) => {
        draft.charts = draft.charts.filter(({ id }) => !selected.includes(id));
        if (draft.notes) draft.notes = draft.notes.filter(({ id }) => !selected.includes(id));
      }),
    );
    onSelect([]);
  };
  return (
    <section className="sv-selected" aria-label={tell('bench.selectedBar.whatIsSelected')}>
      <strong>{tell('bench.selectedBar.whichSelected', { which: which.length })}</strong>
      {alignments.map((alignment) => (
        <button
          key={alignment}
          type="button"
          className="btn btn-sm btn-quiet"
          onClick={() => align(alignment)}
        >
          {texts[alignment]}
        </button>
      ))}
      <button type="button" className="btn btn-sm btn-quiet" onClick={copy}>
        {tell('bench.selectedBar.copy')}
      </button>
      <button type="button" className="btn btn-sm btn-quiet" onClick={remove}>
        {tell('bench.selectedBar.remove')}
      </button>
      <button type="button" className="btn btn-sm btn-quiet" onClick={() => onSelect([])}>
        {tell('bench.selectedBar.clearSelection')}
      </button>
    </section>
  );
}
