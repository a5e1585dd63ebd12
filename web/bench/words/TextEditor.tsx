import { Form } from 'react-bootstrap';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

/** A word that is any text. */
export function TextEditor({ sentence, word, change }: EditorProps) {
  return (
    <Form.Control
      size="sm"
      aria-label={word.label}
      maxLength={80}
      value={String(word.value ?? '')}
      onChange={(event) => {
        const text = event.target.value;
        change((draft) => setWord(draft, sentence, word, text));
      }}
    />
  );
}
