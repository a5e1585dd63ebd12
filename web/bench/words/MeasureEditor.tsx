import { type Aggregate, aggregates, type Measure } from '@sorvik/core/board/measure';
import { isNumeric } from '@sorvik/core/data/values';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import type { EditorProps } from './editor-kind';
import { asFormula, MeasureFormula } from './MeasureFormula';

const texts: Record<Aggregate | 'formula', string> = {
  sum: 'total',
  average: 'average',
  count: tell('bench.measureEditor.numberOfRows'),
  min: 'lowest',
  max: 'highest',
  formula: tell('bench.measureEditor.aFormula'),
};
const allRows = '';

export function MeasureEditor({ board, chart, dataset, words, change }: EditorProps) {
  const { aggregate, field, share } = chart.measure;
  const numbers = dataset.fields.filter(({ type }) => isNumeric(type));
  const set = (measure: Measure) =>
    change((draft) => {
      // What is taken as a share stays so, whatever it is a share of.
      draft.measure = { ...measure, ...(share ? { share } : {}) };
    });
  const chooseAggregate = (next: Aggregate | 'formula') => {
    if (next === 'formula') return set(asFormula(chart.measure));
    if (next === 'count') return set({ aggregate: next });
    const kept = numbers.find(({ key }) => key === field) ?? numbers[0];
    if (kept) set({ aggregate: next, field: kept.key });
  };
  const fields =
    aggregate === 'count'
      ? [
          { value: allRows, text: tell('bench.measureEditor.allRows') },
          ...dataset.fields.map(({ key, name }) => ({
            value: key,
            text: tell('bench.measureEditor.withName', { name }),
          })),
        ]
      : numbers.map(({ key, name }) => ({ value: key, text: name }));
  return (
    <div className="sv-two">
      <OptionList
        label={tell('bench.measureEditor.aggregate')}
        options={([...aggregates, 'formula'] as const).map((value) => ({
          value,
          text: texts[value],
          disabled: value !== 'count' && value !== 'formula' && !numbers.length,
        }))}
        chosen={aggregate}
        onChoose={chooseAggregate}
      />
      {aggregate === 'formula' ? (
        <MeasureFormula board={board} dataset={dataset} words={words} value={chart.measure} onChange={set} />
      ) : (
        <OptionList
          label={tell('bench.measureEditor.field')}
          options={fields}
          chosen={field ?? allRows}
          onChoose={(key) => set(key === allRows ? { aggregate } : { aggregate, field: key })}
        />
      )}
    </div>
  );
}
