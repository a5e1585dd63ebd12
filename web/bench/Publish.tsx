import { skipToken } from '@reduxjs/toolkit/query/react';
import type { Board } from '@sorvik/core/board/board';
import { boardLines, linesOnlyIn } from '@sorvik/core/text/board-lines';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useDatasetsQuery, usePublishMutation, useVersionQuery } from '../app/editing-api';
import { useAppDispatch, useAppSelector } from '../app/store';
import { publishedSet } from '../board/board-slice';
import { formulaEngine } from '../board/formula-engine';
import { DropButton } from '../ui/DropButton';
import { ChangedLines } from './ChangedLines';

function Asked({ board, close }: { board: Board; close(): void }) {
  const dispatch = useAppDispatch();
  const { id, revision, published, status } = useAppSelector((state) => state.board);
  const { data: datasets = [] } = useDatasetsQuery();
  const { data: shown, error } = useVersionQuery(
    id && published !== null ? { id, revision: published } : skipToken,
  );
  const [publish, { isLoading, error: failure }] = usePublishMutation();
  const now = boardLines(board, datasets, formulaEngine());
  const before = shown && boardLines(shown.document, datasets, formulaEngine());
  const same = revision === published;
  return (
    <div className="sv-publish">
      {published === null ? (
        <p>Nothing is published yet: whoever has the link sees the draft as it changes.</p>
      ) : same ? (
        <p>Viewers see the board just as it is here.</p>
      ) : (
        <p>Viewers see an earlier state. What the draft says otherwise:</p>
      )}
      {before && !same && (
        <ChangedLines added={linesOnlyIn(now, before)} removed={linesOnlyIn(before, now)} />
      )}
      {(error || failure) && <p className="sv-problem">{problemText(error ?? failure)}</p>}
      <div className="sv-row">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={same || isLoading || status !== 'saved'}
          onClick={async () => {
            const made = await publish({ id: id!, revision });
            if (!('data' in made)) return;
            dispatch(publishedSet(revision));
            close();
          }}
        >
          Publish this
        </button>
        <Link className="btn btn-sm btn-quiet" to={`/show/${id}/draft${location.search}`} target="_blank">
          Look at the draft as a viewer
        </Link>
      </div>
    </div>
  );
}

/** Shows viewers the draft from now on, once it has been said what that changes for them. */
export function Publish({ board }: { board: Board }) {
  const { revision, published, status } = useAppSelector((state) => state.board);
  const same = revision === published && status === 'saved';
  return (
    <DropButton
      label={same ? 'Published' : published === null ? 'Publish' : 'Publish changes'}
      title="What viewers see"
      placement="bottom-end"
      className={same ? '' : 'sv-outlined'}
    >
      {(close) => <Asked board={board} close={close} />}
    </DropButton>
  );
}
