import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

/** A word that is one of several texts. */
export function OptionEditor({ sentence, word, change }: EditorProps) {
  return (
    <OptionList
      label={word.label ?? tell('bench.optionEditor.word')}
      options={word.options ?? []}
      chosen={word.value}
      onChoose={(value) => change((draft) => setWord(draft, sentence, word, value))}
    />
  );
}
