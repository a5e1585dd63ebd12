import type { BoardVersion } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { boardLines, linesOnlyIn } from '@sorvik/core/text/board-lines';
import { useState } from 'react';
import { problemText } from '../app/api';
import {
  useDatasetsQuery,
  useNameVersionMutation,
  useVersionQuery,
  useVersionsQuery,
} from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch, useAppSelector } from '../app/store';
import { BoardPicture } from '../board/BoardPicture';
import { edit } from '../board/board-slice';
import { formulaEngine } from '../board/formula-engine';
import { InlineText } from '../ui/InlineText';
import { Problem } from '../ui/Problem';
import { useReturnFocus } from '../ui/use-return-focus';
import { ChangedLines } from './ChangedLines';

const timeText = (iso: string) =>
  new Date(iso).toLocaleString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });

/** One version against what the board is now, and the way back to it. */
function Chosen({ board, id, version }: { board: Board; id: string; version: BoardVersion }) {
  const dispatch = useAppDispatch();
  const { data, error } = useVersionQuery({ id, revision: version.revision });
  const { data: datasets = [] } = useDatasetsQuery();
  const [name] = useNameVersionMutation();
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!data) return <p className="sv-loading">Loading…</p>;
  const then = boardLines(data.document, datasets, formulaEngine());
  const now = boardLines(board, datasets, formulaEngine());
  const same = JSON.stringify(data.document) === JSON.stringify(board);
  return (
    <div className="sv-version">
      <InlineText
        value={version.name ?? ''}
        label="Name of this version"
        placeholder="Name this version"
        className="sv-version-name"
        mayBeEmpty
        onKeep={(text) => void name({ id, revision: version.revision, name: text })}
      />
      <div className="sv-version-pictures">
        <figure>
          <figcaption>{same ? 'Now' : 'Then'}</figcaption>
          <BoardPicture board={data.document} />
        </figure>
        {!same && (
          <figure>
            <figcaption>Now</figcaption>
            <BoardPicture board={board} />
          </figure>
        )}
      </div>
      {same ? (
        <p>This is the current state.</p>
      ) : (
        <>
          <p className="sv-editor-head">Restoring this version would change</p>
          <ChangedLines added={linesOnlyIn(then, now)} removed={linesOnlyIn(now, then)} />
          <button
            type="button"
            className="btn btn-sm btn-primary"
            onClick={() => {
              dispatch(
                edit('back to a version', (draft) => {
                  for (const key of Object.keys(draft))
                    delete (draft as unknown as Record<string, unknown>)[key];
                  Object.assign(draft, data.document);
                }),
              );
              dispatch(noticed({ text: 'Version restored. Undo takes you back.' }));
            }}
          >
            Restore this version
          </button>
        </>
      )}
    </div>
  );
}

/** What the board has been: when, what changed in words, and the way back. */
export function Versions({ board, onClose }: { board: Board; onClose(): void }) {
  useReturnFocus();
  const { id, revision } = useAppSelector((state) => state.board);
  const { data: versions, error } = useVersionsQuery(id!, { refetchOnMountOrArgChange: true });
  const [chosen, setChosen] = useState<number>();
  const version = versions?.find((each) => each.revision === (chosen ?? versions[0]?.revision));
  return (
    <section aria-label="Versions of the board" onKeyDown={(event) => event.key === 'Escape' && onClose()}>
      <header>
        <h1>Versions</h1>
        {/* biome-ignore lint/a11y/noAutofocus: it lies over the board, and Esc leads back at once */}
        <button type="button" className="btn btn-sm btn-quiet" autoFocus onClick={onClose}>
          Back to the board
        </button>
      </header>
      {error && <Problem>{problemText(error)}</Problem>}
      {!versions && !error && <p className="sv-loading">Loading…</p>}
      {versions && (
        <div className="sv-versions">
          <ul>
            {versions.map((each) => (
              <li key={each.revision}>
                <button
                  type="button"
                  aria-pressed={each.revision === version?.revision}
                  onClick={() => setChosen(each.revision)}
                >
                  <strong>{each.name ?? timeText(each.savedAt)}</strong>
                  <small>
                    {[
                      each.name && timeText(each.savedAt),
                      each.revision === revision && 'now',
                      each.published && 'published',
                    ]
                      .filter(Boolean)
                      .join(' · ')}
                  </small>
                  {[...each.added, ...each.removed].slice(0, 2).map((line) => (
                    <span key={line}>{line}</span>
                  ))}
                </button>
              </li>
            ))}
          </ul>
          {version && <Chosen key={version.revision} board={board} id={id!} version={version} />}
        </div>
      )}
    </section>
  );
}
