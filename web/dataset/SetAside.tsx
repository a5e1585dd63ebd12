import type { DatasetView } from '@sorvik/core/board/api-types';
import { Table } from 'react-bootstrap';
import { useRejectsQuery } from '../app/editing-api';

/** Rows of the file that did not fit, with line, column and reason. */
export function SetAside({ dataset }: { dataset: DatasetView }) {
  const { data } = useRejectsQuery(dataset.id, { skip: dataset.rejected === 0 });
  if (!dataset.rejected || !data) return null;
  return (
    <section id="set-aside" aria-labelledby="set-aside-title">
      <div className="sv-section-head">
        <h2 id="set-aside-title">{dataset.rejected.toLocaleString('en')} skipped rows</h2>
        <a
          className="btn btn-sm btn-outline-secondary"
          href={`/api/datasets/${dataset.id}/rejects.csv`}
          download
        >
          Download all skipped rows (CSV)
        </a>
        {data.rejects.length < dataset.rejected && (
          <span className="sv-hint">the first {data.rejects.length} are shown</span>
        )}
      </div>
      <div className="sv-aside-table">
        <Table size="sm">
          <thead>
            <tr>
              <th className="text-end">Line</th>
              <th>Column</th>
              <th>Reason</th>
              <th>Content</th>
            </tr>
          </thead>
          <tbody>
            {data.rejects.map(({ line, column, reason, cells }) => (
              <tr key={line}>
                <td className="text-end">{line.toLocaleString('en')}</td>
                <td>{column || 'whole row'}</td>
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
