import { type LimitsLever, type LimitsPosition, meetings } from '@sorvik/core/levers/limits';
import { tell } from '../../ui/tell';
import { FigureLeverFields } from './FigureLeverFields';
import { Fields, FigureField, plainOptions, SelectField } from './fields';
import type { SetUpProps } from './setup-kind';

const figures = ['min', 'max'] as const;
const labels = { min: tell('levers.limitsSetUp.from'), max: tell('levers.limitsSetUp.upTo') } as const;

/** Bounds of limits, what they are of, and what happens where they meet. */
export function LimitsSetUp({ lever, change }: SetUpProps<LimitsLever, LimitsPosition>) {
  return (
    <Fields>
      <SelectField
        label={tell('levers.limitsSetUp.limitsAre')}
        value={lever.as}
        options={[
          { value: 'value', text: tell('levers.limitsSetUp.valuesOfAMeasure') },
          { value: 'share', text: tell('levers.limitsSetUp.percentOfTheVisibleValue') },
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
              : tell('levers.limitsSetUp.theLowerLimitMustStay')
          }
          onTake={(figure) =>
            change((draft) => {
              draft[which] = figure;
            })
          }
        />
      ))}
      <SelectField
        label={tell('levers.limitsSetUp.whenTheyMeetALimit')}
        value={lever.meeting}
        options={plainOptions(meetings, {
          push: tell('levers.limitsSetUp.pushesTheOtherAlong'),
          stop: tell('levers.limitsSetUp.stopsAtTheOther'),
        })}
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
