import { formKinds } from '@sorvik/core/forms/registry';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import type { EditorProps } from './editor-kind';

export function FormEditor({ chart, change }: EditorProps) {
  return (
    <OptionList
      label={tell('bench.formEditor.form')}
      options={formKinds.all().map(({ kind, word, note }) => ({
        value: kind,
        text: word,
        ...(note ? { note } : {}),
      }))}
      chosen={chart.form}
      onChoose={(form) =>
        change((draft) => {
          draft.form = form;
        })
      }
    />
  );
}
