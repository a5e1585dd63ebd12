import { markAt, nearestMark } from '@sorvik/core/forms/hit-test';
import type { PickPosition } from '@sorvik/core/levers/pick';
import { added, stretchOf, toggled } from '@sorvik/core/levers/pick-moves';
import type { Lever } from '@sorvik/core/levers/registry';
import { leverKinds } from '@sorvik/core/levers/registry';
import type { StageOutput } from '@sorvik/core/stages/chart-stages';

/** What the gestures on a chart work with, asked for anew at each gesture. */
export interface TouchTarget {
  output: StageOutput;
  lever: Lever;
  position: PickPosition;
  move(position: PickPosition): void;
  /** Makes a mark the one in hand; what the keyboard takes in hand is shown. */
  focus(index: number, byKeyboard: boolean): void;
}

const slack = 4;

/** Pointer and keyboard on a chart whose marks can be picked. Returns how to let go of it. */
export function attachTouches(svg: SVGSVGElement, target: () => TouchTarget | null): () => void {
  let anchor = -1;
  let at = -1;
  let drag: {
    from: number;
    to: number;
    base: PickPosition;
    adding: boolean;
    onMark: boolean;
    x: number;
    y: number;
    moved: boolean;
  } | null = null;

  const pointIn = (event: PointerEvent) => {
    const box = svg.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const valueAt = ({ output }: TouchTarget, index: number) => output.readings.category[index] ?? null;
  const stretch = (touched: TouchTarget, from: number, to: number) => {
    const low = Math.max(0, Math.min(from, to));
    return touched.output.readings.category
      .slice(low, Math.max(from, to) + 1)
      .filter((value) => value !== null);
  };
  const clear = ({ lever, position, move }: TouchTarget) =>
    move(leverKinds.get(lever.kind).clear(lever, position) as PickPosition);

  function onPointerDown(event: PointerEvent) {
    const touched = target();
    if (!touched || event.button !== 0) return;
    const { x, y } = pointIn(event);
    const index = markAt(touched.output.scene, x, y);
    const adding = event.ctrlKey || event.metaKey;
    const from =
      event.shiftKey && anchor >= 0 ? anchor : index >= 0 ? index : nearestMark(touched.output.scene, x, y);
    drag = {
      from,
      to: index,
      base: adding ? touched.position : [],
      adding,
      onMark: index >= 0,
      x,
      y,
      moved: false,
    };
    if (event.pointerType !== 'touch') svg.setPointerCapture(event.pointerId);
    if (index < 0) return;
    const value = valueAt(touched, index);
    if (event.shiftKey && anchor >= 0) touched.move(added(drag.base, stretch(touched, anchor, index)));
    else {
      anchor = index;
      if (value !== null) touched.move(adding ? toggled(touched.position, value) : [value]);
    }
    at = index;
    touched.focus(index, false);
  }

  function onPointerMove(event: PointerEvent) {
    const touched = drag && target();
    if (!drag || !touched || event.pointerType === 'touch') return;
    const { x, y } = pointIn(event);
    if (!drag.moved && Math.hypot(x - drag.x, y - drag.y) < slack) return;
    drag.moved = true;
    const index = nearestMark(touched.output.scene, x, y);
    if (index < 0 || index === drag.to) return;
    drag.to = index;
    touched.move(
      drag.adding ? added(drag.base, stretch(touched, drag.from, index)) : stretch(touched, drag.from, index),
    );
  }

  function onPointerUp() {
    const touched = target();
    if (drag && touched && !drag.onMark && !drag.moved && !drag.adding) clear(touched);
    drag = null;
  }

  function onKeyDown(event: KeyboardEvent) {
    const touched = target();
    if (!touched) return;
    const { output, position, move, focus } = touched;
    const count = output.scene.band.count;
    const steps: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowRight: at + 1,
      ArrowUp: at - 1,
      ArrowLeft: at - 1,
      Home: 0,
      End: count - 1,
      PageDown: at + 10,
      PageUp: at - 10,
    };
    const value = valueAt(touched, at);
    if (event.key in steps) {
      const before = at;
      at = Math.max(0, Math.min(count - 1, steps[event.key]!));
      if (event.shiftKey) {
        if (anchor < 0) anchor = Math.max(0, before);
        move(stretch(touched, anchor, at));
      }
      focus(at, true);
    } else if (event.key === ' ') {
      anchor = at;
      if (value !== null)
        move(
          event.shiftKey
            ? added(position, stretchOf(output.readings.category, position.at(-1) ?? value, value))
            : toggled(position, value),
        );
    } else if (event.key === 'Enter') {
      anchor = at;
      if (value !== null) move([value]);
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) move(stretch(touched, 0, count - 1));
    else if (event.key === 'Escape') clear(touched);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const onFocus = () => {
    if (drag || !svg.matches(':focus-visible')) return;
    at = Math.max(0, at);
    target()?.focus(at, true);
  };
  const onBlur = () => target()?.focus(-1, false);

  const listening = new AbortController();
  const { signal } = listening;
  svg.addEventListener('pointerdown', onPointerDown, { signal });
  svg.addEventListener('pointermove', onPointerMove, { signal });
  svg.addEventListener('pointerup', onPointerUp, { signal });
  svg.addEventListener('pointercancel', onPointerUp, { signal });
  svg.addEventListener('keydown', onKeyDown, { signal });
  svg.addEventListener('focus', onFocus, { signal });
  svg.addEventListener('blur', onBlur, { signal });
  return () => listening.abort();
}
