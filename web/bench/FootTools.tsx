import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { idFrom } from '@sorvik/core/board/id';
import { itemsOf } from '@sorvik/core/board/items';
import { chartFromField } from '@sorvik/core/edit/chart-from-field';
import { Link } from 'react-router';
import { useAppDispatch } from '../app/store';
import { chartChosen, edit } from '../board/board-slice';
import { tell } from '../ui/tell';
import { dragEnded, dragField } from './field-drag';

interface Props {
  board: Board;
  dataset: DatasetView | undefined;
  onAddChart(): void;
}

/** What is put on the board: charts, notes, and the fields of the dataset in hand. */
export function FootTools({ board, dataset, onAddChart }: Props) {
  const dispatch = useAppDispatch();
  const addNote = () =>
    dispatch(
      edit(tell('bench.footTools.aNote'), (draft) => {
        draft.notes = [
          ...(draft.notes ?? []),
          {
            id: idFrom(
              'note',
              itemsOf(draft).map(({ id }) => id),
            ),
            text: '',
          },
        ];
      }),
    );
  const addFrom = (field: string) => {
    const made = chartFromField(
      dataset!,
      field,
      board.charts.map(({ id }) => id),
    );
    dispatch(edit(tell('bench.footTools.aChart'), (draft) => void draft.charts.push(made)));
    dispatch(chartChosen(made.id));
  };
  return (
    <aside className="sv-foot-tools" aria-label={tell('bench.footTools.chartsNotesAndFieldsTo')}>
      <div className="sv-row">
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          disabled={!dataset}
          onClick={onAddChart}
        >
          {tell('bench.footTools.chart')}
        </button>
        <button type="button" className="btn btn-sm btn-outline-secondary" onClick={addNote}>
          {tell('bench.footTools.note')}
        </button>
      </div>
      {dataset && (
        <>
          <Link to={`/datasets/${dataset.id}`}>{dataset.name}</Link>
          <div
            className="sv-chips"
            role="group"
            aria-label={tell('bench.footTools.fieldsOfDataset', { dataset: dataset.name })}
          >
            {dataset.fields.map(({ key, name }) => (
              <button
                key={key}
                type="button"
                draggable
                title={tell('bench.footTools.clickToMakeAChart')}
                onDragStart={(event) => dragField(event, { dataset: dataset.id, field: key })}
                onDragEnd={dragEnded}
                onClick={() => addFrom(key)}
              >
                {name}
              </button>
            ))}
          </div>
        </>
      )}
    </aside>
  );
}
