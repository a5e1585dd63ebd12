import {
  type WindowLever,
  type WindowPosition,
  windowAt,
  windowAxis,
  windowPlace,
  windowText,
} from '@sorvik/core/levers/window';
import { plural } from '@sorvik/core/words/plural';
import { perFrame } from '@sorvik/view/per-frame';
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef } from 'react';
import { ValueBox } from '../../ui/ValueBox';
import type { ControlProps } from '../control-kind';

/** A bar to move a window along its axis: by step, by page, by drag and by wheel. */
export function WindowControl({
  lever,
  position,
  facts,
  problem,
  move,
}: ControlProps<WindowLever, WindowPosition>) {
  const axis = windowAxis(lever, facts);
  const track = useRef<HTMLDivElement>(null);
  const drag = useRef<{ grip: number } | null>(null);
  const place = axis ? windowPlace(position, axis) : { offset: 0, length: 0 };
  const go = (offset: number, passing = false) => axis && move(windowAt(position, axis, offset), passing);
  const now = useRef({ go, place });
  now.current = { go, place };
  const send = useMemo(() => perFrame((offset: number) => now.current.go(offset, true)), []);

  useEffect(() => {
    const element = track.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const { place: at, go: to } = now.current;
      const by = Math.sign(event.deltaY || event.deltaX) * (event.shiftKey ? at.length : 1);
      if (by) to(at.offset + by);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  });

  if (!axis || axis.count === 0)
    return <p className="sv-problem">{problem ?? 'There are no periods to move along.'}</p>;
  const { offset, length } = place;
  const last = axis.count - length;
  const periodAt = (x: number) => {
    const box = track.current!.getBoundingClientRect();
    return ((x - box.left) / Math.max(1, box.width)) * axis.count;
  };
  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    event.preventDefault();
    event.currentTarget.focus();
    const at = periodAt(event.clientX);
    const onThumb = (event.target as HTMLElement).closest('[data-grip]');
    if (onThumb) {
      drag.current = { grip: at - offset };
      event.currentTarget.setPointerCapture(event.pointerId);
    } else go(at < offset ? offset - length : offset + length);
  };
  const onPointerUp = (event: PointerEvent) => {
    if (!drag.current) return;
    send.cancel();
    go(periodAt(event.clientX) - drag.current.grip);
    drag.current = null;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = {
      ArrowRight: offset + 1,
      ArrowDown: offset + 1,
      ArrowLeft: offset - 1,
      ArrowUp: offset - 1,
      PageDown: offset + length,
      PageUp: offset - length,
      Home: 0,
      End: last,
    };
    if (!(event.key in steps) || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    go(steps[event.key]!);
  };
  const share = (n: number) => `${(n / axis.count) * 100}%`;
  return (
    <div className="sv-window">
      <div className="sv-window-row">
        <button
          type="button"
          className="sv-step"
          aria-label={`${lever.name}: one ${axis.noun} back`}
          disabled={offset === 0}
          onClick={() => go(offset - 1)}
        >
          ‹
        </button>
        <div
          ref={track}
          className="sv-window-track"
          role="scrollbar"
          tabIndex={0}
          aria-label={lever.name}
          aria-controls="sv-charts"
          aria-orientation="horizontal"
          aria-valuemin={0}
          aria-valuemax={last}
          aria-valuenow={offset}
          aria-valuetext={windowText(position, axis)}
          onPointerDown={onPointerDown}
          onPointerMove={(event) => drag.current && send(periodAt(event.clientX) - drag.current.grip)}
          onPointerUp={onPointerUp}
          onPointerCancel={onPointerUp}
          onKeyDown={onKeyDown}
        >
          <div
            className="sv-window-grip"
            data-grip=""
            style={{ left: share(offset), width: `max(10px, ${share(length)})` }}
          />
        </div>
        <button
          type="button"
          className="sv-step"
          aria-label={`${lever.name}: one ${axis.noun} on`}
          disabled={offset >= last}
          onClick={() => go(offset + 1)}
        >
          ›
        </button>
      </div>
      {lever.resizable && (
        <div className="sv-boxes">
          <ValueBox
            label={`${lever.name}, how many ${plural(axis.noun)}`}
            text={`${length.toLocaleString('en')} ${length === 1 ? axis.noun : plural(axis.noun)}`}
            onType={(typed) => {
              const wanted = Number.parseInt(typed.replace(/[\s,]/g, ''), 10);
              if (!(wanted >= 1)) return 'A whole number from 1 on.';
              move(windowAt({ ...position, length: Math.min(wanted, axis.count) }, axis, offset));
              return undefined;
            }}
            onStep={(by) =>
              move(
                windowAt(
                  { ...position, length: Math.max(1, Math.min(axis.count, length + by)) },
                  axis,
                  offset,
                ),
              )
            }
          />
        </div>
      )}
    </div>
  );
}
