import { fieldOf } from '@sorvik/core/data/dataset';
import { type Grain, grains } from '@sorvik/core/data/dimension';
import { isTemporal } from '@sorvik/core/data/values';
import type { SpanLever, SpanPosition } from '@sorvik/core/levers/span';
import { type SpanPreset, spanPresets } from '@sorvik/core/levers/span-presets';
import { tell } from '../../ui/tell';
import { OutsideField } from './FigureLeverFields';
import { CheckField, Fields, plainOptions, SelectField } from './fields';
import type { SetUpProps } from './setup-kind';

/** The step of a span, what it starts with, and which usual stretches it offers. */
export function SpanSetUp({ lever, dataset, change }: SetUpProps<SpanLever, SpanPosition>) {
  const field = dataset && fieldOf(dataset, lever.field);
  const dated = field && isTemporal(field.type);
  const start = lever.start === null ? 'nothing' : typeof lever.start === 'string' ? lever.start : 'these';
  return (
    <Fields>
      {dated && (
        <SelectField
          label={tell('levers.spanSetUp.step')}
          value={lever.grain ?? 'day'}
          options={plainOptions([...grains].reverse())}
          onTake={(grain) =>
            change((draft) => {
              draft.grain = grain as Grain;
            })
          }
        />
      )}
      <SelectField
        label={tell('levers.spanSetUp.startsWith')}
        value={start}
        options={[
          { value: 'nothing', text: tell('levers.spanSetUp.nothing') },
          ...(start === 'these'
            ? [{ value: 'these' as const, text: tell('levers.spanSetUp.customRange') }]
            : []),
          ...plainOptions(dated ? spanPresets : (['everything'] as const)),
        ]}
        onTake={(chosen) =>
          change((draft) => {
            if (chosen !== 'these') draft.start = chosen === 'nothing' ? null : (chosen as SpanPreset);
          })
        }
      />
      <OutsideField lever={lever} change={change} />
      {dated && (
        <fieldset className="sv-presets">
          <legend>{tell('levers.spanSetUp.offers')}</legend>
          {spanPresets.map((preset) => (
            <CheckField
              key={preset}
              label={preset}
              value={lever.presets.includes(preset)}
              onTake={(offered) =>
                change((draft) => {
                  draft.presets = spanPresets.filter((each) =>
                    each === preset ? offered : draft.presets.includes(each),
                  );
                })
              }
            />
          ))}
        </fieldset>
      )}
    </Fields>
  );
}
