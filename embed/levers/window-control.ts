import {
  type WindowLever,
  type WindowPosition,
  windowAt,
  windowAxis,
  windowPlace,
  windowText,
} from '@sorvik/core/levers/window';
import type { ControlHost, ControlKind, LeverStanding } from './control-kind';
import { RangeRow } from './range-row';

/** A slider that moves a window along its axis. */
export const windowControl: ControlKind = {
  kind: 'window',
  tells: true,
  make({ locale, move }: ControlHost<WindowPosition>) {
    let now: LeverStanding<WindowLever, WindowPosition>;
    const row = new RangeRow((offset, passing) => {
      const axis = windowAxis(now.lever, now.facts);
      if (axis) move(windowAt(now.position, axis, offset), passing);
    });
    return {
      element: row.element,
      show(standing: LeverStanding<WindowLever, WindowPosition>) {
        now = standing;
        const { lever, position, facts } = standing;
        const axis = windowAxis(lever, facts);
        if (!axis) return;
        const { offset, length } = windowPlace(position, axis);
        row.show({
          ...{ min: 0, max: Math.max(0, axis.count - length), step: 1, value: offset },
          label: lever.name,
          text: windowText(position, axis, locale),
        });
      },
    };
  },
};
