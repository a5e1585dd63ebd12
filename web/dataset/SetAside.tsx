import type { DatasetView } from '@sorvik/core/board/api-types';
import { Table } from 'react-bootstrap';
import { useRejectsQuery } from '../app/editing-api';
import { tell } from '../ui/tell';

/** Rows of the file that did not fit, with line, column and reason. */
export function SetAside({ dataset }: { dataset: DatasetView }) {
  const { data } = useRejectsQuery(dataset.id, { skip: dataset.rejected === 0 });
  if (!dataset.rejected || !data) return null;
  return (
    <section id="set-aside" aria-labelledby="set-aside-title">
      <div className="sv-section-head">
        <h2 id="set-aside-title">
          {tell('dataset.setAside.rejectedSkippedRows', { rejected: dataset.rejected })}
        </h2>
        <a
          className="btn btn-sm btn-outline-secondary"
          href={`/api/datasets/${dataset.id}/rejects.csv`}
          download
        >
          {tell('dataset.setAside.downloadAllSkippedRowsCsv')}
        </a>
        {data.rejects.length < dataset.rejected && (
          <span className="sv-hint">
            {tell('dataset.setAside.theFirstRejectsAreShown', { rejects: data.rejects.length })}
          </span>
        )}
      </div>
      <div className="sv-aside-table">
        <Table size="sm">
          <thead>
            <tr>
              <th className="text-end">{tell('dataset.setAside.line')}</th>
              <th>{tell('dataset.setAside.column')}</th>
              <th>{tell('dataset.setAside.reason')}</th>
              <th>{tell('dataset.setAside.content')}</th>
            </tr>
          </thead>
          <tbody>
            {data.rejects.map(({ line, column, reason, cells }) => (
              <tr key={line}>
                <td className="text-end">{line.toLocaleString('en')}</td>
                <td>{column || tell('dataset.setAside.wholeRow')}</td>
                <td>{reason}</td>
                <td className="sv-cells">{cells.join(' · ')}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </section>
  );
}
