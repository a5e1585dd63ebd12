import { type NumberLever, number, numberBounds } from '@sorvik/core/levers/number';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { pageSteps } from '@sorvik/view/arrow-step';
import { useLanguage } from '../../ui/language';
import { Slider } from '../../ui/Slider';
import { ValueBox } from '../../ui/ValueBox';
import type { ControlProps } from '../control-kind';

/** What was typed without the unit that stands in the box. */
export const withoutUnit = (text: string, unit: string | undefined) =>
  unit && text.trim().endsWith(unit) ? text.trim().slice(0, -unit.length) : text;

/** A slider with a box to type in. */
export function NumberControl({ lever, position, facts, move }: ControlProps<NumberLever, number>) {
  const { locale, say } = useLanguage();
  const figures = number.figures!;
  const bounds = numberBounds(lever, facts);
  const text = figures.text(lever, position, locale);
  const to = (figure: number) => figures.move(lever, position, 'value', figure, facts);
  return (
    <div className="sv-number">
      <Slider
        thumbs={[{ label: lever.name, value: position, text }]}
        {...bounds}
        page={pageSteps(bounds)}
        fill="up to"
        onMove={(_thumb, figure, passing) => move(to(figure), passing)}
      />
      <ValueBox
        label={say('typed.name', { lever: lever.name })}
        text={text}
        onType={(typed) => {
          const { figure } = figureFrom(withoutUnit(typed, lever.unit), locale);
          if (Number.isNaN(figure)) return say('typed.noFigure');
          // As typed: where it lies outside the bounds, the lever says so.
          move(figure);
          return undefined;
        }}
        onStep={(by) => move(to(position + by * bounds.step))}
      />
    </div>
  );
}
