import { formKinds } from '@sorvik/core/forms/registry';
import { OptionList } from '../../ui/OptionList';
import type { EditorProps } from './editor-kind';

const notes: Record<string, string> = { bars: 'lying', columns: 'standing' };

export function FormEditor({ chart, change }: EditorProps) {
  return (
    <OptionList
      label="Form"
      options={formKinds.all().map(({ kind, noun }) => ({
        value: kind,
        text: noun,
        ...(notes[kind] ? { note: notes[kind] } : {}),
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
