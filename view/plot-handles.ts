import type { Chart } from '@sorvik/core/board/chart';
import { readingRange } from '@sorvik/core/conditions/figures';
import { valueOn } from '@sorvik/core/forms/value-axis';
import type { GuideHandle } from '@sorvik/core/guides/guide-kind';
import type { Interval } from '@sorvik/core/levers/lever-kind';
import { kindOf } from '@sorvik/core/levers/registry';
import { localeOf } from '@sorvik/core/messages/locale';
import { valueAtPlace } from '@sorvik/core/pipeline/band-span';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { arrowStep, pageSteps } from './arrow-step';
import type { LeverHold } from './lever-hold';
import { partName } from './part-name';
import { type At, pointerDrag } from './pointer-drag';
import { say } from './say';

/** What the handles on a plot work with, asked for anew at each gesture. */
export interface HandleTarget {
  output: ChartResult;
  by: Chart['by'];
  hold(lever: string): LeverHold | null;
}

const set = (element: HTMLElement, name: string, value: string | number) => {
  if (element.getAttribute(name) !== String(value)) element.setAttribute(name, String(value));
};

/**
 * The places on a plot by which levers are moved there: guide lines that a lever places, and the ends and the middle of
 * a brushed stretch. They lie over the drawing, are sliders to the keyboard, and are written without React.
 */
export class PlotHandles {
  private readonly lines = new Map<string, HTMLElement>();
  private readonly brush: { box: HTMLElement; ends: HTMLElement[] };

  constructor(
    private readonly layer: HTMLElement,
    private readonly target: () => HandleTarget | null,
  ) {
    layer.replaceChildren();
    const box = document.createElement('div');
    box.className = 'sv-brush';
    box.dataset.part = 'brush';
    box.hidden = true;
    const ends = (['from', 'to'] as const).map((end) => {
      const element = this.slider('sv-brush-end');
      element.dataset.end = end;
      box.append(element);
      this.drag(element, (x, y) => this.moveEnd(end, x, y));
      this.keys(
        element,
        (by) => this.stepEnd(end, by),
        () => this.brushPage(),
      );
      return element;
    });
    layer.append(box);
    let grip = 0;
    this.drag(
      box,
      (x, y) => this.moveBrush(x, y, grip),
      (x, y) => {
        const place = this.target();
        grip = place ? this.ordinalAt(place, x, y) : 0;
        this.began = place?.output.brush ? this.intervalOf(place) : null;
      },
    );
    box.addEventListener('dblclick', () => {
      const place = this.target();
      if (place?.output.brush) place.hold(place.output.brush.lever)?.clear();
    });
    this.brush = { box, ends };
  }
  private began: Interval | null = null;

  private slider(className: string): HTMLElement {
    const element = document.createElement('div');
    element.className = className;
    element.dataset.part = partName(className);
    element.tabIndex = 0;
    element.setAttribute('role', 'slider');
    return element;
  }

  /** Follows the pointer from `element` on, folded to frames; the last move is a finished one. */
  private drag(
    element: HTMLElement,
    move: (x: number, y: number) => ((passing: boolean) => void) | null,
    begin?: (x: number, y: number) => void,
  ): void {
    const pointIn = ({ x, y }: At) => {
      const box = this.layer.getBoundingClientRect();
      return [x - box.left, y - box.top] as const;
    };
    const { on } = pointerDrag<true>({
      begin: (at, pressed, target) => {
        // What lies over the element is dragged by itself.
        if (pressed !== target) return null;
        if (element.tabIndex === 0) element.focus();
        begin?.(...pointIn(at));
        return true;
      },
      move: (_dragged, at, passing) => move(...pointIn(at))?.(passing),
    });
    element.addEventListener('pointerdown', (event) => {
      if (event.button === 0 && event.target === element) event.stopPropagation();
      on.onPointerDown(event);
    });
    element.addEventListener('pointermove', on.onPointerMove);
    element.addEventListener('pointerup', on.onPointerUp);
    element.addEventListener('pointercancel', on.onPointerCancel);
  }

  /** Arrows and Page keys step as they do on the lever's own slider. */
  private keys(element: HTMLElement, step: (by: number) => void, page: () => number): void {
    element.addEventListener('keydown', (event) => {
      const by = arrowStep(event, { down: 'back', page: page() });
      if (by === undefined) return;
      event.preventDefault();
      event.stopPropagation();
      step(by);
    });
  }

