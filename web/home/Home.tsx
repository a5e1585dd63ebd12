import { type DragEvent, useRef, useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useBoardsQuery, useDatasetsQuery, useDeleteDatasetMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch } from '../app/store';
import { Notices } from '../ui/Notices';
import { Problem } from '../ui/Problem';
import { TopBar } from '../ui/TopBar';
import { BoardCard } from './BoardCard';
import { BoardFileCard } from './BoardFileCard';
import { FirstSteps } from './FirstSteps';
import { ImportCard } from './ImportCard';
import { RecentlyDeleted } from './RecentlyDeleted';

const isBoardFile = ({ name }: File) => /\.(json|zip)$/i.test(name);

interface Incoming {
  id: number;
  file: File;
}

let incomingCount = 0;

function Datasets() {
  const dispatch = useAppDispatch();
  const { data: datasets, error } = useDatasetsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [remove] = useDeleteDatasetMutation();
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!datasets) return <p className="sv-loading">Loading…</p>;
  if (!datasets.length)
    return <p>No data yet. Drop a CSV file anywhere on this page, or use "Import a file" above.</p>;
  return (
    <Table className="sv-datasets">
      <thead>
        <tr>
          <th>Name</th>
          <th className="text-end">Rows</th>
          <th className="text-end sv-where-wide">Fields</th>
          <th className="sv-where-wide">Used on</th>
          <th>
            <span className="visually-hidden">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {datasets.map((dataset) => (
          <tr key={dataset.id} data-dataset={dataset.id}>
            <td>
              <Link to={`/datasets/${dataset.id}`}>{dataset.name}</Link>
            </td>
            <td className="text-end">{dataset.rows.toLocaleString('en')}</td>
            <td className="text-end sv-where-wide">{dataset.fields.length}</td>
            <td className="sv-where-wide">
              {dataset.boards.length ? dataset.boards.map(({ title }) => title).join(', ') : 'not used yet'}
            </td>
            <td className="text-end sv-actions">
              <Link className="btn btn-sm btn-outline-secondary" to={`/datasets/${dataset.id}/new-board`}>
                New board from this
              </Link>{' '}
              <button
                type="button"
                className="btn btn-sm btn-quiet"
                aria-label={`Delete ${dataset.name}`}
                onClick={async () => {
                  const result = await remove(dataset.id);
                  const used = dataset.boards.length
                    ? ` ${dataset.boards.length === 1 ? 'One board reads' : `${dataset.boards.length} boards read`} it and will stay empty.`
                    : '';
                  dispatch(
                    noticed(
                      'error' in result
                        ? { text: problemText(result.error) }
                        : {
                            text: `"${dataset.name}" is deleted.${used}`,
                            undo: { kind: 'dataset', id: dataset.id },
                          },
                    ),
                  );
                }}
              >
                Delete
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function IncomingCard(props: { file: File; onClose(): void }) {
  return isBoardFile(props.file) ? <BoardFileCard {...props} /> : <ImportCard {...props} />;
}

/** The boards and the data there are, and the way in for more. */
export function Home() {
  const { data: boards, error } = useBoardsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [incoming, setIncoming] = useState<Incoming[]>([]);
  const [over, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const take = (files: FileList | null) => {
    // The list is the input's own and empties with it: its files are taken out at once.
    const taken = [...(files ?? [])].map((file) => ({ id: ++incomingCount, file }));
    setIncoming((list) => [...list, ...taken]);
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files);
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a file can be dropped anywhere; the button does the same
    <div
      data-part="page-drop"
      className={over ? 'sv-page-drop is-over' : 'sv-page-drop'}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
      onDrop={onDrop}
    >
      <title>Sorvik</title>
      <TopBar>
        <span className="sv-hint">Drop a CSV or board file anywhere, or</span>
        <Button size="sm" onClick={() => chooser.current?.click()}>
          Import a file
        </Button>
        <input
          ref={chooser}
          type="file"
          hidden
          multiple
          accept=".csv,.tsv,.txt,.json,.zip,text/csv,text/plain"
          aria-label="CSV or board file"
          onChange={(event) => {
            take(event.target.files);
            event.target.value = '';
          }}
        />
      </TopBar>
      <main className="sv-page">
        {incoming.map(({ id, file }) => (
          <IncomingCard
            key={id}
            file={file}
            onClose={() => setIncoming((list) => list.filter((item) => item.id !== id))}
          />
        ))}
        <section aria-labelledby="boards">
          <h1 id="boards">Boards</h1>
          {error && <Problem>{problemText(error)}</Problem>}
          <div className="sv-cards">
            {boards?.map((board) => (
              <BoardCard key={board.id} board={board} />
            ))}
          </div>
          {boards?.length === 0 && <FirstSteps />}
        </section>
        <section aria-labelledby="data">
          <h2 id="data">Data</h2>
          <Datasets />
        </section>
        <RecentlyDeleted />
      </main>
      <Notices />
    </div>
  );
}
