import type { Bound } from '@sorvik/core/levers/bound';
import type { NumberLever } from '@sorvik/core/levers/number';
import { english } from '@sorvik/core/messages/locale';
import { tell } from '../../ui/tell';
import { FigureLeverFields } from './FigureLeverFields';
import { Fields, FigureField, SelectField } from './fields';
import type { SetUpProps } from './setup-kind';

/** A bound that is written, or follows the data. */
function BoundFields({
  label,
  bound,
  dataset,
  onTake,
}: { label: string; bound: Bound; onTake(bound: Bound): void } & Pick<
  SetUpProps<NumberLever, number>,
  'dataset'
>) {
  const written = 'written';
  const fields = (dataset?.fields ?? []).filter((field) => field.type === 'text' || field.type === 'integer');
  const options = [
    { value: written, text: tell('levers.numberSetUp.thisFigure') },
    ...fields.map((field) => ({
      value: `values ${field.key}`,
      text: tell('levers.numberSetUp.theNumberOfField', {
        field: english.plural(english.inSentence(field.name)),
      }),
    })),
  ];
  return (
    <>
      <SelectField
        label={label}
        value={typeof bound === 'number' ? written : `${bound.of} ${bound.field}`}
        options={options}
        onTake={(chosen) =>
          onTake(chosen === written ? 10 : { of: 'values', field: chosen.slice('values '.length) })
        }
      />
      {typeof bound === 'number' && (
        <FigureField
          label={tell('levers.numberSetUp.labelFigure', { label })}
          value={bound}
          onTake={onTake}
        />
      )}
    </>
  );
}

/** Bounds, step and unit of a number. */
export function NumberSetUp({ lever, dataset, change }: SetUpProps<NumberLever, number>) {
  const setBound = (which: 'min' | 'max') => (bound: Bound) =>
    change((draft) => {
      draft[which] = bound;
      if (typeof bound === 'object' && dataset) draft.dataset = dataset.id;
    });
  return (
    <Fields>
      <BoundFields
        label={tell('levers.numberSetUp.from')}
        bound={lever.min}
        dataset={dataset}
        onTake={setBound('min')}
      />
      <BoundFields
        label={tell('levers.numberSetUp.upTo')}
        bound={lever.max}
        dataset={dataset}
        onTake={setBound('max')}
      />
      <FigureLeverFields lever={lever} change={change} />
    </Fields>
  );
}
