import type { DatasetView, ImportView, RefreshMode } from '@sorvik/core/board/api-types';
import { cameWithRows } from '@sorvik/core/data/dataset';
import { type DragEvent, type FormEvent, type ReactNode, useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link, useParams, useSearchParams } from 'react-router';
import { problemText, useDatasetQuery } from '../app/api';
import { useDatasetsQuery, useFetchRowsMutation } from '../app/editing-api';
import { IncomingFile, ServerImport } from '../incoming/IncomingFile';
import { Notices } from '../ui/Notices';
import { Problem } from '../ui/Problem';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';
import { BySelf } from './BySelf';
import { NoDataset } from './NoDataset';
import { PushTokens } from './PushTokens';
import { RefreshPreview } from './RefreshPreview';
import { TableChoice } from './TableChoice';

interface Way {
  mode: RefreshMode;
  /** The key of the field by which rows are replaced. */
  by: string;
}

/** What is to become of the rows that are there. */
function WayIn({ dataset, way, onWay }: { dataset: DatasetView; way: Way; onWay(way: Way): void }) {
  const fields = dataset.fields.filter(cameWithRows);
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

/** What is to be seen of rows that came in: what they would change, or that they are there. */
function Outcome({
  dataset,
  view,
  onLost,
}: {
  dataset: DatasetView;
  view: ImportView;
  onLost?: (() => void) | undefined;
}) {
  const [taken, setTaken] = useState(false);
  if (!taken && view.state !== 'done')
    return <RefreshPreview id={view.id} onTaken={() => setTaken(true)} onLost={onLost} />;
  return (
    <>
      <p role="status">
        <strong>{tell('dataset.refresh.done', { rows: dataset.rows })}</strong>
      </p>
      <Link className="btn btn-sm btn-primary" to={`/datasets/${dataset.id}`}>
        {tell('dataset.refresh.toTheDataset')}
      </Link>
    </>
  );
}

interface ElsewhereProps {
  dataset: DatasetView;
  way: Way;
  label: string;
  /** Where they are asked for. */
  choice(address: string, onChange: (address: string) => void): ReactNode;
}

/** New rows from elsewhere, once. */
function FromElsewhere({ dataset, way, label, choice }: ElsewhereProps) {
  const [address, setAddress] = useState('');
  const [fetch, { data, error, isLoading, reset }] = useFetchRowsMutation();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { mode, by } = way;
    void fetch({ id: dataset.id, address, mode, ...(mode === 'merge' ? { by } : {}) });
  };
  if (data)
    return (
      <section className="sv-import" aria-label={tell('incoming.file.importOfFile', { file: data.file })}>
        <header>
          <h3>{data.file}</h3>
          <button
            type="button"
            className="btn-close"
            aria-label={tell('incoming.file.close')}
            onClick={reset}
          />
        </header>
        <ServerImport id={data.id} file={data.file}>
          {(view) => <Outcome dataset={dataset} view={view} />}
        </ServerImport>
      </section>
    );
  return (
    <Form onSubmit={submit} className="sv-row">
      {choice(address, setAddress)}
      <Button size="sm" type="submit" variant="outline-secondary" disabled={isLoading}>
        {isLoading ? tell('dataset.refresh.fetching') : label}
      </Button>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
    </Form>
  );
}

interface Chosen extends Way {
  files: File[];
}

function Refresh({ dataset }: { dataset: DatasetView }) {
  const first = dataset.fields.find(cameWithRows)?.key ?? '';
  // Of a table that has just been copied, all rows are wanted as they are there.
  const isCopy = useSearchParams()[0].has('from');
  const [way, setWay] = useState<Way>({
    mode: dataset.schedule?.mode ?? (isCopy ? 'replace' : 'append'),
    by: dataset.schedule?.by ?? first,
  });
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [over, setOver] = useState(false);
  const { data: datasets } = useDatasetsQuery();
  const tables = datasets?.filter(({ inPlace }) => inPlace) ?? [];
  const chooser = useRef<HTMLInputElement>(null);
  const take = (files: FileList | null) => {
    if (!files?.length) return;
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
      <section aria-labelledby="from-file">
        <h2 id="from-file">{tell('dataset.refresh.fromAFile')}</h2>
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
            {(view, onLost) => <Outcome dataset={dataset} view={view} onLost={onLost} />}
          </IncomingFile>
        )}
      </section>
      <section aria-labelledby="from-address">
        <h2 id="from-address">{tell('dataset.refresh.fromAnAddress')}</h2>
        <FromElsewhere
          dataset={dataset}
          way={way}
          label={tell('dataset.refresh.fetch')}
          choice={(address, onChange) => (
            <Form.Control
              size="sm"
              type="url"
              required
              className="sv-address"
              aria-label={tell('dataset.refresh.address')}
              placeholder="https://"
              value={address}
              onChange={({ target }) => onChange(target.value)}
            />
          )}
        />
      </section>
      {tables.length > 0 && (
        <section aria-labelledby="from-table">
          <h2 id="from-table">{tell('dataset.refresh.fromATable')}</h2>
          <FromElsewhere
            dataset={dataset}
            way={way}
            label={tell('dataset.refresh.fetchTable')}
            choice={(address, onChange) => (
              <TableChoice tables={tables} value={address} onChange={onChange} />
            )}
          />
        </section>
      )}
      <section aria-labelledby="by-itself">
        <h2 id="by-itself">{tell('dataset.bySelf.heading')}</h2>
        <BySelf dataset={dataset} {...way} />
      </section>
      <section aria-labelledby="pushed">
        <h2 id="pushed">{tell('dataset.push.heading')}</h2>
        <PushTokens dataset={dataset.id} />
      </section>
    </>
  );
}

/** New rows for a dataset that is there: what they are to do, and what that would change. */
export function RefreshPage() {
  const { id = '' } = useParams();
  const { data: dataset, error } = useDatasetQuery(id, {
    refetchOnMountOrArgChange: true,
    pollingInterval: 5000,
  });
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
