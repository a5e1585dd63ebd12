import { type Board, grounds } from '@sorvik/core/board/board';
import { usualLocale } from '@sorvik/core/messages/locale';
import { useNavigate } from 'react-router';
import { problemText } from '../app/api';
import { useScratchMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch, useAppSelector } from '../app/store';
import { SelectField } from '../levers/setups/fields';
import { DropButton } from '../ui/DropButton';
import { tell } from '../ui/tell';
import { boardLanguages } from './board-languages';
import { inLanguage, onGround } from './board-settings';

interface Props {
  board: Board;
  onVersions(): void;
  onKeys(): void;
}

/** What is done with the board as a whole. */
export function BoardMenu({ board, onVersions, onKeys }: Props) {
  const { id, scratchOf, status } = useAppSelector((state) => state.board);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [scratch] = useScratchMutation();
  const trySomething = async () => {
    const made = await scratch(id!);
    if ('data' in made) navigate(`/boards/${made.data!.id}`);
    else dispatch(noticed({ text: problemText(made.error) }));
  };
  return (
    <DropButton
      label={tell('bench.boardMenu.more')}
      title={tell('bench.boardMenu.theBoardAsAWhole')}
      placement="bottom-end"
    >
      {(close) => (
        <div className="sv-board-menu">
          {scratchOf === null && (
            <button
              type="button"
              className="sv-option"
              disabled={status !== 'saved'}
              onClick={() => {
                close();
                void trySomething();
              }}
            >
              {tell('bench.boardMenu.editAWorkingCopy')}
            </button>
          )}
          <button
            type="button"
            className="sv-option"
            onClick={() => {
              close();
              onVersions();
            }}
          >
            {tell('bench.boardMenu.versions')}
          </button>
          <a className="sv-option" href={`/api/boards/${id}/file`} download onClick={close}>
            {tell('bench.boardMenu.saveAsAFile')}
          </a>
          <a className="sv-option" href={`/api/boards/${id}/file?data=true`} download onClick={close}>
            {tell('bench.boardMenu.saveAsAFileWith')}
          </a>
          <SelectField
            label={tell('bench.boardMenu.themeForViewers')}
            value={board.ground ?? ''}
            options={[
              { value: '', text: tell('bench.boardMenu.asSetOnTheViewer') },
              { value: 'light', text: tell('bench.boardMenu.light') },
              { value: 'dark', text: tell('bench.boardMenu.dark') },
            ]}
            onTake={(ground) => dispatch(onGround(grounds.find((each) => each === ground)))}
          />
          <SelectField
            label={tell('bench.boardMenu.languageForViewers')}
            value={board.locale ?? usualLocale}
            options={boardLanguages(board.locale)}
            onTake={(locale) => dispatch(inLanguage(locale))}
          />
          <button
            type="button"
            className="sv-option"
            onClick={() => {
              close();
              onKeys();
            }}
          >
            {tell('bench.boardMenu.keys')} <kbd>?</kbd>
          </button>
        </div>
      )}
    </DropButton>
  );
}
