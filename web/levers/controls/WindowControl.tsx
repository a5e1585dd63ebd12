import {
  type WindowLever,
  type WindowPosition,
  windowAt,
  windowAxis,
  windowPlace,
  windowText,
} from '@sorvik/core/levers/window';
import { arrowStep } from '@sorvik/view/arrow-step';
import { pointerDrag } from '@sorvik/view/pointer-drag';
import { type KeyboardEvent, useEffect, useMemo, useRef } from 'react';
import { useLanguage } from '../../ui/language';
import { Problem } from '../../ui/Problem';
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
  const { locale, say } = useLanguage();
  const axis = windowAxis(lever, facts);
  const track = useRef<HTMLDivElement>(null);
  const place = axis ? windowPlace(position, axis) : { offset: 0, length: 0 };
  const go = (offset: number, passing = false) => axis && move(windowAt(position, axis, offset), passing);
  const count = axis?.count ?? 0;
  const now = useRef({ go, place, count });
  now.current = { go, place, count };
  // The grip is held where it was taken; beside it a press moves by a page.
  const drag = useMemo(() => {
    const periodAt = (x: number) => {
      const box = track.current!.getBoundingClientRect();
      return ((x - box.left) / Math.max(1, box.width)) * now.current.count;
    };
    return pointerDrag<{ held: number }>({
      begin({ x }, element, target) {
        const { place: at, go: to } = now.current;
        const pressed = periodAt(x);
        element.focus();
        if (target.closest('[data-grip]')) return { held: pressed - at.offset };
        to(pressed < at.offset ? at.offset - at.length : at.offset + at.length);
        return null;
      },
      move: ({ held }, { x }, passing) => now.current.go(periodAt(x) - held, passing),
    });
  }, []);

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

  if (!axis || axis.count === 0) return <Problem>{problem ?? say('window.empty')}</Problem>;
  const { offset, length } = place;
  const last = axis.count - length;
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowStep(event, { down: 'on', page: length });
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    go(Math.max(0, Math.min(last, offset + by)));
  };
  const share = (n: number) => `${(n / axis.count) * 100}%`;
  return (
    <div className="sv-window">
      <div className="sv-window-row">
        <button
          type="button"
          className="sv-step"
          aria-label={say('window.back', { lever: lever.name, noun: axis.noun(1, locale) })}
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
          aria-valuetext={windowText(position, axis, locale)}
          {...drag.on}
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
          aria-label={say('window.on', { lever: lever.name, noun: axis.noun(1, locale) })}
          disabled={offset >= last}
          onClick={() => go(offset + 1)}
        >
          ›
        </button>
      </div>
      {lever.resizable && (
        <div className="sv-boxes">
          <ValueBox
            label={say('window.howMany', { lever: lever.name, nouns: axis.noun(2, locale) })}
            text={`${locale.count(length)} ${axis.noun(length, locale)}`}
            onType={(typed) => {
              const wanted = Number.parseInt(typed.replace(/[\s,.]/g, ''), 10);
              if (!(wanted >= 1)) return say('typed.noCount');
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
