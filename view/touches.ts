import type { Chart } from '@sorvik/core/board/chart';
import { kindOf } from '@sorvik/core/levers/registry';
import { touchValues } from '@sorvik/core/levers/touch-values';
import { valueAtPlace } from '@sorvik/core/pipeline/band-span';
import { nameAt } from '@sorvik/core/pipeline/labels';
import { shapeKinds } from '@sorvik/core/pipeline/shapes/registry';
import type { Step } from '@sorvik/core/pipeline/shapes/shape-kind';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import type { LeverHold } from './lever-hold';
import { perFrame } from './per-frame';

/** What the gestures on a chart work with, asked for anew at each gesture. */
export interface TouchTarget {
  output: ChartResult;
  by: Chart['by'];
  split: Chart['split'];
  /** The lever of each gesture the chart answers. */
  click: LeverHold | null;
  hover: LeverHold | null;
  drag: LeverHold | null;
  legend: LeverHold | null;
  /** The drag brushes a stretch, day by day, instead of taking whole marks. */
  brushes: boolean;
  /** The pointer is on a mark, or on none: -1. It changes no lever by that. */
  point(index: number): void;
  /** The pointer is on the name of a series, or on none: -1. */
  pointSeries(series: number): void;
  /** Makes a mark the one in hand; what the keyboard takes in hand is shown. */
  focus(index: number, byKeyboard: boolean): void;
  /** Closes the sheet beside the mark that the keyboard is on; false where none is open. */
  closeSheet(): boolean;
}

const slack = 4;
/** A finger that rests for so long, ms, begins a drag across marks; one that moves before that scrolls the page. */
const longPress = 400;

const stepOf: Record<string, Step> = {
  ArrowRight: 'next',
  ArrowLeft: 'previous',
  ArrowUp: 'up',
  ArrowDown: 'down',
  Home: 'first',
  End: 'last',
  PageDown: 'far next',
  PageUp: 'far previous',
};

interface Press {
  from: number;
  to: number;
  base: unknown;
  adding: boolean;
  onMark: boolean;
  x: number;
  y: number;
  moved: boolean;
  /** The click has been answered when the pointer went down. */
  answered: boolean;
  /** It may become a drag: a pointer at once, a finger once it has rested. */
  drags: boolean;
}

