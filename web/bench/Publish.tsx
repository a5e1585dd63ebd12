import { skipToken } from '@reduxjs/toolkit/query/react';
import type { Board } from '@sorvik/core/board/board';
import { kindOf } from '@sorvik/core/levers/registry';
import { isAtStart, settledPosition } from '@sorvik/core/levers/settled-positions';
import { english } from '@sorvik/core/messages/locale';
import { say } from '@sorvik/core/messages/say';
import { boardLines, linesOnlyIn } from '@sorvik/core/text/board-lines';
import { useState } from 'react';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useDatasetsQuery, usePublishMutation, useVersionQuery } from '../app/editing-api';
import { useAppDispatch, useAppSelector } from '../app/store';
import { edit, publishedSet } from '../board/board-slice';
import { formulaEngine } from '../board/formula-engine';
import { useKnownFacts } from '../levers/facts-context';
import { DropButton } from '../ui/DropButton';
import { Problem } from '../ui/Problem';
import { tell, tellWith } from '../ui/tell';
import { ChangedLines } from './ChangedLines';

/** Where viewers will find the levers, and where they stand here where that is elsewhere. */
function Starts({ board }: { board: Board }) {
  const dispatch = useAppDispatch();
  const { facts } = useKnownFacts();
  const now = useAppSelector((state) => state.positions.now);
  const levers = board.levers.map((lever) => {
    const kind = kindOf(lever);
    const text = (position: unknown) => kind.summary(lever, position, facts[lever.id], english);
    const { position } = settledPosition(lever, now, facts);
    const { position: start } = settledPosition(lever, {}, facts);
    return {
      lever,
      start: text(start),
      here: isAtStart(lever, now, facts) ? null : text(position),
      position,
    };
  });
  const moved = levers.filter(({ here }) => here !== null);
  if (!levers.length) return null;
  return (
    <div className="sv-starts">
      <p>{tell('bench.publish.leversStartAt')}</p>
      <ul>
        {levers.map(({ lever, start, here }) => (
          <li key={lever.id}>
            {tellWith('bench.publish.leverStarts', {
              lever: lever.name,
              start: <strong key="start">{start || say(english, 'lever.nothing')}</strong>,
              moved: here === null ? 'no' : 'yes',
              here: here || say(english, 'lever.nothing'),
            })}
          </li>
        ))}
      </ul>
      {moved.length > 0 && (
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          onClick={() =>
            dispatch(
              edit(tell('bench.publish.whereLeversStart'), (draft) => {
                for (const { lever, position } of moved) {
                  const target = draft.levers.find(({ id }) => id === lever.id);
                  if (target) Object.assign(target, kindOf(lever).startAt(lever, position));
                }
              }),
            )
          }
        >
          {tell('bench.publish.startAtTheCurrentPositions')}
        </button>
      )}
    </div>
  );
}

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
        <p>{tell('bench.publish.notPublishedYetEveryoneWith')}</p>
      ) : same ? (
        <p>{tell('bench.publish.viewersSeeTheCurrentDraft')}</p>
      ) : (
        <p>{tell('bench.publish.viewersSeeAnEarlierVersion')}</p>
      )}
      {before && !same && (
        <ChangedLines added={linesOnlyIn(now, before)} removed={linesOnlyIn(before, now)} />
      )}
      <Starts board={board} />
      {(error || failure) && <Problem>{problemText(error ?? failure)}</Problem>}
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
          {tell('bench.publish.publish')}
        </button>
        <Link className="btn btn-sm btn-quiet" to={`/show/${id}/draft${location.search}`} target="_blank">
          {tell('bench.publish.previewTheDraftAsA')}
        </Link>
        {published !== null && <CopyAddress path={`/show/${id}${location.search}`} />}
      </div>
    </div>
  );
}

/** Copies where viewers find the board: it is for whoever may see it. */
function CopyAddress({ path }: { path: string }) {
  const [copied, setCopied] = useState(false);
  const copy = () =>
    navigator.clipboard.writeText(new URL(path, location.href).href).then(() => setCopied(true));
  return (
    <button type="button" className="btn btn-sm btn-quiet" onClick={() => void copy()}>
      {copied ? tell('people.copied') : tell('bench.publish.copyLink')}
    </button>
  );
}

/** Shows viewers the draft from now on, once it has been said what that changes for them. */
export function Publish({ board }: { board: Board }) {
  const { revision, published, status } = useAppSelector((state) => state.board);
  const same = revision === published && status === 'saved';
  return (
    <DropButton
      label={
        same
          ? tell('bench.publish.published')
          : published === null
            ? tell('bench.publish.publish')
            : tell('bench.publish.publishChanges')
      }
      title={tell('bench.publish.whatViewersSee')}
      placement="bottom-end"
      className={same ? '' : 'sv-outlined'}
    >
      {(close) => <Asked board={board} close={close} />}
    </DropButton>
  );
}
