import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { chartOf } from '@sorvik/core/board/board';
import { boardPlaces, itemsOf, laidOut, placeItems } from '@sorvik/core/board/items';
import { movedTo, type Place } from '@sorvik/core/board/layout';
import { chartFromField, withField } from '@sorvik/core/edit/chart-from-field';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { type DragEvent, type KeyboardEvent, type PointerEvent, useState } from 'react';
import { useAppDispatch } from '../app/store';
import { chartChosen, edit } from '../board/board-slice';
import { boardWords } from '../board/board-words';
import { gridStyle } from '../board/grid';
import { ChartFigure } from '../chart/ChartFigure';
import { Guard } from '../ui/Guard';
import { tell } from '../ui/tell';
import { fieldBeingDragged } from './field-drag';
import { GridGrips } from './GridGrips';
import { NoteCell } from './NoteCell';
import { AtChart } from './Others';

interface Props {
  board: Board;
  datasets: readonly DatasetView[];
  inHand: string | undefined;
  reached: readonly string[];
  selected: readonly string[];
  onSelect(selected: string[]): void;
  large: string | null;
  onEnlarge(chart: string | null): void;
}

/** Keys that lead past a chart, and do nothing in it. */
const passing: ReadonlySet<string> = new Set(['Tab', 'Shift', 'Control', 'Alt', 'Meta', 'Escape']);

/** What lies on the board: charts and notes, to be taken in hand, moved, sized, selected, and made of fields. */
export function Charts({ board, datasets, inHand, reached, selected, onSelect, large, onEnlarge }: Props) {
  const dispatch = useAppDispatch();
  const [tried, setTried] = useState<Place[] | null>(null);
  const [over, setOver] = useState<string | null>(null);
  const places = boardPlaces(board);
  const items = itemsOf(board);
  const keepPlaces = (kept: Place[]) =>
    dispatch(edit(tell('bench.charts.theLayout'), (draft) => placeItems(draft, kept)));

  const toggle = (id: string) =>
    onSelect(selected.includes(id) ? selected.filter((each) => each !== id) : [...selected, id]);
  const onPointerDown = (event: PointerEvent, id: string, isChart: boolean) => {
    if (
      event.shiftKey &&
      event.target instanceof Element &&
      !event.target.closest('svg, button, input, textarea')
    ) {
      event.preventDefault();
      const first = selected.length || !inHand || inHand === id ? [] : [inHand];
      onSelect(selected.includes(id) ? selected.filter((each) => each !== id) : [...selected, ...first, id]);
      return;
    }
    if (isChart && id !== inHand) dispatch(chartChosen(id));
  };
  const drop = (event: DragEvent, onto: string | null) => {
    const dragged = fieldBeingDragged(event);
    setOver(null);
    if (!dragged) return;
    event.preventDefault();
    event.stopPropagation();
    const dataset = datasets.find(({ id }) => id === dragged.dataset);
    if (!dataset) return;
    const target = onto === null ? undefined : chartOf(board, onto);
    if (target && target.dataset === dataset.id) {
      dispatch(
        edit(tell('bench.charts.aFieldOnAChart'), (draft) => {
          const at = draft.charts.findIndex(({ id }) => id === target.id);
          draft.charts[at] = withField(draft.charts[at]!, dataset, dragged.field);
        }),
      );
      dispatch(chartChosen(target.id));
      return;
    }
    const made = chartFromField(
      dataset,
      dragged.field,
      board.charts.map(({ id }) => id),
    );
    dispatch(edit(tell('bench.charts.aChart'), (draft) => void draft.charts.push(made)));
    dispatch(chartChosen(made.id));
  };
  const dragOver = (event: DragEvent, onto: string) => {
    if (!fieldBeingDragged(event)) return;
    event.preventDefault();
    event.stopPropagation();
    setOver(onto);
  };
  const onGripKey = (event: KeyboardEvent, id: string) => {
    if (event.key !== ' ' || !event.shiftKey) return;
    event.preventDefault();
    toggle(id);
  };
  return (
    <main
      className={over === 'board' ? 'sv-charts is-over' : 'sv-charts'}
      id="sv-charts"
      tabIndex={-1}
      onDragOver={(event) => dragOver(event, 'board')}
      onDragLeave={() => setOver(null)}
      onDrop={(event) => drop(event, null)}
    >
      <h1 className="visually-hidden">{board.title}</h1>
      {laidOut(board, tried ?? places).map(({ item, place, index }) => {
        const isChart = 'chart' in item;
        const name = isChart
          ? chartTitle(item.chart, boardWords(board, undefined))
          : tell('bench.charts.theNote');
        const classes = [
          'sv-cell',
          item.id === inHand && 'is-in-hand',
          reached.includes(item.id) && 'is-reached',
          selected.includes(item.id) && 'is-selected',
          item.id === large && 'is-large',
          item.id === over && 'is-over',
          !isChart && 'is-note',
        ];
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: taking in hand follows whatever is done inside
          <div
            key={item.id}
            style={gridStyle(place)}
            data-part="cell"
            className={classes.filter(Boolean).join(' ')}
            onPointerDownCapture={(event) => onPointerDown(event, item.id, isChart)}
            // Passing by with Tab selects nothing: the sentences stay those of the chart that is worked on.
            onKeyDownCapture={(event) =>
              isChart && item.id !== inHand && !passing.has(event.key) && dispatch(chartChosen(item.id))
            }
            onKeyDown={(event) => onGripKey(event, item.id)}
            {...(isChart
              ? {
                  onDragOver: (event: DragEvent) => dragOver(event, item.id),
                  onDrop: (event: DragEvent) => drop(event, item.id),
                }
              : {})}
          >
            {isChart && (
              <button
                type="button"
                className="visually-hidden-focusable sv-to-sentences"
                onClick={() => {
                  dispatch(chartChosen(item.id));
                  // Once they are the ones of this chart.
                  requestAnimationFrame(() => document.getElementById('sv-sentences')?.focus());
                }}
              >
                {tell('bench.charts.toTheSentencesOfName', { name })}
              </button>
            )}
            {isChart && <AtChart chart={item.id} />}
            {isChart ? (
              <Guard what={tell('bench.charts.thisChart')}>
                <ChartFigure
                  board={board}
                  chart={item.chart}
                  large={item.id === large}
                  onEnlarge={onEnlarge}
                />
              </Guard>
            ) : (
              <NoteCell board={board} note={item.note} />
            )}
            {item.id !== large && (
              <GridGrips
                name={name}
                place={place}
                onTry={(to) => setTried(to && movedTo(places, index, to, items[index]!.least))}
                onKeep={(to) => keepPlaces(movedTo(places, index, to, items[index]!.least))}
              />
            )}
          </div>
        );
      })}
      {!items.length && <p className="sv-none">{tell('bench.charts.thisBoardIsEmptyClick')}</p>}
    </main>
  );
}
