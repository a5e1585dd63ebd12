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
import { tell } from '../ui/tell';
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
  if (!datasets) return <p className="sv-loading">{tell('home.home.loading')}</p>;
  if (!datasets.length) return <p>{tell('home.home.noDataYetDropA')}</p>;
  return (
    <Table className="sv-datasets">
      <thead>
        <tr>
          <th>{tell('home.home.name')}</th>
          <th className="text-end">{tell('home.home.rows')}</th>
          <th className="text-end sv-where-wide">{tell('home.home.fields')}</th>
          <th className="sv-where-wide">{tell('home.home.usedOn')}</th>
          <th>
            <span className="visually-hidden">{tell('home.home.whatCanBeDone')}</span>
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
              {dataset.boards.length
                ? dataset.boards.map(({ title }) => title).join(', ')
                : tell('home.home.notUsedYet')}
            </td>
            <td className="text-end sv-actions">
              <Link className="btn btn-sm btn-outline-secondary" to={`/datasets/${dataset.id}/new-board`}>
                {tell('home.home.newBoardFromThis')}
              </Link>{' '}
              <button
                type="button"
                className="btn btn-sm btn-quiet"
                aria-label={tell('home.home.deleteDataset', { dataset: dataset.name })}
                onClick={async () => {
                  const result = await remove(dataset.id);
                  dispatch(
                    noticed(
                      'error' in result
                        ? { text: problemText(result.error) }
                        : {
                            text: tell('home.home.datasetIsDeleted', {
                              dataset: dataset.name,
                              boards: dataset.boards.length,
                            }),
                            undo: { kind: 'dataset', id: dataset.id },
                          },
                    ),
                  );
                }}
              >
                {tell('home.home.delete')}
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
      <title>{tell('home.home.sorvik')}</title>
      <TopBar>
        <span className="sv-hint">{tell('home.home.dropACsvOrBoard')}</span>
        <Button size="sm" onClick={() => chooser.current?.click()}>
          {tell('home.home.importAFile')}
        </Button>
        <Link className="btn btn-sm btn-outline-secondary" to="/databases">
          {tell('home.home.databases')}
        </Link>
        <input
          ref={chooser}
          type="file"
          hidden
          multiple
          accept=".csv,.tsv,.txt,.json,.zip,text/csv,text/plain"
          aria-label={tell('home.home.csvOrBoardFile')}
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
          <h1 id="boards">{tell('home.home.boards')}</h1>
          {error && <Problem>{problemText(error)}</Problem>}
          <div className="sv-cards">
            {boards?.map((board) => (
              <BoardCard key={board.id} board={board} />
            ))}
          </div>
          {boards?.length === 0 && <FirstSteps />}
        </section>
        <section aria-labelledby="data">
          <h2 id="data">{tell('home.home.data')}</h2>
          <Datasets />
        </section>
        <RecentlyDeleted />
      </main>
      <Notices />
    </div>
  );
}
