import { type NumberLever, number, numberBounds } from '@sorvik/core/levers/number';
import type { ControlHost, ControlKind, LeverStanding } from './control-kind';
import { RangeRow } from './range-row';

/** A slider. */
export const numberControl: ControlKind = {
  kind: 'number',
  tells: true,
  make({ locale, move }: ControlHost<number>) {
    const figures = number.figures!;
    let now: LeverStanding<NumberLever, number>;
    const row = new RangeRow((value, passing) =>
      move(figures.move(now.lever, now.position, 'value', value, now.facts), passing),
    );
    return {
      element: row.element,
      show(standing: LeverStanding<NumberLever, number>) {
        now = standing;
        const { lever, position, facts } = standing;
        row.show({
          ...numberBounds(lever, facts),
          value: position,
          label: lever.name,
          text: figures.text(lever, position, locale),
        });
      },
    };
  },
};
