import { arrowStep } from '@sorvik/view/arrow-step';
import { pointerDrag } from '@sorvik/view/pointer-drag';
import { type KeyboardEvent, useMemo, useRef } from 'react';

export interface Thumb {
  label: string;
  value: number;
  text: string;
  /** How far it may be moved, for assistive technology; left out: the slider's bounds. */
  min?: number;
  max?: number;
}

interface Props {
  thumbs: Thumb[];
  min: number;
  max: number;
  step: number;
  /** How many steps Page Up and Page Down are worth. */
  page: number;
  /** Moves a thumb to a value; `passing` while the pointer is still down. */
  onMove(thumb: number, value: number, passing: boolean): void;
  /** Moves all thumbs together by so much from where they were when it began; left out where they do not move together. */
  onShift?(by: number, from: number[], passing: boolean): void;
  /** What of the track is drawn strong. */
  fill: 'up to' | 'between';
}

/** What is dragged: one thumb, or all of them where it is -1, and where they were. */
interface Dragged {
  thumb: number;
  from: number[];
  start: number;
  box: DOMRect;
  /** The press was on the thumb itself: it stays where it is until the pointer moves. */
  onThumb: boolean;
}

/** The thumb that a press beside all of them means; of some in one place the one that can go that way. */
function nearestThumb(thumbs: readonly Thumb[], value: number): number {
  const first = thumbs[0]!.value;
  if (thumbs.every((each) => each.value === first)) return value < first ? 0 : thumbs.length - 1;
  const distances = thumbs.map((each) => Math.abs(each.value - value));
  return distances.lastIndexOf(Math.min(...distances));
}

/** A slider with one thumb or several, moved by pointer and by keyboard. Values are not rounded: their owner does. */
export function Slider(props: Props) {
  const { thumbs, min, max, fill } = props;
  const track = useRef<HTMLDivElement>(null);
  const current = useRef(props);
  current.current = props;
  const drag = useMemo(() => {
    const valueAt = (x: number, box: DOMRect) => {
      const { min: low, max: high } = current.current;
      return low + Math.max(0, Math.min(1, (x - box.left) / Math.max(1, box.width))) * (high - low);
    };
    const to = ({ thumb, from, start, box, onThumb }: Dragged, x: number, passing: boolean) => {
      const { onMove, onShift } = current.current;
      const moved = x !== start;
      if (thumb >= 0) onMove(thumb, onThumb && !moved ? from[thumb]! : valueAt(x, box), passing);
      else if (moved) onShift?.(valueAt(x, box) - valueAt(start, box), from, passing);
    };
    return pointerDrag<Dragged>({
      begin({ x }, _element, target) {
        const { thumbs: now, onShift } = current.current;
        const box = track.current!.getBoundingClientRect();
        const held = target.closest<HTMLElement>('[data-thumb]');
        const thumb = held
          ? Number(held.dataset.thumb)
          : target.closest('[data-fill]') && onShift
            ? -1
            : nearestThumb(now, valueAt(x, box));
        track.current!.querySelectorAll<HTMLElement>('[role=slider]')[Math.max(0, thumb)]?.focus();
        const dragged = { thumb, from: now.map((each) => each.value), start: x, box, onThumb: held !== null };
        if (thumb >= 0 && !held) to(dragged, x, true);
        return dragged;
      },
      move: (dragged, { x }, passing) => to(dragged, x, passing),
    });
  }, []);
  const share = (value: number) =>
    max > min ? Math.max(0, Math.min(100, ((value - min) / (max - min)) * 100)) : 0;

  const onKeyDown = (event: KeyboardEvent, thumb: number) => {
    const { value } = thumbs[thumb]!;
    const { step, page } = props;
    const by = arrowStep(event, { down: 'back', page });
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    props.onMove(thumb, Math.max(min, Math.min(max, value + by * step)), false);
  };
  const places = thumbs.map(({ value }) => share(value));
  const low = fill === 'between' ? Math.min(...places) : 0;
  return (
    <div className="sv-slider" data-part="slider" {...drag.on}>
      <div className="sv-slider-track" data-part="slider-track" ref={track}>
        <div
          className={props.onShift ? 'sv-slider-fill is-movable' : 'sv-slider-fill'}
          data-fill=""
          style={{ left: `${low}%`, width: `${Math.max(...places) - low}%` }}
        />
        {thumbs.map((thumb, i) => (
          <div
            key={thumb.label}
            className="sv-thumb"
            data-part="thumb"
            data-thumb={i}
            role="slider"
            tabIndex={0}
            aria-label={thumb.label}
            aria-valuemin={thumb.min ?? min}
            aria-valuemax={thumb.max ?? max}
            aria-valuenow={thumb.value}
            aria-valuetext={thumb.text}
            style={{ left: `${places[i]}%` }}
            onKeyDown={(event) => onKeyDown(event, i)}
          />
        ))}
      </div>
    </div>
  );
}
