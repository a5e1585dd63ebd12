import type { ImportView } from '@sorvik/core/board/api-types';
import { useEffect, useMemo, useRef, useState } from 'react';
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
  const [arrived, setArrived] = useState<readonly ImportView[]>([]);
  // A list of its own each: another one would be sent anew.
  const single = useMemo(() => files.map((file) => [file]), [files]);
  if (together) return <OneDataset files={files} onClose={onClose} />;
  if (apart)
    return (
      <>
        {single
          .filter(([file]) => !closed.includes(file!))
          .map((each, i) => (
            <OneDataset
              // biome-ignore lint/suspicious/noArrayIndexKey: files may be alike
              key={`${each[0]!.name} ${i}`}
              files={each}
              onClose={() =>
                closed.length + 1 === files.length ? onClose() : setClosed([...closed, each[0]!])
              }
              onArrived={(view) => setArrived((before) => [...before, view])}
            />
          ))}
        {arrived.length === 2 && files.length === 2 && <JoinThem views={arrived} />}
      </>
    );
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

/** Offers to add the fields of the smaller of two datasets to the rows of the other one. */
function JoinThem({ views }: { views: readonly ImportView[] }) {
  const [large, small] = views.toSorted((a, b) => b.rows - a.rows);
  return (
    <p>
      <Link
        className="btn btn-sm btn-outline-secondary"
        to={`/datasets/${large!.dataset}?look-up=${small!.dataset}`}
      >
        {tell('home.importCard.addFieldsOf', { small: small!.file, large: large!.file })}
      </Link>
    </p>
  );
}

/** Tells once that all is there. */
function Arrived({ view, onArrived }: { view: ImportView; onArrived(view: ImportView): void }) {
  const told = useRef(false);
  useEffect(() => {
    if (!told.current) onArrived(view);
    told.current = true;
  }, [view, onArrived]);
  return null;
}

interface OneProps {
  files: readonly File[];
  onClose(): void;
  onArrived?: (view: ImportView) => void;
}

function OneDataset({ files, onClose, onArrived }: OneProps) {
  return (
    <IncomingFile files={files} address="/api/imports" onClose={onClose}>
      {(view) => {
        const { rows, rejected, dataset } = view;
        return (
          <>
            {onArrived && <Arrived view={view} onArrived={onArrived} />}
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
        );
      }}
    </IncomingFile>
  );
}
