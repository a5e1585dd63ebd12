import { formulaProblem } from '@sorvik/core/conditions/formula';
import { leverNameOf } from '@sorvik/core/formula/lever-names';
import { type MarkNames, markScope } from '@sorvik/core/formula/mark-scope';
import { valueTypeOf } from '@sorvik/core/formula/value-type';
import { useMemo, useState } from 'react';
import { FormulaField } from '../../ui/FormulaField';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

const startsFor = (by: string) => [
  'RANK() OVER (ORDER BY value DESC) <= 3',
  'value > AVG(value) OVER ()',
  `value < LAG(value) OVER (ORDER BY ${by})`,
  'value BETWEEN 10 AND 20',
];

/** A formula that is true of the marks to light: the chart shows what it says while it is typed. */
export function FormulaEditor({ board, chart, dataset, words, sentence, word, change }: EditorProps) {
  const [text, setText] = useState(String(word.value ?? ''));
  const lever = words.lever;
  const { levers } = board;
  const names: MarkNames = useMemo(
    () => ({ ...chart, lever, levers, typeOf: (cut) => valueTypeOf(cut, dataset) }),
    [chart, lever, levers, dataset],
  );
  const problem = useMemo(() => formulaProblem(text, chart, names), [text, chart, names]);
  const offered = useMemo(
    () => [
      ...markScope(names)
        .names()
        .map((name) => ({ name, note: name === 'value' ? 'what the chart shows' : 'field' })),
      ...levers.map(({ id, name }) => ({ name: `:${leverNameOf(id)}`, note: `lever ${name}` })),
    ],
    [names, levers],
  );
  return (
    <FormulaField
      label="Formula"
      value={text}
      names={offered}
      problem={problem}
      note="A standard SQL expression that is true of the marks to light."
      starts={startsFor(chart.by.field)}
      onChange={(next) => {
        setText(next);
        if (next.trim()) change((draft) => setWord(draft, sentence, word, next));
      }}
    />
  );
}
