import { aggregates, type Measure } from '@sorvik/core/board/measure';
import { isNumeric } from '@sorvik/core/data/values';
import { isTopStart, type PickLever, type TopStart } from '@sorvik/core/levers/pick';
import type { PickPosition } from '@sorvik/core/levers/pick-moves';
import { tell } from '../../ui/tell';
import { Fields, FigureField, SelectField } from './fields';
import type { SetUpProps } from './setup-kind';

const none = '';

/** What a pick starts with, and how its list is grouped. */
export function PickSetUp({ lever, dataset, change }: SetUpProps<PickLever, PickPosition>) {
  const top = isTopStart(lever.start) ? lever.start : null;
  const numbers = (dataset?.fields ?? []).filter((field) => isNumeric(field.type));
  const others = (dataset?.fields ?? []).filter((field) => field.key !== lever.field);
  const measures: { value: string; text: string; measure: Measure }[] = [
    { value: 'count', text: tell('levers.pickSetUp.numberOfRows'), measure: { aggregate: 'count' } },
    ...numbers.flatMap((field) =>
      aggregates
        .filter((aggregate) => aggregate === 'sum' || aggregate === 'average')
        .map((aggregate) => ({
          value: `${aggregate} ${field.key}`,
          text: `${aggregate === 'sum' ? 'total' : 'average'} ${field.name}`,
          measure: { aggregate, field: field.key },
        })),
    ),
  ];
  const setTop = (part: Partial<TopStart>) =>
    change((draft) => {
      const first = measures[1] ?? measures[0]!;
      draft.start = { ...(top ?? { top: 3, side: 'highest', measure: first.measure }), ...part };
    });
  return (
    <Fields>
      <SelectField
        label={tell('levers.pickSetUp.startsWith')}
        value={top ? top.side : Array.isArray(lever.start) && lever.start.length ? 'these' : 'none'}
        options={[
          { value: 'none', text: tell('levers.pickSetUp.nothing') },
          ...(Array.isArray(lever.start) && lever.start.length
            ? [
                {
                  value: 'these' as const,
                  text: tell('levers.pickSetUp.startPickedValues', { start: lever.start.length }),
                },
              ]
            : []),
          { value: 'highest', text: tell('levers.pickSetUp.theHighestBy') },
          { value: 'lowest', text: tell('levers.pickSetUp.theLowestBy') },
        ]}
        onTake={(start) => {
          if (start === 'highest' || start === 'lowest') setTop({ side: start });
          else if (start === 'none')
            change((draft) => {
              draft.start = [];
            });
        }}
      />
      {top && (
        <>
          <FigureField
            label={tell('levers.pickSetUp.howMany')}
            value={top.top}
            accept={(n) =>
              Number.isInteger(n) && n >= 1 && n <= 1000 ? undefined : tell('levers.pickSetUp.fromTo')
            }
            onTake={(n) => setTop({ top: n })}
          />
          <SelectField
            label={tell('levers.pickSetUp.by')}
            value={[top.measure.aggregate, top.measure.field].filter(Boolean).join(' ')}
            options={measures}
            onTake={(chosen) => setTop({ measure: measures.find(({ value }) => value === chosen)!.measure })}
          />
        </>
      )}
      <SelectField
        label={tell('levers.pickSetUp.groupedBy')}
        value={lever.groupBy ?? none}
        options={[
          { value: none, text: tell('levers.pickSetUp.nothing') },
          ...others
            .filter((field) => (field.profile?.distinct ?? 0) <= 500)
            .map((field) => ({ value: field.key, text: field.name })),
        ]}
        onTake={(field) =>
          change((draft) => {
            if (field) draft.groupBy = field;
            else delete draft.groupBy;
          })
        }
      />
    </Fields>
  );
}
