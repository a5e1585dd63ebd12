import { sortedBySteps, type Workings } from '@sorvik/core/pipeline/workings';
import { workingsCsv } from '@sorvik/core/pipeline/workings-csv';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { noticed } from '../../app/notices-slice';
import { useAppDispatch } from '../../app/store';
import { pointedInWorkings, pressedInChart } from '../../chart/pointed-mark';
import { tell } from '../../ui/tell';

interface Props {
  chart: string;
  workings: Workings;
  /** The same at trial positions: what differs is marked. */
  trial: Workings | null;
  /** What stands beside the choice of rows. */
  children?: ReactNode;
}

const rowHeight = 26;
const shownStates = ['all', 'lit', 'muted', 'null'] as const;

/** Which readings are shown: of a state, or those without a figure. */
function shown(workings: Workings, which: (typeof shownStates)[number], order: Int32Array): Int32Array {
  if (which === 'all') return order;
  const measures = workings.steps.filter(({ id }) => id.startsWith('measure '));
  return order.filter((i) =>
    which === 'null' ? measures.some((step) => step.value(i) === null) : workings.state(i) === which,
  );
}

/** Every step of a chart as a table: sorted by any of them, and pointing at its marks. */
export function WorkingsTable({ chart, workings, trial, children }: Props) {
  const dispatch = useAppDispatch();
  const [sort, setSort] = useState<{ by: string; descending: boolean } | null>(null);
  const [which, setWhich] = useState<(typeof shownStates)[number]>('all');
  const [marked, setMarked] = useState(-1);
  const scroller = useRef<HTMLDivElement>(null);
  // In a trial the rows are its own: the board's stand beside them.
  const of = trial ?? workings;
  const rows = useMemo(
    () => shown(of, which, sortedBySteps(of, sort?.by ?? null, sort?.descending ?? false)),
    [of, which, sort],
  );
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
  });
  const { scrollToIndex } = virtual;
  useEffect(
    () =>
      pressedInChart.listen(chart, (reading) => {
        setMarked(reading);
        const at = rows.indexOf(reading);
        if (at >= 0) scrollToIndex(at, { align: 'center' });
      }),
    [chart, rows, scrollToIndex],
  );
  useEffect(() => () => pointedInWorkings.point(chart, -1), [chart]);

  const point = (reading: number) => {
    setMarked(reading);
    pointedInWorkings.point(chart, reading);
  };
  const copy = async () => {
    await navigator.clipboard.writeText(workingsCsv(of, rows));
    dispatch(noticed({ text: tell('bench.workingsTable.rowsRowsAreCopied', { rows: rows.length }) }));
  };
  const sameRows = trial !== null && trial.length === workings.length;
  const differs = (id: string, i: number) => {
    if (!sameRows) return undefined;
    const [before, now] = [workings, trial].map((each) => each.steps.find((step) => step.id === id)?.text(i));
    return before !== undefined && before !== now ? before : undefined;
  };
  const template = of.steps
    .map(({ numeric, id }) => (numeric ? '132px' : id === 'state' ? '80px' : '190px'))
    .join(' ');
  return (
    <div className="sv-workings">
      <div className="sv-workings-bar">
        <fieldset className="sv-workings-which">
          <legend className="visually-hidden">{tell('bench.workingsTable.rowsShown')}</legend>
          {shownStates.map((each) => (
            <label key={each}>
              <input
                type="radio"
                name="sv-workings-which"
                checked={which === each}
                onChange={() => setWhich(each)}
              />
              {each}
            </label>
          ))}
        </fieldset>
        <span className="sv-quiet">
          {tell('bench.workingsTable.rowsOfOfValues', { rows: rows.length, of: of.length })}
        </span>
        <button type="button" className="btn btn-sm btn-quiet" onClick={() => void copy()}>
          {tell('bench.workingsTable.copyAsCsv')}
        </button>
        {children}
      </div>
      <div
        className="sv-workings-rows"
        ref={scroller}
        role="table"
        aria-label={tell('bench.workingsTable.workings')}
        tabIndex={0}
      >
        <div
          className="sv-workings-row sv-workings-head"
          role="row"
          style={{ gridTemplateColumns: template }}
        >
          {of.steps.map(({ id, heading, note, numeric }) => (
            <span
              key={id}
              role="columnheader"
              className={numeric ? 'is-number' : ''}
              aria-sort={sort?.by === id ? (sort.descending ? 'descending' : 'ascending') : 'none'}
            >
              <button
                type="button"
                title={`${heading}: ${note}`}
                onClick={() =>
                  setSort(sort?.by === id && sort.descending ? null : { by: id, descending: sort?.by === id })
                }
              >
                {heading}
                {sort?.by === id && <span aria-hidden="true">{sort.descending ? ' ↓' : ' ↑'}</span>}
              </button>
              <small>{note}</small>
            </span>
          ))}
        </div>
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }} role="presentation">
          {virtual.getVirtualItems().map(({ index, start }) => {
            const i = rows[index]!;
            return (
              <div
                key={index}
                role="row"
                className="sv-workings-row"
                data-state={of.state(i)}
                data-marked={marked === i ? 'true' : undefined}
                style={{ gridTemplateColumns: template, top: start, height: rowHeight, position: 'absolute' }}
              >
                {of.steps.map(({ id, numeric, text }, column) => {
                  const before = differs(id, i);
                  return (
                    <span
                      key={id}
                      role="cell"
                      className={`${numeric ? 'is-number' : ''}${before === undefined ? '' : ' is-other'}`}
                      title={
                        before === undefined
                          ? undefined
                          : tell('bench.workingsTable.onTheBoardBefore', { before })
                      }
                    >
                      {column === 0 ? (
                        <button
                          type="button"
                          title={tell('bench.workingsTable.pointAtItsMark')}
                          onClick={() => point(i)}
                        >
                          {text(i)}
                        </button>
                      ) : (
                        text(i)
                      )}
                    </span>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
