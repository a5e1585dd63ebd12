import type { Board } from '@sorvik/core/board/board';
import { usualLocale } from '@sorvik/core/words/locale';
import { useNavigate } from 'react-router';
import { problemText } from '../app/api';
import { useScratchMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch, useAppSelector } from '../app/store';
import { edit } from '../board/board-slice';
import { SelectField } from '../levers/setups/fields';
import { DropButton } from '../ui/DropButton';
import { boardLanguages } from './board-languages';

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
    <DropButton label="More" title="The board as a whole" placement="bottom-end">
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
              Edit a working copy
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
            Versions
          </button>
          <a className="sv-option" href={`/api/boards/${id}/file`} download onClick={close}>
            Save as a file
          </a>
          <a className="sv-option" href={`/api/boards/${id}/file?data=true`} download onClick={close}>
            Save as a file with its data
          </a>
          <SelectField
            label="Theme for viewers"
            value={board.ground ?? ''}
            options={[
              { value: '', text: "as set on the viewer's device" },
              { value: 'light', text: 'light' },
              { value: 'dark', text: 'dark' },
            ]}
            onTake={(ground) =>
              dispatch(
                edit('the ground', (draft) => {
                  if (ground === 'light' || ground === 'dark') draft.ground = ground;
                  else delete draft.ground;
                }),
              )
            }
          />
          <SelectField
            label="Language for viewers"
            value={board.locale ?? usualLocale}
            options={boardLanguages(board.locale)}
            onTake={(locale) =>
              dispatch(
                edit('the language', (draft) => {
                  if (locale === usualLocale) delete draft.locale;
                  else draft.locale = locale;
                }),
              )
            }
          />
          <button
            type="button"
            className="sv-option"
            onClick={() => {
              close();
              onKeys();
            }}
          >
            Keys <kbd>?</kbd>
          </button>
        </div>
      )}
    </DropButton>
  );
}