  /** Brings the handles to where their levers stand. */
  paint(output: ChartResult): void {
    const place = this.target();
    if (!place) return;
    const wanted = new Set<string>();
    for (const handle of output.guides.handles) {
      const name = `${handle.lever} ${handle.part}`;
      if (wanted.has(name)) continue;
      wanted.add(name);
      let element = this.lines.get(name);
      if (!element) {
        element = this.slider('sv-line-handle');
        const { lever, part } = handle;
        this.drag(element, (x, y) => this.moveLine(lever, part, x, y));
        this.keys(
          element,
          (by) => this.stepLine(lever, part, by),
          () => this.linePage(lever),
        );
        this.lines.set(name, element);
        this.layer.append(element);
      }
      this.placeLine(element, handle, place);
    }
    for (const [name, element] of this.lines)
      if (!wanted.has(name)) {
        element.remove();
        this.lines.delete(name);
      }
    this.placeBrush(output, place);
  }

  private placeLine(element: HTMLElement, { lever, part, line }: GuideHandle, place: HandleTarget): void {
    const hold = place.hold(lever);
    const figures = hold && kindOf(hold.lever).figures;
    const locale = localeOf(place.output.input.board.locale);
    element.hidden = !figures;
    if (!hold || !figures) return;
    const upright = line.x1 === line.x2;
    const box = upright
      ? { left: line.x1, top: Math.min(line.y1, line.y2), width: 0, height: Math.abs(line.y2 - line.y1) }
      : { left: Math.min(line.x1, line.x2), top: line.y1, width: Math.abs(line.x2 - line.x1), height: 0 };
    element.style.cssText = `left:${box.left}px;top:${box.top}px;width:${box.width}px;height:${box.height}px`;
    element.dataset.upright = String(upright);
    const figure = figures.read(hold.position, part);
    const { min, max } = figures.bounds(hold.lever, hold.facts);
    set(element, 'aria-label', say(locale, 'handle.line', { lever: hold.lever.name, part }));
    set(element, 'aria-orientation', upright ? 'horizontal' : 'vertical');
    set(element, 'aria-valuemin', min);
    set(element, 'aria-valuemax', max);
    set(element, 'aria-valuenow', figure);
    set(element, 'aria-valuetext', figures.text(hold.lever, figure, locale));
  }

  private moveLine(lever: string, part: string, x: number, y: number) {
    const place = this.target();
    const hold = place?.hold(lever);
    const figures = hold && kindOf(hold.lever).figures;
    if (!place || !hold || !figures) return null;
    const { output } = place;
    const second =
      output.guides.handles.find((each) => each.lever === lever && each.part === part)?.axis === 'second';
    const { values: first, second: other } = output.scene;
    const values = (second && other) || first;
    let figure = valueOn(values, values.direction === 'x' ? x : y);
    if (figures.isShare(hold.lever)) {
      const { min, max } = readingRange(output.judgedOn(second ? 'second' : 'same'));
      if (!(max > min)) return null;
      figure = (figure - min) / (max - min);
    }
    return (passing: boolean) =>
      hold.move(figures.move(hold.lever, hold.position, part, figure, hold.facts), passing);
  }

  private stepLine(lever: string, part: string, by: number): void {
    const hold = this.target()?.hold(lever);
    const figures = hold && kindOf(hold.lever).figures;
    if (!hold || !figures) return;
    const { min, max, step } = figures.bounds(hold.lever, hold.facts);
    const to = Math.max(min, Math.min(max, figures.read(hold.position, part) + by * step));
    hold.move(figures.move(hold.lever, hold.position, part, to, hold.facts));
  }

  private linePage(lever: string): number {
    const hold = this.target()?.hold(lever);
    const figures = hold && kindOf(hold.lever).figures;
    return figures ? pageSteps(figures.bounds(hold.lever, hold.facts)) : 1;
  }

  private brushPage(): number {
    const place = this.target();
    return (place && this.brushHold(place)?.axis.page) ?? 1;
  }

