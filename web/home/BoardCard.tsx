import type { SavedBoard } from '@sorvik/core/board/api-types';
import { produce } from 'immer';
import { Dropdown } from 'react-bootstrap';
import { Link } from 'react-router';
import { createPatch } from 'rfc6902';
import { problemText } from '../app/api';
import { useDeleteBoardMutation, useDuplicateBoardMutation, usePatchBoardMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch } from '../app/store';
import { BoardPicture } from '../board/BoardPicture';
import { ShareButton } from '../people/Share';
import { InlineText } from '../ui/InlineText';
import { tell } from '../ui/tell';
import { useSeen } from '../ui/use-seen';

/** A board on the home page: its picture, its name, and what can be done with it as a whole. */
export function BoardCard({ board }: { board: SavedBoard }) {
  const dispatch = useAppDispatch();
  const [patch] = usePatchBoardMutation();
  const [duplicate] = useDuplicateBoardMutation();
  const [remove] = useDeleteBoardMutation();
  const { id, revision, document } = board;
  const { ref, seen } = useSeen();
  const failed = (error: unknown) => dispatch(noticed({ text: problemText(error) }));
  const rename = async (title: string) => {
    const next = produce(document, (draft) => {
      draft.title = title;
    });
    const result = await patch({ id, revision, patch: createPatch(document, next) });
    if ('error' in result) failed(result.error);
  };
  return (
    <article className="sv-card" data-board={id}>
      <Link
        ref={ref}
        to={board.viewed ? `/show/${id}` : `/boards/${id}`}
        aria-label={tell('home.boardCard.openDocument', { document: document.title })}
      >
        {/* A live picture asks for its data: of a hundred boards those are drawn that are looked at. */}
        {seen ? <BoardPicture board={document} /> : <div className="sv-picture" />}
      </Link>
      <div className="sv-card-foot">
        {board.viewed ? (
          <span className="sv-card-title">{document.title}</span>
        ) : (
          <InlineText
            value={document.title}
            label={tell('home.boardCard.titleOfTheBoard')}
            className="sv-card-title"
            onKeep={rename}
          />
        )}
        {board.owned && <ShareButton kind="board" id={id} of={document.title} />}
        <Dropdown align="end" hidden={board.viewed}>
          <Dropdown.Toggle
            size="sm"
            variant="link"
            className="btn-quiet"
            aria-label={tell('home.boardCard.moreForDocument', { document: document.title })}
          >
            {tell('home.boardCard.more')}
          </Dropdown.Toggle>
          <Dropdown.Menu>
            <Dropdown.Item as={Link} to={`/show/${id}`}>
              {tell('home.boardCard.show')}
            </Dropdown.Item>
            <Dropdown.Item
              onClick={async () => {
                const result = await duplicate(id);
                if ('error' in result) failed(result.error);
              }}
            >
              {tell('home.boardCard.duplicate')}
            </Dropdown.Item>
            <Dropdown.Item
              onClick={async () => {
                const result = await remove(id);
                if ('error' in result) failed(result.error);
                else
                  dispatch(
                    noticed({
                      text: tell('home.boardCard.documentIsDeleted', { document: document.title }),
                      undo: { kind: 'board', id },
                    }),
                  );
              }}
            >
              {tell('home.boardCard.delete')}
            </Dropdown.Item>
          </Dropdown.Menu>
        </Dropdown>
      </div>
      {board.scratchOf !== null && <p>{tell('home.boardCard.workingCopy')}</p>}
      {document.subtitle && <p>{document.subtitle}</p>}
    </article>
  );
}
