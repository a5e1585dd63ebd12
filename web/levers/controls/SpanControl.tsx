import type { KeyValue } from '@sorvik/core/data/values';
import { type SpanLever, type SpanPosition, spanAxis, spanBetween } from '@sorvik/core/levers/span';
import { presetInterval } from '@sorvik/core/levers/span-presets';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { useLanguage } from '../../ui/language';
import { Problem } from '../../ui/Problem';
import { Slider } from '../../ui/Slider';
import { ValueBox } from '../../ui/ValueBox';
import type { ControlProps } from '../control-kind';

const ends = ['from', 'to'] as const;

/** What reads typed days: fetched when one is typed, for most viewers slide. */
const loadDays = () => import('@sorvik/core/words/day-from');

/** A stretch set by its ends, moved as a whole, or taken from a list of usual ones. */
export function SpanControl({
  lever,
  position,
  facts,
  problem,
  move,
}: ControlProps<SpanLever, SpanPosition>) {
  const { locale, say } = useLanguage();
  const axis = spanAxis(lever, facts);
  if (!axis) return <Problem>{problem ?? say('span.none')}</Problem>;
  const dated = typeof axis.from(axis.min) === 'string';
  const held = position ?? { from: axis.from(axis.min), to: axis.to(axis.max) };
  const at = { from: axis.ordinal(held.from), to: axis.ordinal(held.to) };
  const between = (a: number, b: number) => spanBetween(axis.from(a), axis.to(b), axis);
  const clamp = (ordinal: number) => Math.max(axis.min, Math.min(axis.max, Math.round(ordinal)));
  const setEnd = (end: 'from' | 'to', ordinal: number, passing?: boolean) => {
    const other = end === 'from' ? at.to : at.from;
    const to = end === 'from' ? Math.min(clamp(ordinal), other) : Math.max(clamp(ordinal), other);
    // The end that is not moved stays where it was typed.
    move(
      end === 'from' ? { from: axis.from(to), to: held.to } : { from: held.from, to: axis.to(to) },
      passing,
    );
  };
  return (
    <div className={position ? 'sv-span' : 'sv-span is-empty'}>
      <Slider
        thumbs={ends.map((end) => ({
          label: say('span.end', { lever: lever.name, end }),
          value: at[end],
          text: axis.text(held[end], locale),
          min: end === 'from' ? axis.min : at.from,
          max: end === 'from' ? at.to : axis.max,
        }))}
        min={axis.min}
        max={axis.max}
        step={1}
        page={axis.page}
        fill="between"
        onMove={(thumb, ordinal, passing) => setEnd(ends[thumb]!, ordinal, passing)}
        onShift={(by, from, passing) => {
          const length = from[1]! - from[0]!;
          const start = Math.max(axis.min, Math.min(axis.max - length, Math.round(from[0]! + by)));
          move(between(start, start + length), passing);
        }}
      />
      <div className="sv-boxes">
        {ends.map((end) => (
          <ValueBox
            key={end}
            label={say('span.typed', { lever: lever.name, end })}
            text={position ? axis.text(held[end], locale) : ''}
            onType={async (typed) => {
              if (typed.trim() === '') {
                move(null);
                return undefined;
              }
              const value: KeyValue | undefined = dated
                ? (await loadDays()).dayFrom(typed, locale)
                : figureFrom(typed, locale).figure;
              if (value === undefined || Number.isNaN(value))
                return say(dated ? 'typed.noDate' : 'typed.noNumber', {
                  example: locale.date(new Date(Date.UTC(2021, 2, 12)), 'day'),
                });
              const other = held[end === 'from' ? 'to' : 'from'];
              // As typed: beyond the data, the lever says so.
              move(
                (end === 'from') === isUpTo(value, other)
                  ? ({ ...held, [end]: value } as SpanPosition)
                  : { from: value, to: value },
              );
              return undefined;
            }}
            onStep={(by) => setEnd(end, at[end] + by)}
          />
        ))}
      </div>
      <div className="sv-lever-tools">
        {lever.presets.map((preset) => {
          const interval = presetInterval(preset, lever, facts);
          return (
            <button
              key={preset}
              type="button"
              className="btn btn-link btn-sm"
              disabled={!interval}
              onClick={() => move(interval)}
            >
              {say('span.preset', { preset: preset.replaceAll(' ', '_') })}
            </button>
          );
        })}
        <button type="button" className="btn btn-link btn-sm" disabled={!position} onClick={() => move(null)}>
          {say('span.nothing')}
        </button>
      </div>
    </div>
  );
}

const isUpTo = (a: KeyValue, b: KeyValue) =>
  typeof a === 'number' && typeof b === 'number' ? a <= b : String(a) <= String(b);
