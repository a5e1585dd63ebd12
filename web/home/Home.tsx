import { type DragEvent, useCallback, useEffect, useRef, useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useBoardsQuery, useDatasetsQuery, useDeleteDatasetMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useMeQuery } from '../app/people-api';
import { useAppDispatch } from '../app/store';
import { AccountButton } from '../people/Account';
import { Notices } from '../ui/Notices';
import { Problem } from '../ui/Problem';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';
import { BoardCard } from './BoardCard';
import { BoardFileCard } from './BoardFileCard';
import { FirstSteps } from './FirstSteps';
import { ImportCard } from './ImportCard';
import { isBoardFile } from './is-board-file';
import { RecentlyDeleted } from './RecentlyDeleted';

interface Incoming {
  id: number;
  /** Files of data that came together; a board file comes alone. */
  files: File[];
  isBoard: boolean;
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
              {dataset.schedule?.problem && (
                <Link className="sv-refresh-failed" to={`/datasets/${dataset.id}`}>
                  {tell('home.home.refreshFailed')}
                </Link>
              )}
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

function IncomingCard({ files, isBoard, onClose }: Incoming & { onClose(): void }) {
  return isBoard ? (
    <BoardFileCard file={files[0]!} onClose={onClose} />
  ) : (
    <ImportCard files={files} onClose={onClose} />
  );
}

/** Rows that were copied from a spreadsheet, as a file; null where a text is no table. */
function pastedFile(text: string): File | null {
  const lines = text.split(/\r?\n/).filter((line) => line !== '');
  const isTable = lines.length > 1 && lines.every((line) => line.includes('\t'));
  return isTable ? new File([text], tell('home.home.pastedRows'), { type: 'text/csv' }) : null;
}

/** What is written somewhere is not for the page. */
const isWritten = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** The boards and the data there are, and the way in for more. */
export function Home() {
  const { data: boards, error } = useBoardsQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data: me } = useMeQuery();
  const [incoming, setIncoming] = useState<Incoming[]>([]);
  const [over, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const take = useCallback(async (files: readonly File[]) => {
    const known = await Promise.all(files.map(async (file) => ({ file, isBoard: await isBoardFile(file) })));
    const data = known.filter(({ isBoard }) => !isBoard).map(({ file }) => file);
    const taken: Incoming[] = known
      .filter(({ isBoard }) => isBoard)
      .map(({ file }) => ({ id: ++incomingCount, files: [file], isBoard: true }));
    if (data.length) taken.push({ id: ++incomingCount, files: data, isBoard: false });
    setIncoming((list) => [...list, ...taken]);
  }, []);
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      if (isWritten(event.target)) return;
      const file = pastedFile(event.clipboardData?.getData('text/plain') ?? '');
      if (file) void take([file]);
    };
    document.addEventListener('paste', onPaste);
    return () => document.removeEventListener('paste', onPaste);
  }, [take]);
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void take([...event.dataTransfer.files]);
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
        {/* Where people sign in, only owners connect databases. */}
        {(!me?.team || me.person?.owner) && (
          <Link className="btn btn-sm btn-outline-secondary" to="/databases">
            {tell('home.home.databases')}
          </Link>
        )}
        <AccountButton />
        <input
          ref={chooser}
          type="file"
          hidden
          multiple
          aria-label={tell('home.home.csvOrBoardFile')}
          onChange={(event) => {
            // The list is the input's own and empties with it: its files are taken out at once.
            void take([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
      </TopBar>
      <main className="sv-page">
        {incoming.map((each) => (
          <IncomingCard
            key={each.id}
            {...each}
            onClose={() => setIncoming((list) => list.filter((item) => item.id !== each.id))}
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
