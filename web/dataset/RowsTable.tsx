import type { DatasetView } from '@sorvik/core/board/api-types';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import { problemText } from '../app/api';
import { useRowsQuery } from '../app/editing-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

/** How many rows are looked at. */
export const firstRows = 1000;
const rowHeight = 26;
const columnWidth = 130;

/** The first rows of a dataset as they came, drawn only where they are looked at. */
export function RowsTable({ dataset }: { dataset: DatasetView }) {
  const { data, error } = useRowsQuery({
    id: dataset.id,
    offset: 0,
    limit: firstRows,
    version: dataset.version,
  });
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: data?.rows.length ?? 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: dataset.fields.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => columnWidth,
    overscan: 2,
  });
  if (error) return <Problem>{problemText(error)}</Problem>;
  const visible = columns.getVirtualItems();
  const numeric = dataset.fields.map((field) => field.type === 'integer' || field.type === 'decimal');
  return (
    <div
      className="sv-rows"
      ref={scroller}
      role="table"
      aria-label={tell('dataset.rowsTable.firstRows')}
      aria-rowcount={(data?.rows.length ?? 0) + 1}
      aria-colcount={dataset.fields.length}
      tabIndex={0}
    >
      <div
        style={{
          height: rows.getTotalSize() + rowHeight,
          width: columns.getTotalSize(),
          position: 'relative',
        }}
        role="presentation"
      >
        <div className="sv-rows-head" role="row" style={{ width: columns.getTotalSize() }}>
          {visible.map(({ index, start }) => (
            <span
              key={index}
              role="columnheader"
              aria-colindex={index + 1}
              style={{ left: start, width: columnWidth }}
              className={numeric[index] ? 'is-number' : ''}
            >
              {dataset.fields[index]!.name}
            </span>
          ))}
        </div>
        {rows.getVirtualItems().map((row) => (
          <div
            key={row.index}
            className="sv-rows-row"
            role="row"
            aria-rowindex={row.index + 2}
            style={{ top: row.start + rowHeight, height: rowHeight }}
          >
            {visible.map(({ index, start }) => {
              const value = data!.rows[row.index]![index] ?? null;
              return (
                <span
                  key={index}
                  role="cell"
                  aria-colindex={index + 1}
                  style={{ left: start, width: columnWidth }}
                  className={`${numeric[index] ? 'is-number' : ''}${value === null ? ' is-missing' : ''}`}
                >
                  {value === null ? '–' : keyText(value, english, dataset.fields[index]!.type)}
                </span>
              );
            })}
          </div>
        ))}
      </div>
    </div>
  );
}
