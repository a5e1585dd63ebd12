import { english } from '@sorvik/core/messages/locale';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

/** An end of the value axis: where the readings have it, or a figure written here. */
export function AxisEndEditor({ sentence, word, change }: EditorProps) {
  const [text, setText] = useState(typeof word.value === 'number' ? String(word.value) : '');
  const fits = text === '' || Number.isFinite(figureFrom(text, english).figure);
  return (
    <div className="sv-two">
      <Form.Group>
        <Form.Label className="sv-editor-head" htmlFor="axis-end">
          {tell('bench.axisEndEditor.fixedAt')}
        </Form.Label>
        <Form.Control
          id="axis-end"
          size="sm"
          inputMode="decimal"
          placeholder="1200"
          value={text}
          isInvalid={!fits}
          onChange={({ target }) => {
            setText(target.value);
            const { figure } = figureFrom(target.value, english);
            if (Number.isFinite(figure)) change((draft) => setWord(draft, sentence, word, figure));
          }}
        />
        {!fits && (
          <Form.Text className="text-danger">{tell('bench.axisEndEditor.enterANumberAsOr')}</Form.Text>
        )}
      </Form.Group>
      <div>
        <p className="sv-editor-head">{tell('bench.axisEndEditor.orAt')}</p>
        <OptionList
          label={word.label ?? tell('bench.axisEndEditor.endOfTheAxis')}
          options={word.options ?? []}
          chosen={word.value}
          onChoose={(value) => {
            setText('');
            change((draft) => setWord(draft, sentence, word, value));
          }}
        />
      </div>
    </div>
  );
}
