import { liveNames } from '@sorvik/core/words/subtitle';
import { titleWithIds, titleWithNames } from '@sorvik/core/words/title-parts';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

/** A text with live words: numbers of marks, and what levers hold. */
export function LiveTextEditor({ board, sentence, word, change }: EditorProps) {
  const [text, setText] = useState(titleWithNames(String(word.value ?? ''), board));
  const set = (next: string) => {
    setText(next);
    change((draft) => setWord(draft, sentence, word, titleWithIds(next, board)));
  };
  const live = [...liveNames, ...board.levers.map(({ name }) => name)];
  return (
    <div className="sv-live-text">
      <Form.Control
        size="sm"
        aria-label={tell('bench.liveTextEditor.textUnderTheTitle')}
        maxLength={300}
        value={text}
        onChange={({ target }) => set(target.value)}
      />
      <p className="sv-editor-head">{tell('bench.liveTextEditor.placeholders')}</p>
      <div className="sv-live-words">
        {live.map((name) => (
          <button
            key={name}
            type="button"
            className="btn btn-sm btn-quiet"
            onClick={() => set(`${text}${text.endsWith(' ') || !text ? '' : ' '}{${name}}`)}
          >
            {`{${name}}`}
          </button>
        ))}
      </div>
    </div>
  );
}
