import { type FigureLever, type Outside, outsides } from '@sorvik/core/levers/figure-lever';
import { tell } from '../../ui/tell';
import { FigureField, plainOptions, positive, SelectField, TextField } from './fields';

interface Props<L> {
  lever: L;
  change(recipe: (lever: L) => void): void;
}

/** What becomes of a position outside the bounds. */
export function OutsideField<L extends { outside: Outside }>({ lever, change }: Props<L>) {
  return (
    <SelectField
      label={tell('levers.figureLeverFields.ifOutOfRangeUse')}
      value={lever.outside}
      options={plainOptions(outsides, {
        nearest: tell('levers.figureLeverFields.theNearestLimit'),
        start: tell('levers.figureLeverFields.theStart'),
      })}
      onTake={(outside) =>
        change((draft) => {
          draft.outside = outside;
        })
      }
    />
  );
}

/** Step and unit of a lever that holds figures, and what it makes of figures outside. */
export function FigureLeverFields<L extends FigureLever>({ lever, change }: Props<L>) {
  return (
    <>
      <FigureField
        label={tell('levers.figureLeverFields.step')}
        value={lever.step}
        accept={positive}
        onTake={(step) =>
          change((draft) => {
            draft.step = step;
          })
        }
      />
      <TextField
        label={tell('levers.figureLeverFields.unit')}
        value={lever.unit ?? ''}
        onTake={(unit) =>
          change((draft) => {
            if (unit.trim()) draft.unit = unit.trim().slice(0, 20);
            else delete draft.unit;
          })
        }
      />
      <OutsideField lever={lever} change={change} />
    </>
  );
}
