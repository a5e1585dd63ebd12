import { formulaProblem } from '@sorvik/core/conditions/formula';
import { type MarkNames, markScope } from '@sorvik/core/conditions/mark-scope';
import { valueTypeOf } from '@sorvik/core/data/value-type';
import type { FormulaProblem } from '@sorvik/formula/expression';
import { leverNameOf } from '@sorvik/formula/lever-names';
import { useCallback, useMemo, useState } from 'react';
import { useFormulaEngine } from '../../board/use-formulas';
import { FormulaField } from '../../ui/FormulaField';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

const startsFor = (by: string) => [
  'RANK() OVER (ORDER BY value DESC) <= 3',
  'value > AVG(value) OVER ()',
  `value < LAG(value) OVER (ORDER BY ${by})`,
  'value BETWEEN 10 AND 20',
];

interface MarkFormulaProps extends EditorProps {
  problemOf(text: string, names: MarkNames): FormulaProblem | null;
  note: string;
  starts: readonly string[];
}

/** A formula over the marks of a chart, which shows what it says while it is typed. */
export function MarkFormula({
  board,
  chart,
  dataset,
  words,
  sentence,
  word,
  change,
  problemOf,
  note,
  starts,
}: MarkFormulaProps) {
  const [text, setText] = useState(String(word.value ?? ''));
  const engine = useFormulaEngine(true);
  const lever = words.lever;
  const { levers } = board;
  const names: MarkNames = useMemo(
    () => ({ ...chart, engine, lever, levers, typeOf: (dimension) => valueTypeOf(dimension, dataset) }),
    [chart, engine, lever, levers, dataset],
  );
  const problem = useMemo(() => problemOf(text, names), [problemOf, text, names]);
  const offered = useMemo(
    () => [
      ...markScope(names)
        .names()
        .map((name) => ({
          name,
          note: name === 'value' ? tell('bench.formulaEditor.whatTheChartShows') : 'field',
        })),
      ...levers.map(({ id, name }) => ({
        name: `:${leverNameOf(id)}`,
        note: tell('bench.formulaEditor.leverName', { name }),
      })),
    ],
    [names, levers],
  );
  return (
    <FormulaField
      label={tell('bench.formulaEditor.formula')}
      value={text}
      names={offered}
      problem={problem}
      note={note}
      starts={starts}
      onChange={(next) => {
        setText(next);
        if (next.trim()) change((draft) => setWord(draft, sentence, word, next));
      }}
    />
  );
}

/** A formula that is true of the marks to light. */
export function FormulaEditor(props: EditorProps) {
  const { chart } = props;
  const problemOf = useCallback(
    (text: string, names: MarkNames) => formulaProblem(text, chart, names),
    [chart],
  );
  return (
    <MarkFormula
      {...props}
      problemOf={problemOf}
      note={tell('bench.formulaEditor.sqlConditionMarksForWhich')}
      starts={startsFor(chart.by.field)}
    />
  );
}
