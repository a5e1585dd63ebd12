import type { ImportView } from '@sorvik/core/board/api-types';
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react';
import { Button, ProgressBar } from 'react-bootstrap';
import { api, problemText } from '../app/api';
import { useCancelImportMutation, useImportStateQuery } from '../app/editing-api';
import { useAppDispatch } from '../app/store';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { Questions } from './Questions';
import { sendFiles } from './send-file';

/** Whether a server that does not answer may again before long. */
const passes = (status: unknown) =>
  status === 'FETCH_ERROR' || status === 'PARSING_ERROR' || Number(status) >= 500;

interface ServerProps extends Pick<Props, 'children'> {
  id: string;
  file: string;
  /** The server that had it has gone, and it with that: it can be sent again. Left out where it cannot. */
  onLost?: () => void;
}

/** An import the server is busy with, or done with. */
export function ServerImport({ id, file, children, onLost }: ServerProps) {
  const dispatch = useAppDispatch();
  const [ended, setEnded] = useState(false);
  const { data: view, error, refetch } = useImportStateQuery(id, { pollingInterval: ended ? 0 : 250 });
  const [cancel] = useCancelImportMutation();
  const state = view?.state;
  useEffect(() => {
    if (state && state !== 'loading') setEnded(state !== 'asking');
    if (state === 'done') dispatch(api.util.invalidateTags(['Dataset']));
  }, [state, dispatch]);
  const status = (error as { status?: unknown } | undefined)?.status;
  const lost = status === 404 && onLost !== undefined;
  useEffect(() => {
    if (lost) onLost();
  }, [lost, onLost]);
  if (lost) return null;
  if (error && !passes(status)) return <Problem>{problemText(error)}</Problem>;
  if (error) return <p>{tell('incoming.file.waiting')}</p>;
  if (!view) return null;
  if (view.state === 'asking')
    return (
      <Questions key={view.questions.map(({ column }) => column).join()} view={view} onAnswered={refetch} />
    );
  if (view.state === 'failed') return <Problem>{view.message}</Problem>;
  if (view.state === 'cancelled') return <p>{tell('incoming.file.importCancelledNothingWasSaved')}</p>;
  if (view.state !== 'loading') return children(view, onLost);
  const share = view.bytesTotal ? (100 * view.bytesRead) / view.bytesTotal : 0;
  return (
    <>
      <ProgressBar now={share} aria-label={tell('incoming.file.importOfFile', { file })} />
      <p>
        {tell('incoming.file.rowsRead', { rows: view.rows, skipped: view.rejected })} {view.note}
      </p>
      <Button size="sm" variant="outline-secondary" onClick={() => cancel(id)}>
        {tell('incoming.file.cancel')}
      </Button>
    </>
  );
}

interface Props {
  /** Several become one. */
  files: readonly File[];
  /** Where in the API it is sent to. */
  address: string;
  onClose(): void;
  /** What there is to see once its rows are there; `onLost` sends it again, where it can be. */
  children(view: ImportView, onLost?: () => void): ReactNode;
}

/** One file on its way in: sent, asked about, loaded. */
export function IncomingFile({ files, address, onClose, children }: Props) {
  const name = files.length === 1 ? files[0]!.name : tell('incoming.file.several', { n: files.length });
  const [sent, setSent] = useState(0);
  /** What the import is called by, also where it has to be sent again. */
  const [id] = useState(() => crypto.randomUUID());
  const [isThere, setThere] = useState(false);
  const [round, setRound] = useState(0);
  const again = useCallback(() => {
    setThere(false);
    setSent(0);
    setRound((before) => before + 1);
  }, []);
  const [problem, setProblem] = useState<string>();
  const abort = useRef<AbortController>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each round sends them once more
  useEffect(() => {
    const controller = new AbortController();
    abort.current = controller;
    sendFiles(files, { address, id }, setSent, controller.signal).then(
      () => !controller.signal.aborted && setThere(true),
      (error: Error) => !controller.signal.aborted && setProblem(error.message),
    );
    return () => controller.abort();
  }, [files, address, id, round]);
  const cancel = () => {
    abort.current?.abort();
    setProblem(tell('incoming.file.importCancelledNothingWasSaved'));
  };
  return (
    <section className="sv-import" aria-label={tell('incoming.file.importOfFile', { file: name })}>
      <header>
        <h3>{name}</h3>
        <button
          type="button"
          className="btn-close"
          aria-label={tell('incoming.file.close')}
          onClick={onClose}
        />
      </header>
      {problem ? (
        <Problem role="alert">{problem}</Problem>
      ) : isThere ? (
        <ServerImport id={id} file={name} onLost={again}>
          {children}
        </ServerImport>
      ) : (
        <>
          <ProgressBar
            now={100 * sent}
            variant="secondary"
            aria-label={tell('incoming.file.sendingFile', { file: name })}
          />
          <p>{sent < 1 ? tell('incoming.file.uploading') : tell('incoming.file.detectingTheFileFormat')}</p>
          <Button size="sm" variant="outline-secondary" onClick={cancel}>
            {tell('incoming.file.cancel')}
          </Button>
        </>
      )}
    </section>
  );
}