  private placeBrush({ brush, scene }: ChartResult, place: HandleTarget): void {
    const { box, ends } = this.brush;
    const hold = brush?.stretch && place.hold(brush.lever);
    const interval = hold && (kindOf(hold.lever).interval?.(hold.lever, hold.position) ?? null);
    const axis = hold && kindOf(hold.lever).intervalAxis?.(hold.lever, hold.facts);
    box.hidden = !interval || !axis;
    if (!brush?.stretch || !hold || !interval || !axis) return;
    const locale = localeOf(place.output.input.board.locale);
    const { start, end } = brush.stretch;
    const along = scene.band.direction;
    const size = end - start;
    const low = Math.min(scene.values.start, scene.values.end);
    const deep = Math.abs(scene.values.end - scene.values.start);
    box.dataset.along = along;
    box.style.cssText =
      along === 'x'
        ? `left:${start}px;width:${size}px;top:${low}px;height:${deep}px`
        : `top:${start}px;height:${size}px;left:${low}px;width:${deep}px`;
    (['from', 'to'] as const).forEach((name, i) => {
      const element = ends[i]!;
      set(element, 'aria-label', say(locale, 'handle.end', { lever: hold.lever.name, end: name }));
      set(element, 'aria-orientation', along === 'x' ? 'horizontal' : 'vertical');
      set(element, 'aria-valuemin', axis.min);
      set(element, 'aria-valuemax', axis.max);
      set(element, 'aria-valuenow', axis.ordinal(interval[name]));
      set(element, 'aria-valuetext', axis.text(interval[name], locale));
    });
  }

  private brushHold(place: HandleTarget) {
    const { brush } = place.output;
    const hold = brush && place.hold(brush.lever);
    const axis = hold && kindOf(hold.lever).intervalAxis?.(hold.lever, hold.facts);
    return hold && axis ? { hold, axis } : null;
  }
  private intervalOf(place: HandleTarget): Interval | null {
    const held = this.brushHold(place);
    return held ? (kindOf(held.hold.lever).interval?.(held.hold.lever, held.hold.position) ?? null) : null;
  }
  private ordinalAt({ output, by, hold }: HandleTarget, x: number, y: number): number {
    const held = output.brush && hold(output.brush.lever);
    const axis = held && kindOf(held.lever).intervalAxis?.(held.lever, held.facts);
    const { band } = output.scene;
    const value = valueAtPlace(band.direction === 'x' ? x : y, band, output.readings.places, by);
    return axis && value !== null ? axis.ordinal(value) : 0;
  }

  private moveTo(place: HandleTarget, from: number, to: number) {
    const held = this.brushHold(place);
    if (!held) return null;
    const { hold, axis } = held;
    const clamp = (ordinal: number) => Math.max(axis.min, Math.min(axis.max, Math.round(ordinal)));
    return (passing: boolean) => hold.move({ from: axis.from(clamp(from)), to: axis.to(clamp(to)) }, passing);
  }

  private moveEnd(end: 'from' | 'to', x: number, y: number) {
    const place = this.target();
    const interval = place && this.intervalOf(place);
    const held = place && this.brushHold(place);
    if (!place || !interval || !held) return null;
    const to = this.ordinalAt(place, x, y);
    const { axis } = held;
    return end === 'from'
      ? this.moveTo(place, Math.min(to, axis.ordinal(interval.to)), axis.ordinal(interval.to))
      : this.moveTo(place, axis.ordinal(interval.from), Math.max(to, axis.ordinal(interval.from)));
  }

  private stepEnd(end: 'from' | 'to', by: number): void {
    const place = this.target();
    const interval = place && this.intervalOf(place);
    const held = place && this.brushHold(place);
    if (!place || !interval || !held) return;
    const { axis } = held;
    const from = axis.ordinal(interval.from);
    const to = axis.ordinal(interval.to);
    const move =
      end === 'from'
        ? this.moveTo(place, Math.min(from + by, to), to)
        : this.moveTo(place, from, Math.max(to + by, from));
    move?.(false);
  }

  private moveBrush(x: number, y: number, grip: number) {
    const place = this.target();
    const held = place && this.brushHold(place);
    if (!place || !held || !this.began) return null;
    const { axis } = held;
    const from = axis.ordinal(this.began.from);
    const to = axis.ordinal(this.began.to);
    const by = Math.max(axis.min - from, Math.min(axis.max - to, this.ordinalAt(place, x, y) - grip));
    return this.moveTo(place, from + by, to + by);
  }
}
