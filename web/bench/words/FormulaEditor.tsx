import { formulaProblem } from '@sorvik/core/conditions/formula';
import type { ValueType } from '@sorvik/core/formula/expression';
import { leverNameOf } from '@sorvik/core/formula/lever-names';
import { markScope } from '@sorvik/core/formula/mark-scope';
import type { FieldCut } from '@sorvik/core/grain';
import { isNumeric } from '@sorvik/core/values';
import { useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

const startsFor = (by: string) => [
  'RANK() OVER (ORDER BY value DESC) <= 3',
  'value > AVG(value) OVER ()',
  `value < LAG(value) OVER (ORDER BY ${by})`,
  'value BETWEEN 10 AND 20',
];

/** A formula: what is wrong with it is marked where it stands, and the chart shows what it says while it is typed. */
export function FormulaEditor({ board, chart, words, sentence, word, change }: EditorProps) {
  const [text, setText] = useState(String(word.value ?? ''));
  const input = useRef<HTMLTextAreaElement>(null);
  const typeOf = (cut: FieldCut): ValueType => {
    const type = words.field(cut.field)?.type;
    return cut.grain ? 'date' : type && isNumeric(type) ? 'number' : ((type as ValueType) ?? 'text');
  };
  const lever = (id: string) => words.lever(id);
  const problem = formulaProblem(text, chart, { lever, levers: board.levers, typeOf });
  const set = (next: string) => {
    setText(next);
    if (next.trim()) change((draft) => setWord(draft, sentence, word, next));
  };
  const insert = (part: string) => {
    const at = input.current?.selectionStart ?? text.length;
    set(`${text.slice(0, at)}${part}${text.slice(at)}`);
    input.current?.focus();
  };
  const names = markScope({ ...chart, lever, typeOf, levers: board.levers });
  return (
    <div className="sv-formula">
      <Form.Control
        as="textarea"
        ref={input}
        rows={3}
        spellCheck={false}
        aria-label="Formula"
        aria-describedby="sv-formula-says"
        maxLength={10_000}
        value={text}
        isInvalid={problem !== null}
        onChange={({ target }) => set(target.value)}
      />
      <p id="sv-formula-says" className={problem ? 'sv-problem' : 'sv-editor-note'} role="status">
        {problem ? (
          <>
            {text.slice(Math.max(0, problem.from - 24), problem.from)}
            <mark>{text.slice(problem.from, problem.to) || ' '}</mark>
            {text.slice(problem.to, problem.to + 12)}: {problem.message}
          </>
        ) : (
          'A standard SQL expression that is true of the marks to light.'
        )}
      </p>
      <div className="sv-live-words">
        {[...names.names(), ...board.levers.map(({ id }) => `:${leverNameOf(id)}`)].map((name) => (
          <button key={name} type="button" className="btn btn-sm btn-quiet" onClick={() => insert(name)}>
            {name}
          </button>
        ))}
      </div>
      <p className="sv-editor-head">To begin with</p>
      {startsFor(chart.by.field).map((start) => (
        <button key={start} type="button" className="sv-option" onClick={() => set(start)}>
          <code>{start}</code>
        </button>
      ))}
    </div>
  );
}
