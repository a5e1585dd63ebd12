import { format } from 'd3-format';
import type { FigureFormat } from '../board/figure-format';
import { briefNumberText, numberText, numberWriter, shortNumberText } from './number-text';

/** How the figures of a measure read, in the places where they stand. */
export interface FigureWriter {
  /** One by itself; NaN is "no value". */
  full(value: number): string;
  /** In as few letters as will do, beside crowded marks. */
  brief(value: number): string;
  /** At an axis. */
  tick(value: number): string;
  /** Figures beside each other: all with the same decimals. */
  beside(values: ArrayLike<number>): (value: number) => string;
}

const plain: FigureWriter = {
  full: numberText,
  brief: briefNumberText,
  tick: shortNumberText,
  beside: numberWriter,
};

const noBreak = '\u00a0';
/** A unit of letters stands off its figure; a sign before it does not. */
const before = (unit: string) => (/\p{L}$/u.test(unit) ? `${unit}${noBreak}` : unit);

const writers = new WeakMap<FigureFormat, FigureWriter>();

/** How figures read by the author's word; as plain numbers where there is none. */
export function figureWriter(wanted: FigureFormat | undefined): FigureWriter {
  if (!wanted) return plain;
  const known = writers.get(wanted);
  if (known) return known;
  const { as, decimals, unit, unitAt, signed } = wanted;
  const factor = as === 'percent' ? 100 : 1;
  const fixed = decimals === undefined ? null : format(`,.${decimals}f`);
  const dress = (text: string) => {
    const whole = as === 'percent' ? `${text}${noBreak}%` : text;
    if (!unit) return whole;
    if (unitAt !== 'before') return `${whole}${noBreak}${unit}`;
    return whole.startsWith('−') ? `−${before(unit)}${whole.slice(1)}` : `${before(unit)}${whole}`;
  };
  const dressed = (write: (value: number) => string) => (value: number) => {
    if (Number.isNaN(value)) return numberText(value);
    const text = dress(write(value * factor));
    return signed && value > 0 ? `+${text}` : text;
  };
  const own = fixed ?? (as === 'brief' ? briefNumberText : numberText);
  const writer: FigureWriter = {
    full: dressed(own),
    brief: dressed(fixed && as !== 'brief' ? fixed : briefNumberText),
    tick: dressed(shortNumberText),
    beside(values) {
      if (fixed || as === 'brief') return dressed(own);
      return dressed(numberWriter(Float64Array.from(values, (value) => value * factor)));
    },
  };
  writers.set(wanted, writer);
  return writer;
}
