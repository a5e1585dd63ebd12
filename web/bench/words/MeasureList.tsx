import type { Board } from '@sorvik/core/board/board';
import { type Measure, measureKey } from '@sorvik/core/board/measure';
import type { DatasetView } from '@sorvik/core/exchange';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { OptionList } from '../../ui/OptionList';
import { asFormula, MeasureFormula } from './MeasureFormula';
import { measureOptions } from './measure-options';

interface Props {
  label: string;
  board: Board;
  dataset: DatasetView;
  words: Vocabulary;
  value: Measure | undefined;
  /** How the choice of no measure reads; left out, one has to be chosen. */
  none?: string;
  onChoose(measure: Measure | undefined): void;
}

const nothing = '';
const formula = 'formula';

/** Any measure of a dataset, or a formula. */
export function MeasureList({ label, board, dataset, words, value, none, onChoose }: Props) {
  const measures = measureOptions(dataset, words);
  const isFormula = value?.aggregate === formula;
  if (isFormula)
    return (
      <>
        <MeasureFormula board={board} dataset={dataset} value={value} onChange={onChoose} />
        <button
          type="button"
          className="sv-option"
          onClick={() => onChoose(none === undefined ? { aggregate: 'count' } : undefined)}
        >
          no formula: choose a measure
        </button>
      </>
    );
  return (
    <OptionList
      label={label}
      options={[
        { value: formula, text: 'a formula ..' },
        ...(none === undefined ? [] : [{ value: nothing, text: none }]),
        ...measures,
      ]}
      chosen={value ? measureKey(value) : nothing}
      onChoose={(key) => {
        if (key === formula) onChoose(asFormula(value ?? { aggregate: 'count' }));
        else onChoose(measures.find((each) => each.value === key)?.measure);
      }}
    />
  );
}
