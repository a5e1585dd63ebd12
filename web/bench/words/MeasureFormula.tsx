import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Measure } from '@sorvik/core/board/measure';
import { measureAsText } from '@sorvik/core/board/measure-as-text';
import { isNumeric } from '@sorvik/core/data/values';
import { kindOf } from '@sorvik/core/levers/registry';
import { measureProblem } from '@sorvik/core/pipeline/measure-formula';
import { nameOfFormula } from '@sorvik/core/words/formula-name';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { leverNameOf } from '@sorvik/formula/lever-names';
import { useMemo, useState } from 'react';
import { Form } from 'react-bootstrap';
import { useFormulaEngine } from '../../board/use-formulas';
import { FormulaField } from '../../ui/FormulaField';
import { tell } from '../../ui/tell';

interface Props {
  board: Board;
  dataset: DatasetView;
  words: Vocabulary;
  value: Measure;
  onChange(measure: Measure): void;
}

/** A measure as the formula that says the same. */
export const asFormula = (measure: Measure): Measure => ({
  aggregate: 'formula',
  text: measureAsText(measure),
  ...(measure.format ? { format: measure.format } : {}),
});

/** A measure that is a formula: what can be computed is on the chart while it is typed. */
export function MeasureFormula({ board, dataset, words, value, onChange }: Props) {
  const [text, setText] = useState(value.text ?? '');
  const engine = useFormulaEngine(true);
  const problem = useMemo(() => measureProblem(text, board, dataset, engine), [engine, text, board, dataset]);
  const fields = dataset.fields.filter(({ type }) => isNumeric(type));
  const names = useMemo(
    () => [
      ...dataset.fields
        .filter(({ type }) => isNumeric(type))
        .map(({ key, name }) => ({ name: key, note: name, put: `SUM(${key})` })),
      ...board.levers.map((lever) => ({
        name: `:${leverNameOf(lever.id)}`,
        note: tell('bench.measureFormula.leverLever', { lever: lever.name }),
      })),
    ],
    [dataset, board.levers],
  );
  // What is spoken of already comes first.
  const [a, b] = fields
    .map(({ key }) => key)
    .sort((x, y) => Number(text.includes(y)) - Number(text.includes(x)));
  const number = board.levers.find((lever) => kindOf(lever).figures?.parts.length === 1);
  const key = dataset.fields.find(({ type }) => type === 'text');
  const starts = [
    ...(a && b ? [`SUM(${b}) / SUM(${a})`] : []),
    ...(a ? [`SUM(${a}) / COUNT(*)`] : []),
    ...(a ? [`PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY ${a})`] : []),
    ...(key ? [`COUNT(DISTINCT ${key.key})`] : []),
    ...(a && number ? [`SUM(${a}) * (1 + :${leverNameOf(number.id)} / 100)`] : []),
  ];
  const suggested = value.name?.trim() ? null : nameOfFormula(text, words);
  const kept = (next: string) => {
    setText(next);
    if (next.trim() && !measureProblem(next, board, dataset, engine)) onChange({ ...value, text: next });
  };
  return (
    <div className="sv-measure-formula">
      <Form.Control
        size="sm"
        aria-label={tell('bench.measureFormula.nameOfTheMeasure')}
        placeholder={tell('bench.measureFormula.nameForTitlesAndLegends')}
        maxLength={80}
        value={value.name ?? ''}
        onChange={({ target }) => {
          const { name: _name, ...rest } = value;
          onChange(target.value ? { ...rest, name: target.value } : rest);
        }}
      />
      {suggested && (
        <button
          type="button"
          className="btn btn-sm btn-quiet"
          onClick={() => onChange({ ...value, name: suggested })}
        >
          {tell('bench.measureFormula.callItSuggested', { suggested })}
        </button>
      )}
      <FormulaField
        label={tell('bench.measureFormula.formula')}
        value={text}
        names={names}
        problem={problem}
        note={tell('bench.measureFormula.sqlAggregatesAsSumSales')}
        starts={starts}
        onChange={kept}
      />
    </div>
  );
}
