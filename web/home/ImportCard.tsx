import { Link } from 'react-router';
import { IncomingFile } from '../incoming/IncomingFile';
import { Explained } from '../ui/Explained';
import { tell } from '../ui/tell';

/** One file on its way to becoming a dataset, and what can be done with that. */
export function ImportCard({ file, onClose }: { file: File; onClose(): void }) {
  return (
    <IncomingFile file={file} address="/api/imports" onClose={onClose}>
      {({ rows, rejected, dataset }) => (
        <>
          <p>
            <strong>{tell('home.importCard.rowsImported', { rows, skipped: rejected })}</strong>{' '}
            {rejected > 0 && (
              <Link to={`/datasets/${dataset}#set-aside`}>{tell('home.importCard.viewSkippedRows')}</Link>
            )}
          </p>
          <div className="sv-row">
            <Explained word="board">
              <Link className="btn btn-sm btn-primary" to={`/datasets/${dataset}/new-board`}>
                {tell('home.importCard.newBoardFromThis')}
              </Link>
            </Explained>
            <Link className="btn btn-sm btn-outline-secondary" to={`/datasets/${dataset}`}>
              {tell('home.importCard.viewFields')}
            </Link>
          </div>
        </>
      )}
    </IncomingFile>
  );
}
