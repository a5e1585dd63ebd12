import type { DatasetView, RefreshMode } from '@sorvik/core/board/api-types';
import { type DragEvent, useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useParams } from 'react-router';
import { useDatasetQuery } from '../app/api';
import { IncomingFile } from '../incoming/IncomingFile';
import { Notices } from '../ui/Notices';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';
import { NoDataset } from './NoDataset';
import { RefreshPreview } from './RefreshPreview';

interface Way {
  mode: RefreshMode;
  /** The key of the field by which rows are replaced. */
  by: string;
}

/** What is to become of the rows that are there. */
function WayIn({ dataset, way, onWay }: { dataset: DatasetView; way: Way; onWay(way: Way): void }) {
  const fields = dataset.fields.filter(({ formula }) => formula === undefined);
  const option = (mode: RefreshMode, label: string) => (
    <Form.Check
      type="radio"
      name="mode"
      id={`mode-${mode}`}
      label={label}
      checked={way.mode === mode}
      onChange={() => onWay({ ...way, mode })}
    />
  );
  return (
    <fieldset className="sv-way-in">
      <legend>{tell('dataset.refresh.whatBecomes')}</legend>
      {option('append', tell('dataset.refresh.append'))}
      <div className="sv-row">
        {option('merge', tell('dataset.refresh.merge'))}
        <Form.Select
          size="sm"
          aria-label={tell('dataset.refresh.key')}
          value={way.by}
          onChange={(event) => onWay({ mode: 'merge', by: event.target.value })}
        >
          {fields.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </Form.Select>
      </div>
      {option('replace', tell('dataset.refresh.replace'))}
    </fieldset>
  );
}

interface Chosen extends Way {
  files: File[];
}

function Refresh({ dataset }: { dataset: DatasetView }) {
  const first = dataset.fields.find(({ formula }) => formula === undefined)?.key ?? '';
  const [way, setWay] = useState<Way>({ mode: 'append', by: first });
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [taken, setTaken] = useState(false);
  const [over, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const take = (files: FileList | null) => {
    if (!files?.length) return;
    setTaken(false);
    setChosen({ ...way, files: [...files] });
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files);
  };
  const query =
    chosen &&
    new URLSearchParams({ mode: chosen.mode, ...(chosen.mode === 'merge' ? { by: chosen.by } : {}) });
  return (
    <>
      <WayIn dataset={dataset} way={way} onWay={setWay} />
      {chosen === null ? (
        // biome-ignore lint/a11y/noStaticElementInteractions: a file can be dropped; the button does the same
        <div
          data-part="drop"
          className={over ? 'sv-file-drop is-over' : 'sv-file-drop'}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
          onDrop={onDrop}
        >
          <span>{tell('dataset.refresh.dropAFile')}</span>
          <Button size="sm" onClick={() => chooser.current?.click()}>
            {tell('dataset.refresh.chooseAFile')}
          </Button>
          <input
            ref={chooser}
            type="file"
            hidden
            multiple
            aria-label={tell('dataset.refresh.fileWithRows')}
            onChange={(event) => {
              take(event.target.files);
              event.target.value = '';
            }}
          />
        </div>
      ) : (
        <IncomingFile
          key={`${query}`}
          files={chosen.files}
          address={`/api/datasets/${dataset.id}/refreshes?${query}`}
          onClose={() => setChosen(null)}
        >
          {(view) =>
            taken || view.state === 'done' ? (
              <>
                <p role="status">
                  <strong>{tell('dataset.refresh.done', { rows: dataset.rows })}</strong>
                </p>
                <Link className="btn btn-sm btn-primary" to={`/datasets/${dataset.id}`}>
                  {tell('dataset.refresh.toTheDataset')}
                </Link>
              </>
            ) : (
              <RefreshPreview id={view.id} onTaken={() => setTaken(true)} />
            )
          }
        </IncomingFile>
      )}
    </>
  );
}

/** New rows for a dataset that is there: what they are to do, and what that would change. */
export function RefreshPage() {
  const { id = '' } = useParams();
  const { data: dataset, error } = useDatasetQuery(id, { refetchOnMountOrArgChange: true });
  if (error) return <NoDataset error={error} />;
  if (!dataset) return <p className="sv-loading">{tell('dataset.datasetPage.loading')}</p>;
  return (
    <>
      <title>{tell('dataset.refresh.title', { dataset: dataset.name })}</title>
      <TopBar place={<Link to={`/datasets/${id}`}>{dataset.name}</Link>} />
      <main className="sv-page">
        <h1>{tell('dataset.refresh.heading', { dataset: dataset.name })}</h1>
        <p className="sv-hint">{tell('dataset.refresh.hint', { rows: dataset.rows })}</p>
        <Refresh dataset={dataset} />
      </main>
      <Notices />
    </>
  );
}
