import type { Category } from '@sorvik/core/board/category';
import { fieldOf } from '@sorvik/core/data/dataset';
import { type Grain, grains } from '@sorvik/core/data/dimension';
import { isTemporal } from '@sorvik/core/data/values';
import { categoryOf, orderFor } from '@sorvik/core/edit/defaults';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import type { EditorProps } from './editor-kind';

const exact = 'exact';

export function ByEditor({ chart, dataset, change }: EditorProps) {
  const field = fieldOf(dataset, chart.by.field);
  const temporal = field && isTemporal(field.type);
  const set = (by: Category) =>
    change((draft) => {
      const before = fieldOf(dataset, draft.by.field);
      const after = fieldOf(dataset, by.field);
      const turned = (before && isTemporal(before.type)) !== (after && isTemporal(after.type));
      draft.by = by;
      if (turned) draft.order = orderFor(dataset, by);
    });
  return (
    <div className="sv-two">
      <OptionList
        label={tell('bench.byEditor.field')}
        options={dataset.fields.map((each) => ({
          value: each.key,
          text: each.name,
          ...(each.profile
            ? { note: tell('bench.byEditor.distinctValues', { distinct: each.profile.distinct }) }
            : {}),
        }))}
        chosen={chart.by.field}
        onChoose={(key) => set(categoryOf(fieldOf(dataset, key)!))}
      />
      {temporal && (
        <OptionList<Grain | typeof exact>
          label={tell('bench.byEditor.groupDatesBy')}
          options={[
            ...grains.map((value) => ({ value, text: value })),
            {
              value: exact,
              text:
                field.type === 'date'
                  ? tell('bench.byEditor.eachDate')
                  : tell('bench.byEditor.eachTimestamp'),
            },
          ]}
          chosen={chart.by.grain ?? exact}
          onChoose={(grain) =>
            set(grain === exact ? { field: chart.by.field } : { field: chart.by.field, grain })
          }
        />
      )}
    </div>
  );
}
