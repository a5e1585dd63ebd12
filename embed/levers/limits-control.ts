import { type LimitsLever, type LimitsPosition, limits } from '@sorvik/core/levers/limits';
import { element } from '@sorvik/view/element';
import { say } from '../say';
import type { ControlHost, ControlKind, LeverStanding } from './control-kind';
import { RangeRow } from './range-row';

const parts = ['low', 'high'] as const;

/** A slider for each limit. */
export const limitsControl: ControlKind = {
  kind: 'limits',
  make({ locale, move }: ControlHost<LimitsPosition>) {
    const figures = limits.figures!;
    let now: LeverStanding<LimitsLever, LimitsPosition>;
    const rows = parts.map(
      (part) =>
        new RangeRow((value, passing) =>
          move(figures.move(now.lever, now.position, part, value, now.facts) as LimitsPosition, passing),
        ),
    );
    return {
      element: element('div', '', ...rows.map((row) => row.element)),
      show(standing: LeverStanding<LimitsLever, LimitsPosition>) {
        now = standing;
        const { lever, position, facts } = standing;
        parts.forEach((part, i) => {
          rows[i]!.show({
            ...figures.bounds(lever, facts),
            value: position[part],
            label: say(locale, 'embed.lever.limit', { lever: lever.name, end: part }),
            text: figures.text(lever, position[part], locale),
          });
        });
      },
    };
  },
};
