import { formKinds } from '@sorvik/core/forms/registry';
import { OptionList } from '../../ui/OptionList';
import type { EditorProps } from './editor-kind';

export function FormEditor({ chart, change }: EditorProps) {
  return (
    <OptionList
      label="Form"
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
