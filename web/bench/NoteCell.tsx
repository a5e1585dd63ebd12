import type { Board } from '@sorvik/core/board/board';
import type { Note } from '@sorvik/core/board/note';
import { titleWithIds, titleWithNames } from '@sorvik/core/words/title-parts';
import { lazy, Suspense, useState } from 'react';
import { useAppDispatch } from '../app/store';
import { edit, tryBegun, tryDropped, tryKept } from '../board/board-slice';
import { tell } from '../ui/tell';

const NoteText = lazy(() => import('../board/NoteText'));

/** A note on the bench: a press on "write" opens it as text; what is typed is there at once, Esc takes it back. */
export function NoteCell({ board, note }: { board: Board; note: Note }) {
  const dispatch = useAppDispatch();
  const [writing, setWriting] = useState(note.text === '');
  const [text, setText] = useState(titleWithNames(note.text, board));
  const begin = () => {
    setText(titleWithNames(note.text, board));
    dispatch(tryBegun());
    setWriting(true);
  };
  const end = (keep: boolean) => {
    setWriting(false);
    dispatch(keep ? tryKept(tell('bench.noteCell.aNote')) : tryDropped(tell('bench.noteCell.aNote')));
  };
  const change = (next: string) => {
    setText(next);
    dispatch(
      edit(tell('bench.noteCell.aNote'), (draft) => {
        const own = draft.notes?.find(({ id }) => id === note.id);
        if (own) own.text = titleWithIds(next, draft);
      }),
    );
  };
  const remove = () =>
    dispatch(
      edit(tell('bench.noteCell.aNoteRemoved'), (draft) => {
        draft.notes = draft.notes?.filter(({ id }) => id !== note.id) ?? [];
        if (!draft.notes.length) delete draft.notes;
      }),
    );
  if (writing)
    return (
      <div className="sv-note" data-part="note">
        <textarea
          // biome-ignore lint/a11y/noAutofocus: it is opened to be written in
          autoFocus
          aria-label={tell('bench.noteCell.noteInMarkdown')}
          placeholder={tell('bench.noteCell.noteInMarkdownLeverName')}
          maxLength={10_000}
          value={text}
          onFocus={() => dispatch(tryBegun())}
          onChange={({ target }) => change(target.value)}
          onBlur={() => end(true)}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') return;
            event.stopPropagation();
            end(false);
          }}
        />
      </div>
    );
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a long note scrolls, by the keyboard too
    <article className="sv-note" data-part="note" tabIndex={0}>
      <span className="sv-note-tools">
        <button type="button" className="btn btn-sm btn-quiet" onClick={begin}>
          {tell('bench.noteCell.edit')}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-quiet"
          aria-label={tell('bench.noteCell.removeTheNote')}
          onClick={remove}
        >
          ×
        </button>
      </span>
      <Suspense fallback={null}>
        {note.text ? (
          <NoteText board={board} text={note.text} />
        ) : (
          <p className="sv-none">{tell('bench.noteCell.anEmptyNote')}</p>
        )}
      </Suspense>
    </article>
  );
}
