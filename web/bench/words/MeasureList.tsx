import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { type Measure, measureKey } from '@sorvik/core/board/measure';
import { measureText } from '@sorvik/core/words/measure-text';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import { asFormula, MeasureFormula } from './MeasureFormula';
import { measureOptions } from './measure-options';

interface Props {
  label: string;
  board: Board;
  dataset: DatasetView;
  words: Vocabulary;
  value: Measure | undefined;
  /** Measures that the chart shows already, to be named again. */
  known?: readonly Measure[];
  /** How the choice of no measure reads; left out, one has to be chosen. */
  none?: string;
  onChoose(measure: Measure | undefined): void;
}

const nothing = '';
const formula = 'formula';

/** Any measure of a dataset, or a formula. */
export function MeasureList({ label, board, dataset, words, value, known = [], none, onChoose }: Props) {
  const own = known.map((measure) => ({
    value: measureKey(measure),
    text: measureText(measure, words),
    note: tell('bench.measureList.onThisChart'),
    measure,
  }));
  const measures = [
    ...own,
    ...measureOptions(dataset, words).filter((each) => own.every((other) => other.value !== each.value)),
  ];
  const isFormula = value?.aggregate === formula && own.every((each) => each.value !== measureKey(value));
  if (isFormula)
    return (
      <>
        <MeasureFormula board={board} dataset={dataset} words={words} value={value} onChange={onChoose} />
        <button
          type="button"
          className="sv-option"
          onClick={() => onChoose(none === undefined ? { aggregate: 'count' } : undefined)}
        >
          {tell('bench.measureList.useAFieldInsteadOf')}
        </button>
      </>
    );
  return (
    <OptionList
      label={label}
      options={[
        ...(none === undefined
          ? []
          : [
              {
                value: nothing,
                text: none,
                ...(own.length ? { note: tell('bench.measureList.onThisChart') } : {}),
              },
            ]),
        ...own,
        { value: formula, text: tell('bench.measureList.aFormula') },
        ...measures.slice(own.length),
      ]}
      chosen={value ? measureKey(value) : nothing}
      onChoose={(key) => {
        if (key === formula) onChoose(asFormula(value ?? { aggregate: 'count' }));
        else onChoose(measures.find((each) => each.value === key)?.measure);
      }}
    />
  );
}
