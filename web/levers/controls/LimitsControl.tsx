import { type LimitsLever, type LimitsPosition, limits, withLimit } from '@sorvik/core/levers/limits';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { pageSteps } from '@sorvik/view/arrow-step';
import { useLanguage } from '../../ui/language';
import { Slider } from '../../ui/Slider';
import { ValueBox } from '../../ui/ValueBox';
import type { ControlProps } from '../control-kind';
import { withoutUnit } from './NumberControl';

const parts = ['low', 'high'] as const;

/** Two limits on one track, with a box for each. */
export function LimitsControl({ lever, position, facts, move }: ControlProps<LimitsLever, LimitsPosition>) {
  const { locale, say } = useLanguage();
  const figures = limits.figures!;
  const bounds = figures.bounds(lever, facts);
  const share = lever.as === 'share';
  const stops = lever.meeting === 'stop';
  const to = (part: 'low' | 'high', figure: number) => figures.move(lever, position, part, figure, facts);
  return (
    <div className="sv-limits">
      <Slider
        thumbs={parts.map((part) => ({
          label: say('limit.name', { lever: lever.name, part }),
          value: position[part],
          text: figures.text(lever, position[part], locale),
          min: stops && part === 'high' ? position.low : bounds.min,
          max: stops && part === 'low' ? position.high : bounds.max,
        }))}
        {...bounds}
        page={pageSteps(bounds)}
        fill="between"
        onMove={(thumb, figure, passing) => move(to(parts[thumb]!, figure), passing)}
        onShift={(by, from, passing) => {
          const width = from[1]! - from[0]!;
          const low = Math.max(bounds.min, Math.min(bounds.max - width, from[0]! + by));
          const moved = figures.move(lever, { low, high: low + width }, 'low', low, facts);
          move(figures.move(lever, moved, 'high', low + width, facts), passing);
        }}
      />
      <div className="sv-boxes">
        {parts.map((part) => (
          <ValueBox
            key={part}
            label={say('limit.typed', { lever: lever.name, part })}
            text={figures.text(lever, position[part], locale)}
            onType={(typed) => {
              const { figure, percent } = figureFrom(withoutUnit(typed, lever.unit), locale);
              if (Number.isNaN(figure)) return say('typed.noFigure');
              const value = share && (percent || Math.abs(figure) > 1) ? figure / 100 : figure;
              // Past the other limit it pushes or stops; otherwise as typed, and the lever says what it makes of it.
              const inside = value >= bounds.min && value <= bounds.max;
              const crosses = part === 'low' ? value > position.high : value < position.low;
              move(
                inside && crosses ? withLimit(lever, position, part, value) : { ...position, [part]: value },
              );
              return undefined;
            }}
            onStep={(by) => move(to(part, position[part] + by * bounds.step))}
          />
        ))}
      </div>
    </div>
  );
}