/** Pointer and keyboard on a chart that answers touches. Returns how to let go of it. */
export function attachTouches(svg: SVGSVGElement, target: () => TouchTarget | null): () => void {
  let anchor = -1;
  let at = -1;
  let hovered = -1;
  let pointed = -1;
  let pointedSeries = -1;
  let press: Press | null = null;
  let resting: ReturnType<typeof setTimeout> | undefined;

  const pointIn = (event: { clientX: number; clientY: number }) => {
    const box = svg.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const given = (touched: TouchTarget, hold: LeverHold, from: number, to = from) =>
    touchValues(hold.lever, touched, touched.output.readings, from, to);
  const markAt = ({ output: { scene, readings } }: TouchTarget, x: number, y: number) =>
    shapeKinds.get(scene.marks.shape).markAt(scene, readings, x, y);
  const nearestMark = ({ output: { scene, readings } }: TouchTarget, x: number, y: number) =>
    shapeKinds.get(scene.marks.shape).nearest(scene, readings, x, y);
  /** The first mark of the series whose name at the end of its line is at a point. */
  const seriesAt = ({ output }: TouchTarget, x: number, y: number) => nameAt(output.names, x, y);
  const stretch = (touched: TouchTarget, hold: LeverHold, base: unknown, from: number, to: number) => {
    const touch = given(touched, hold, from, to);
    return kindOf(hold.lever).touch!.put(
      hold.lever,
      base,
      touch,
      base === null ? 'replace' : 'add',
      hold.facts,
    );
  };
  const alongBand = ({ output }: TouchTarget, { x, y }: { x: number; y: number }) =>
    output.scene.band.direction === 'x' ? x : y;
  /** The stretch between two places, whatever marks stand there. */
  const brushed = (touched: TouchTarget, hold: LeverHold, a: number, b: number) => {
    const { output, by } = touched;
    const ends = [a, b].map((px) => valueAtPlace(px, output.scene.band, output.readings.places, by));
    const touch = { values: ends, by: { field: by.field }, figure: Number.NaN };
    return kindOf(hold.lever).touch!.put(hold.lever, hold.position, touch, 'replace', hold.facts);
  };

  function answerClick(touched: TouchTarget, hold: LeverHold, index: number, event: PointerEvent) {
    if (event.shiftKey && anchor >= 0)
      hold.move(stretch(touched, hold, press?.adding ? hold.position : null, anchor, index));
    else {
      anchor = index;
      hold.put(given(touched, hold, index), event.ctrlKey || event.metaKey ? 'toggle' : 'replace');
    }
  }

  function onPointerDown(event: PointerEvent) {
    const touched = target();
    if (!touched || event.button !== 0) return;
    const { click, drag } = touched;
    const { x, y } = pointIn(event);
    const named = seriesAt(touched, x, y);
    if (named >= 0) {
      touched.legend?.put(
        given(touched, touched.legend, touched.output.readings.starts[named]!),
        event.ctrlKey || event.metaKey ? 'toggle' : 'replace',
      );
      return;
    }
    if (!click && !drag) return;
    const index = markAt(touched, x, y);
    const adding = event.ctrlKey || event.metaKey;
    press = {
      from: event.shiftKey && anchor >= 0 ? anchor : index >= 0 ? index : nearestMark(touched, x, y),
      to: index,
      base: adding ? (click ?? drag)!.position : null,
      adding,
      onMark: index >= 0,
      x,
      y,
      moved: false,
      // Where a drag means something else, only letting go tells a click from it.
      // A finger may be about to scroll the page.
      answered: drag === null && event.pointerType !== 'touch',
      drags: event.pointerType !== 'touch',
    };
    if (press.drags) svg.setPointerCapture(event.pointerId);
    else resting = setTimeout(beginTouchDrag, longPress);
    if (index < 0) return;
    if (click && press.answered) answerClick(touched, click, index, event);
    at = index;
    touched.focus(index, false);
  }

  const dragTo = perFrame((x: number, y: number) => {
    const touched = press && target();
    if (!press || !touched) return;
    const hold = touched.drag ?? touched.click;
    if (!hold) return;
    if (touched.drag && touched.brushes) {
      hold.move(brushed(touched, hold, alongBand(touched, press), alongBand(touched, { x, y })), true);
      return;
    }
    const index = nearestMark(touched, x, y);
    if (index < 0 || index === press.to) return;
    press.to = index;
    hold.move(stretch(touched, hold, press.base, press.from, index), true);
  });

  /** The finger has rested: from now on it drags across marks, beginning with the one under it. */
  function beginTouchDrag() {
    const touched = press && target();
    const hold = touched && (touched.drag ?? touched.click);
    if (!press || !touched || !hold || press.from < 0) return;
    press.drags = true;
    press.moved = true;
    navigator.vibrate?.(10);
    if (!(touched.drag && touched.brushes))
      hold.move(stretch(touched, hold, press.base, press.from, press.from), true);
  }

  const hoverOver = (touched: TouchTarget, index: number) => {
    if (!touched.hover || index === hovered) return;
    hovered = index;
    if (index < 0) touched.hover.clear(true);
    else touched.hover.put(given(touched, touched.hover, index), 'replace', true);
  };

  function onPointerMove(event: PointerEvent) {
    const { x, y } = pointIn(event);
    if (!press) {
      const touched = target();
      if (!touched || event.pointerType === 'touch') return;
      const named = seriesAt(touched, x, y);
      if (named !== pointedSeries) touched.pointSeries(named);
      pointedSeries = named;
      const index = named >= 0 ? -1 : markAt(touched, x, y);
      if (index !== pointed) touched.point(index);
      pointed = index;
      hoverOver(touched, index);
      return;
    }
    if (!press.drags) return;
    if (!press.moved && Math.hypot(x - press.x, y - press.y) < slack) return;
    if (!press.moved) {
      pointed = -1;
      target()?.point(-1);
    }
    press.moved = true;
    dragTo(x, y);
  }

  function onPointerUp(event: PointerEvent) {
    const touched = target();
    const ended = press;
    dragTo.cancel();
    clearTimeout(resting);
    press = null;
    if (!touched) return;
    if (!ended) {
      // Where nothing can be picked, a finger that taps points: it has no other way to.
      if (event.type === 'pointerup' && event.pointerType === 'touch') {
        const { x, y } = pointIn(event);
        pointed = seriesAt(touched, x, y) >= 0 ? -1 : markAt(touched, x, y);
        touched.point(pointed);
      }
      return;
    }
    const hold = touched.drag ?? touched.click;
    if (ended.moved && hold) {
      const end = pointIn(event);
      if (touched.drag && touched.brushes)
        hold.move(brushed(touched, hold, alongBand(touched, ended), alongBand(touched, end)));
      else hold.move(hold.position);
    } else if (!ended.moved && event.type === 'pointerup') {
      if (ended.onMark && !ended.answered && touched.click)
        answerClick(touched, touched.click, ended.to, event);
      else if (!ended.onMark && !ended.adding) touched.click?.clear();
    }
  }

  // While a finger drags across marks the page does not scroll under it, and no menu opens.
  const onTouchMove = (event: TouchEvent) => {
    if (press?.drags) event.preventDefault();
    else if (press) clearTimeout(resting);
  };
  const onContextMenu = (event: Event) => press?.drags && press.moved && event.preventDefault();
  const onDoubleClick = () => target()?.drag?.clear();
  const onPointerLeave = (event: PointerEvent) => {
    // A finger leaves with every tap: what it has pointed at stays.
    if (event.pointerType === 'touch') return;
    const touched = target();
    pointed = -1;
    if (pointedSeries >= 0) touched?.pointSeries(-1);
    pointedSeries = -1;
    touched?.point(-1);
    if (touched && !press) hoverOver(touched, -1);
  };

  function onKeyDown(event: KeyboardEvent) {
    const touched = target();
    if (!touched || event.altKey) return;
    const { output, click, focus } = touched;
    const { scene, readings } = output;
    const shape = shapeKinds.get(scene.marks.shape);
    const hold = click ?? touched.drag;
    const step = stepOf[event.key];
    if (step) {
      const before = at < readings.length ? at : -1;
      at = shape.step(scene, readings, before, step);
      if (at < 0) return;
      if (event.shiftKey && hold) {
        if (anchor < 0) anchor = Math.max(0, before);
        hold.move(stretch(touched, hold, null, anchor, at));
      }
      focus(at, true);
      hoverOver(touched, at);
    } else if (event.key === ' ' && hold) {
      if (event.shiftKey && anchor >= 0) hold.move(stretch(touched, hold, hold.position, anchor, at));
      else hold.put(given(touched, hold, at), 'toggle');
      anchor = at;
    } else if (event.key === 'Enter' && hold) {
      anchor = at;
      hold.put(given(touched, hold, at), 'replace');
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey) && hold)
      hold.move(stretch(touched, hold, null, 0, readings.length - 1));
    else if (event.key === 'Escape' && touched.closeSheet()) {
      // The next one clears.
    } else if (event.key === 'Escape' && hold) hold.clear();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const onFocus = () => {
    if (press || !svg.matches(':focus-visible')) return;
    at = Math.max(0, at);
    target()?.focus(at, true);
  };
  const onBlur = () => {
    const touched = target();
    touched?.focus(-1, false);
    if (touched) hoverOver(touched, -1);
  };

  const listening = new AbortController();
  const { signal } = listening;
  svg.addEventListener('pointerdown', onPointerDown, { signal });
  svg.addEventListener('pointermove', onPointerMove, { signal });
  svg.addEventListener('pointerup', onPointerUp, { signal });
  svg.addEventListener('pointercancel', onPointerUp, { signal });
  svg.addEventListener('pointerleave', onPointerLeave, { signal });
  svg.addEventListener('dblclick', onDoubleClick, { signal });
  svg.addEventListener('touchmove', onTouchMove, { signal, passive: false });
  svg.addEventListener('contextmenu', onContextMenu, { signal });
  svg.addEventListener('keydown', onKeyDown, { signal });
  svg.addEventListener('focus', onFocus, { signal });
  svg.addEventListener('blur', onBlur, { signal });
  return () => {
    dragTo.cancel();
    clearTimeout(resting);
    listening.abort();
  };
}
