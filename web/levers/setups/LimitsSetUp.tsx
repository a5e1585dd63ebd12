import { type LimitsLever, type LimitsPosition, meetings } from '@sorvik/core/levers/limits';
import { FigureLeverFields } from './FigureLeverFields';
import { Fields, FigureField, plainOptions, SelectField } from './fields';
import type { SetUpProps } from './setup-kind';

const figures = ['min', 'max'] as const;
const labels = { min: 'From', max: 'Up to' } as const;

/** Bounds of limits, what they are of, and what happens where they meet. */
export function LimitsSetUp({ lever, change }: SetUpProps<LimitsLever, LimitsPosition>) {
  return (
    <Fields>
      <SelectField
        label="Limits are"
        value={lever.as}
        options={[
          { value: 'value', text: 'values of a measure' },
          { value: 'share', text: 'percent of the visible value range' },
        ]}
        onTake={(as) =>
          change((draft) => {
            draft.as = as;
            if (as !== 'share') return;
            Object.assign(draft, { min: 0, max: 1, step: 0.01, start: { low: 0.25, high: 0.75 } });
            delete draft.unit;
          })
        }
      />
      {figures.map((which) => (
        <FigureField
          key={which}
          label={labels[which]}
          value={lever[which]}
          accept={(figure) =>
            (which === 'min' ? figure < lever.max : figure > lever.min)
              ? undefined
              : 'The lower limit must stay below the upper limit.'
          }
          onTake={(figure) =>
            change((draft) => {
              draft[which] = figure;
            })
          }
        />
      ))}
      <SelectField
        label="When they meet, a limit"
        value={lever.meeting}
        options={plainOptions(meetings, { push: 'pushes the other along', stop: 'stops at the other' })}
        onTake={(meeting) =>
          change((draft) => {
            draft.meeting = meeting;
          })
        }
      />
      <FigureLeverFields lever={lever} change={change} />
    </Fields>
  );
}
