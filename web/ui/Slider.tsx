import { perFrame } from '@sorvik/view/per-frame';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef } from 'react';

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
  /** What Page Up and Page Down move by. */
  page: number;
  /** Moves a thumb to a value; `passing` while the pointer is still down. */
  onMove(thumb: number, value: number, passing: boolean): void;
  /** Moves all thumbs together by so much from where they were when it began; left out where they do not move together. */
  onShift?(by: number, from: number[], passing: boolean): void;
  /** What of the track is drawn strong. */
  fill: 'up to' | 'between';
}

const moves: Record<string, (props: Props) => number> = {
  ArrowRight: ({ step }) => step,
  ArrowUp: ({ step }) => step,
  ArrowLeft: ({ step }) => -step,
  ArrowDown: ({ step }) => -step,
  PageUp: ({ page }) => page,
  PageDown: ({ page }) => -page,
};

/** A slider with one thumb or several, moved by pointer and by keyboard. Values are not rounded: their owner does. */
export function Slider(props: Props) {
  const { thumbs, min, max, fill } = props;
  const track = useRef<HTMLDivElement>(null);
  const current = useRef(props);
  current.current = props;
  const drag = useRef<{ thumb: number; from: number[]; startX: number; box: DOMRect } | null>(null);
  const valueAt = (x: number) => {
    const box = drag.current?.box ?? track.current!.getBoundingClientRect();
    const { min: low, max: high } = current.current;
    return low + Math.max(0, Math.min(1, (x - box.left) / Math.max(1, box.width))) * (high - low);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: it reads what is current when it is called
  const send = useMemo(
    () =>
      perFrame((x: number) => {
        const { onMove, onShift } = current.current;
        if (!drag.current) return;
        const value = valueAt(x);
        if (drag.current.thumb >= 0) onMove(drag.current.thumb, value, true);
        else onShift?.(value - valueAt(drag.current.startX), drag.current.from, true);
      }),
    [],
  );
  const share = (value: number) =>
    max > min ? Math.max(0, Math.min(100, ((value - min) / (max - min)) * 100)) : 0;

  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    event.preventDefault();
    const onThumb = (event.target as HTMLElement).closest<HTMLElement>('[data-thumb]');
    const value = valueAt(event.clientX);
    let thumb: number;
    if (onThumb) thumb = Number(onThumb.dataset.thumb);
    else if ((event.target as HTMLElement).closest('[data-fill]') && props.onShift) thumb = -1;
    else {
      const distances = thumbs.map((each) => Math.abs(each.value - value));
      thumb = distances.lastIndexOf(Math.min(...distances));
      // Of thumbs in one place the one that can go that way is taken.
      if (thumbs.length > 1 && thumbs.every((each) => each.value === thumbs[0]!.value))
        thumb = value < thumbs[0]!.value ? 0 : thumbs.length - 1;
    }
    const box = track.current!.getBoundingClientRect();
    drag.current = { thumb, from: thumbs.map((each) => each.value), startX: event.clientX, box };
    event.currentTarget.setPointerCapture(event.pointerId);
    track.current!.querySelectorAll<HTMLElement>('[role=slider]')[Math.max(0, thumb)]?.focus();
    if (thumb >= 0 && !onThumb) send(event.clientX);
  };
  const onPointerMove = (event: PointerEvent) => {
    if (drag.current) send(event.clientX);
  };
  const onPointerUp = (event: PointerEvent) => {
    if (!drag.current) return;
    send.cancel();
    const { thumb, from, startX } = drag.current;
    drag.current = null;
    const moved = Math.abs(event.clientX - startX) > 0;
    if (thumb >= 0) {
      const held = from[thumb]!;
      const onto =
        (event.target as HTMLElement).closest('[data-thumb]') && !moved ? held : valueAt(event.clientX);
      props.onMove(thumb, onto, false);
    } else if (moved) props.onShift?.(valueAt(event.clientX) - valueAt(startX), from, false);
  };
  const onKeyDown = (event: KeyboardEvent, thumb: number) => {
    const { value } = thumbs[thumb]!;
    const by = moves[event.key]?.(props);
    const to =
      by !== undefined ? value + by : event.key === 'Home' ? min : event.key === 'End' ? max : undefined;
    if (to === undefined || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    props.onMove(thumb, Math.max(min, Math.min(max, to)), false);
  };
  const places = thumbs.map(({ value }) => share(value));
  const low = fill === 'between' ? Math.min(...places) : 0;
  return (
    <div
      className="sv-slider"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={onPointerUp}
    >
      <div className="sv-slider-track" ref={track}>
        <div
          className={props.onShift ? 'sv-slider-fill is-movable' : 'sv-slider-fill'}
          data-fill=""
          style={{ left: `${low}%`, width: `${Math.max(...places) - low}%` }}
        />
        {thumbs.map((thumb, i) => (
          <div
            key={thumb.label}
            className="sv-thumb"
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
