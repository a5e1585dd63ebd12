import { type SpanLever, type SpanPosition, spanAxis } from '@sorvik/core/levers/span';
import { element } from '@sorvik/view/element';
import { say } from '../say';
import type { ControlHost, ControlKind, LeverStanding } from './control-kind';
import { RangeRow } from './range-row';

const ends = ['from', 'to'] as const;

/** A slider for each end of a stretch. */
export const spanControl: ControlKind = {
  kind: 'span',
  make({ locale, move }: ControlHost<SpanPosition>) {
    let now: LeverStanding<SpanLever, SpanPosition>;
    const rows = ends.map(
      (end) =>
        new RangeRow((ordinal, passing) => {
          const axis = spanAxis(now.lever, now.facts)!;
          const held = now.position ?? { from: axis.from(axis.min), to: axis.to(axis.max) };
          const from = end === 'from' ? Math.min(ordinal, axis.ordinal(held.to)) : axis.ordinal(held.from);
          const to = end === 'to' ? Math.max(ordinal, axis.ordinal(held.from)) : axis.ordinal(held.to);
          // The end that is not moved stays as it is.
          move(
            end === 'from' ? { from: axis.from(from), to: held.to } : { from: held.from, to: axis.to(to) },
            passing,
          );
        }),
    );
    const nothing = element('button', '');
    nothing.type = 'button';
    nothing.textContent = say(locale, 'embed.lever.nothing');
    nothing.addEventListener('click', () => move(null));
    return {
      element: element('div', '', ...rows.map((row) => row.element), nothing),
      show(standing: LeverStanding<SpanLever, SpanPosition>) {
        now = standing;
        const { lever, position, facts } = standing;
        const axis = spanAxis(lever, facts);
        nothing.hidden = position === null;
        if (!axis) return;
        const held = position ?? { from: axis.from(axis.min), to: axis.to(axis.max) };
        ends.forEach((end, i) => {
          rows[i]!.show({
            ...{ min: axis.min, max: axis.max, step: 1, value: axis.ordinal(held[end]) },
            label: say(locale, 'embed.lever.end', { lever: lever.name, end }),
            text: axis.text(held[end], locale),
          });
        });
      },
    };
  },
};
