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
import { tell } from '../ui/tell';
import { recentText } from '../ui/time-text';
import { useReturnFocus } from '../ui/use-return-focus';
import { ChangedLines } from './ChangedLines';

/** One version against what the board is now, and the way back to it. */
function Chosen({ board, id, version }: { board: Board; id: string; version: BoardVersion }) {
  const dispatch = useAppDispatch();
  const { data, error } = useVersionQuery({ id, revision: version.revision });
  const { data: datasets = [] } = useDatasetsQuery();
  const [name] = useNameVersionMutation();
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!data) return <p className="sv-loading">{tell('bench.versions.loading')}</p>;
  const then = boardLines(data.document, datasets, formulaEngine());
  const now = boardLines(board, datasets, formulaEngine());
  const same = JSON.stringify(data.document) === JSON.stringify(board);
  return (
    <div className="sv-version">
      <InlineText
        value={version.name ?? ''}
        label={tell('bench.versions.nameOfThisVersion')}
        placeholder={tell('bench.versions.nameThisVersion')}
        className="sv-version-name"
        mayBeEmpty
        onKeep={(text) => void name({ id, revision: version.revision, name: text })}
      />
      <div className="sv-version-pictures">
        <figure>
          <figcaption>{same ? tell('bench.versions.now') : tell('bench.versions.then')}</figcaption>
          <BoardPicture board={data.document} />
        </figure>
        {!same && (
          <figure>
            <figcaption>{tell('bench.versions.now')}</figcaption>
            <BoardPicture board={board} />
          </figure>
        )}
      </div>
      {same ? (
        <p>{tell('bench.versions.thisIsTheCurrentState')}</p>
      ) : (
        <>
          <p className="sv-editor-head">{tell('bench.versions.restoringThisVersionWouldChange')}</p>
          <ChangedLines added={linesOnlyIn(then, now)} removed={linesOnlyIn(now, then)} />
          <button
            type="button"
            className="btn btn-sm btn-primary"
            onClick={() => {
              dispatch(
                edit(tell('bench.versions.backToAVersion'), (draft) => {
                  for (const key of Object.keys(draft))
                    delete (draft as unknown as Record<string, unknown>)[key];
                  Object.assign(draft, data.document);
                }),
              );
              dispatch(noticed({ text: tell('bench.versions.versionRestoredUndoTakesYou') }));
            }}
          >
            {tell('bench.versions.restoreThisVersion')}
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
    <section
      aria-label={tell('bench.versions.versionsOfTheBoard')}
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <header>
        <h1>{tell('bench.versions.versions')}</h1>
        {/* biome-ignore lint/a11y/noAutofocus: it lies over the board, and Esc leads back at once */}
        <button type="button" className="btn btn-sm btn-quiet" autoFocus onClick={onClose}>
          {tell('bench.versions.backToTheBoard')}
        </button>
      </header>
      {error && <Problem>{problemText(error)}</Problem>}
      {!versions && !error && <p className="sv-loading">{tell('bench.versions.loading')}</p>}
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
                  <strong>{each.name ?? recentText(each.savedAt)}</strong>
                  <small>
                    {[
                      each.name && recentText(each.savedAt),
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
