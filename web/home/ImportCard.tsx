import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { IncomingFile } from '../incoming/IncomingFile';
import { Explained } from '../ui/Explained';
import { tell } from '../ui/tell';

/** Data on its way to becoming a dataset, and what can be done with that. Files that came together may become one or several. */
export function ImportCard({ files, onClose }: { files: readonly File[]; onClose(): void }) {
  const [apart, setApart] = useState(files.length === 1);
  const [together, setTogether] = useState(false);
  const [closed, setClosed] = useState<readonly File[]>([]);
  if (together) return <OneDataset files={files} onClose={onClose} />;
  if (apart)
    return files
      .filter((file) => !closed.includes(file))
      .map((file, i) => (
        <OneDataset
          // biome-ignore lint/suspicious/noArrayIndexKey: files may be alike
          key={`${file.name} ${i}`}
          files={[file]}
          onClose={() => (closed.length + 1 === files.length ? onClose() : setClosed([...closed, file]))}
        />
      ));
  return (
    <section className="sv-import" aria-label={tell('home.importCard.severalFiles', { n: files.length })}>
      <header>
        <h3>{tell('home.importCard.severalFiles', { n: files.length })}</h3>
        <button
          type="button"
          className="btn-close"
          aria-label={tell('incoming.file.close')}
          onClick={onClose}
        />
      </header>
      <p className="sv-hint">{files.map(({ name }) => name).join(', ')}</p>
      <div className="sv-row">
        <Button size="sm" onClick={() => setTogether(true)}>
          {tell('home.importCard.together')}
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={() => setApart(true)}>
          {tell('home.importCard.apart', { n: files.length })}
        </Button>
      </div>
    </section>
  );
}

function OneDataset({ files, onClose }: { files: readonly File[]; onClose(): void }) {
  return (
    <IncomingFile files={files} address="/api/imports" onClose={onClose}>
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
