import { fieldOf } from '@sorvik/core/data/dataset';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { problemText, useFieldValuesQuery } from '../../app/api';
import { OptionList } from '../../ui/OptionList';
import { Problem } from '../../ui/Problem';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

const mostListed = 200;

/** One value of the chart's category. */
export function KeyValueEditor({ chart, dataset, sentence, word, change }: EditorProps) {
  const { field } = chart.by;
  const { data, error } = useFieldValuesQuery({
    id: dataset.id,
    key: field,
    search: '',
    offset: 0,
    limit: mostListed,
    version: dataset.version,
  });
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!data) return <p className="sv-loading">{tell('bench.keyValueEditor.loading')}</p>;
  const type = fieldOf(dataset, field)?.type;
  return (
    <OptionList
      label={word.label ?? tell('bench.keyValueEditor.value')}
      options={data.values.map(({ value }) => ({ value, text: keyText(value, english, type) }))}
      chosen={word.value}
      onChoose={(value) => change((draft) => setWord(draft, sentence, word, value))}
    />
  );
}
