import type { ImportQuestion, ImportView } from '@sorvik/core/board/api-types';
import { type FormEvent, useEffect, useRef, useState } from 'react';
import { Button, Form, ProgressBar } from 'react-bootstrap';
import { Link } from 'react-router';
import { api, problemText } from '../app/api';
import { useAnswerImportMutation, useCancelImportMutation, useImportStateQuery } from '../app/editing-api';
import { useAppDispatch } from '../app/store';
import { Explained } from '../ui/Explained';
import { Problem } from '../ui/Problem';
import { sendFile } from './send-file';

const count = (n: number) => n.toLocaleString('en');

const asked: Record<ImportQuestion['asks'], string> = {
  dates: 'which dates are these?',
  numbers: 'which numbers are these?',
};

/** What a reading of a column's cells makes of them, in figures and, where only a comma tells, in words. */
function readingText(asks: ImportQuestion['asks'], reads: readonly string[]): string {
  const text = reads.join(' · ');
  if (asks !== 'numbers') return text;
  return `${text} (${reads.some((read) => read.includes('.')) ? 'with decimals' : 'whole numbers'})`;
}

/** Asks about columns whose cells can be read in two ways, with what each way makes of them. */
function Questions({ view, onAnswered }: { view: ImportView; onAnswered(): void }) {
  const [answer, { error, isLoading }] = useAnswerImportMutation();
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const result = await answer({ id: view.id, answers });
    if ('data' in result) onAnswered();
  };
  return (
    <Form onSubmit={submit}>
      {view.questions.map(({ column, asks, examples, options }) => (
        <fieldset key={column}>
          <legend>
            In "{column}", {asked[asks]} The file says {examples.join(' · ')}
          </legend>
          {options.map(({ answer: each, reads }) => (
            <Form.Check
              key={each}
              required
              type="radio"
              id={`${column}-${each}`}
              name={column}
              label={readingText(asks, reads)}
              onChange={() => setAnswers({ ...answers, [column]: each })}
            />
          ))}
        </fieldset>
      ))}
      {error && <Problem>{problemText(error)}</Problem>}
      <Button size="sm" type="submit" disabled={isLoading}>
        Import
      </Button>
    </Form>
  );
}

/** An import the server is busy with, or done with. */
function ServerImport({ id, file }: { id: string; file: string }) {
  const dispatch = useAppDispatch();
  const [ended, setEnded] = useState(false);
  const { data: view, error, refetch } = useImportStateQuery(id, { pollingInterval: ended ? 0 : 250 });
  const [cancel] = useCancelImportMutation();
  const state = view?.state;
  useEffect(() => {
    if (state && state !== 'loading') setEnded(state !== 'asking');
    if (state === 'done') dispatch(api.util.invalidateTags(['Dataset']));
  }, [state, dispatch]);
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!view) return null;
  if (view.state === 'asking') return <Questions view={view} onAnswered={refetch} />;
  if (view.state === 'failed') return <Problem>{view.message}</Problem>;
  if (view.state === 'cancelled') return <p>Import cancelled. Nothing was saved.</p>;
  if (view.state === 'done' && view.dataset) {
    const dataset = view.dataset;
    return (
      <>
        <p>
          <strong>
            {count(view.rows)} rows imported{view.rejected ? `, ${count(view.rejected)} skipped` : ''}.
          </strong>{' '}
          {view.rejected > 0 && <Link to={`/datasets/${dataset}#set-aside`}>View skipped rows</Link>}
        </p>
        <div className="sv-row">
          <Explained word="board">
            <Link className="btn btn-sm btn-primary" to={`/datasets/${dataset}/new-board`}>
              New board from this
            </Link>
          </Explained>
          <Link className="btn btn-sm btn-outline-secondary" to={`/datasets/${dataset}`}>
            View fields
          </Link>
        </div>
      </>
    );
  }
  const share = view.bytesTotal ? (100 * view.bytesRead) / view.bytesTotal : 0;
  return (
    <>
      <ProgressBar now={share} aria-label={`Import of ${file}`} />
      <p>
        {count(view.rows)} rows read{view.rejected ? `, ${count(view.rejected)} skipped` : ''}. {view.note}
      </p>
      <Button size="sm" variant="outline-secondary" onClick={() => cancel(id)}>
        Cancel
      </Button>
    </>
  );
}

/** One file on its way in: sent, asked about, loaded. */
export function ImportCard({ file, onClose }: { file: File; onClose(): void }) {
  const [sent, setSent] = useState(0);
  const [id, setId] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const abort = useRef<AbortController>(null);
  useEffect(() => {
    const controller = new AbortController();
    abort.current = controller;
    sendFile(file, setSent, controller.signal).then(
      (view) => setId(view.id),
      (error: Error) => !controller.signal.aborted && setProblem(error.message),
    );
    return () => controller.abort();
  }, [file]);
  const cancel = () => {
    abort.current?.abort();
    setProblem('Import cancelled. Nothing was saved.');
  };
  return (
    <section className="sv-import" aria-label={`Import of ${file.name}`}>
      <header>
        <h3>{file.name}</h3>
        <button type="button" className="btn-close" aria-label="Close" onClick={onClose} />
      </header>
      {problem ? (
        <Problem role="alert">{problem}</Problem>
      ) : id ? (
        <ServerImport id={id} file={file.name} />
      ) : (
        <>
          <ProgressBar now={100 * sent} variant="secondary" aria-label={`Sending ${file.name}`} />
          <p>{sent < 1 ? 'Uploading…' : 'Detecting the file format…'}</p>
          <Button size="sm" variant="outline-secondary" onClick={cancel}>
            Cancel
          </Button>
        </>
      )}
    </section>
  );
}
