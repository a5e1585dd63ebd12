import { leverOf } from '@sorvik/core/board/board';
import type { Gesture } from '@sorvik/core/board/chart';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { formKinds } from '@sorvik/core/forms/registry';
import type { TextMeasure } from '@sorvik/core/forms/scene';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { touchValues } from '@sorvik/core/levers/touch-values';
import { localeOf } from '@sorvik/core/messages/locale';
import { brushLever, legendLever, touchLever } from '@sorvik/core/pipeline/chart-rules';
import { chartStages } from '@sorvik/core/pipeline/chart-stages';
import type { ChartResult, PipelineInput } from '@sorvik/core/pipeline/stage';
import { beyondText } from '@sorvik/core/text/beyond-text';
import { chartCaption, chartLegend, chartSubtitle } from '@sorvik/core/text/chart-words';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { Caption } from './caption';
import { element } from './element';
import { Legend } from './legend';
import { holdOf, type LeverHold } from './lever-hold';
import { LitInSight } from './lit-in-sight';
import { measureText } from './measure-text';
import type { PlotHandles } from './plot-handles';
import { say } from './say';
import { SvgPainter } from './svg-painter';
import { Tip } from './tip';
import { attachTouches, type TouchTarget } from './touches';
import { Turns } from './turns';
import type { ValueTable } from './value-table';
import { whenIdle } from './when-idle';

/** What a chart shows: all but its size, and what is pointed at, which it knows itself. */
export interface ChartInput
  extends Omit<PipelineInput, 'width' | 'height' | 'measure' | 'miniature' | 'focus' | 'focusSeries'> {
  /** Touches move no hidden levers: those are fixed for viewers. */
  viewed?: boolean;
}

/** What a chart tells whoever shows it. */
export interface ChartEvents {
  /** A gesture moves a lever; `passing` while it goes on. */
  move?(lever: Lever, position: unknown, passing: boolean): void;
  /** A mark has been pressed, or reached by the keyboard: its reading. */
  press?(reading: number): void;
  /** Marks are there to be seen for the first time. */
  shown?(): void;
  /** What is shown has been painted. */
  painted?(result: ChartResult): void;
}

export interface ChartOptions extends ChartEvents {
  /** Begins the ids of elements: unlike that of any other chart in the page. */
  id: string;
  /** A small still picture, without words and without answering to touches. */
  still?: boolean;
  /** How wide texts are, where they are written in another font than that of the application. */
  measure?: TextMeasure;
}

/** A chart of more cells is painted in steps. */
const fewCells = 5000;

const readsFocus = (chart: PipelineInput['chart']) =>
  chart.cues.some(({ condition }) => conditionKinds.get(condition.kind).readsFocus?.(condition));

/**
 * A chart in a page, without a framework: it adds its drawing, legend and caption to an element, answers pointer and
 * keyboard, and keeps what it has painted, so that a lever's move writes only what differs.
 */
export class ChartView {
  private readonly stages = chartStages();
  private readonly subtitle = element('p', 'sv-chart-subtitle');
  private readonly list = element('ul', 'sv-legend');
  private readonly drawing = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  private readonly layer = element('div', 'sv-handles');
  private readonly plot = element('div', 'sv-plot');
  private readonly sheet = element(
    'div',
    'sv-tip',
    element('strong', ''),
    element('span', ''),
    element('p', ''),
  );
  private readonly omitted = element('p', 'sv-omitted');
  private readonly under = element('figcaption', '');

  private readonly says = { caption: new Caption(this.under), subtitle: new Caption(this.subtitle) };
  private readonly inView: LitInSight | null;
  private readonly legend: Legend;
  private readonly tip: Tip;
  private readonly sight: IntersectionObserver;
  private readonly sizes: ResizeObserver;
  private painter: SvgPainter | null = null;
  private handles: PlotHandles | null = null;
  private values: ValueTable | null = null;
  private letGo = () => {};
  private callOff = () => {};
  private readonly turns = new Turns(({ passing, follow }) => {
    const { input, painter, size } = this;
    if (!input || !painter || !size || size.width < 2) return null;
    this.late = false;
    return {
      steps: this.painting(input, painter, size, passing, follow),
      slowly: input.cube.cells > fewCells,
    };
  });
  private over = false;

  private input: ChartInput | null = null;
  private result: ChartResult | null = null;
  /** The mark under the pointer, the one the keyboard is on, and the series that is pointed at. */
  private readonly on = { pointer: -1, keyboard: -1, series: -1 };
  private inSight = true;
  /** It was out of sight when levers moved. */
  private late = false;
  /** The room for the drawing, px, as it is told: asking for it while painting would lay out the whole page. */
  private size: { width: number; height: number } | null = null;
  private pickable = false;
  /** What is said in words may be of a moment ago, as while a drag goes on. */
  private behind = false;
  /** A gesture on this chart moves a lever: the plot stays where it is. */
  private own = false;
  /** It has been shown, and what is needed to touch it is on its way. */
  private begun = false;
  /** Its values are listed where the plot was. */
  private listed = false;

  constructor(
    private readonly host: HTMLElement,
    private readonly options: ChartOptions,
  ) {
    const { plot, drawing, layer, sheet, omitted, under, subtitle, list } = this;
    plot.append(drawing, layer);
    for (const each of [subtitle, sheet, omitted]) each.hidden = true;
    this.legend = new Legend(list, {
      point: (series) => this.pointSeries(series),
      pick: (series) => this.pickSeries(series),
    });
    this.tip = new Tip(
      sheet,
      (index) => this.painter?.markAt(index),
      () => this.result ?? undefined,
    );
    if (options.still) {
      drawing.setAttribute('aria-hidden', 'true');
      host.append(drawing);
    } else host.append(subtitle, list, plot, sheet, omitted, under);
    this.inView = options.still ? null : new LitInSight(plot);
    this.sizes = new ResizeObserver(([entry]) => this.resized(entry!.contentRect));
    this.sizes.observe(options.still ? host : plot);
    this.sight = new IntersectionObserver(([entry]) => {
      this.inSight = entry?.isIntersecting ?? true;
      if (this.inSight) this.catchUp();
    });
    if (!options.still) this.sight.observe(plot);
  }

  /** What is shown now; null while nothing is. */
  get shown(): ChartResult | null {
    return this.result;
  }

  get svg(): SVGSVGElement {
    return this.drawing;
  }

  /** Shows a chart as it is now. */
  update(input: ChartInput): void {
    this.input = input;
    this.dress(input);
    this.paint(false);
    // Another form may be a table, or no longer be one.
    if (this.begun) this.showValues().catch(() => {});
  }

  /** Levers have moved: the same chart where they stand now. Out of sight it follows later. */
  moved(input: ChartInput, passing: boolean): void {
    this.input = input;
    if (this.inSight) {
      this.paint(passing, { follow: !this.own, urgent: true });
      return;
    }
    // It follows when the move is over and nothing is more urgent, or when it is seen.
    this.late = true;
    this.callOff();
    if (!passing) this.callOff = whenIdle(() => this.catchUp());
  }

  /** A drag has ended where it was: what is said in words catches up. */
  settled(): void {
    if (this.result && this.behind) this.say(this.result, false);
  }

  /** The plot makes room for what is said in its place; `waiting` while another state is on its way. */
  mark({ hidden, waiting }: { hidden: boolean; waiting: boolean }): void {
    this.plot.hidden = hidden;
    this.under.hidden = hidden;
    this.plot.classList.toggle('is-waiting', waiting);
  }

  /** Lists the values in place of the plot, or no longer. */
  listValues(listed: boolean): void {
    this.listed = listed;
    // The table lies over it.
    this.drawing.tabIndex = listed ? -1 : 0;
    this.plot.classList.toggle('is-listed', listed);
    if (listed) this.plot.scrollTo(0, 0);
    this.showValues().catch(() => {});
  }

  /** Points at the mark of a reading from elsewhere; -1 for none. */
  point(reading: number): void {
    this.on.keyboard = reading;
    this.tip.show(reading, true);
    this.repoint();
    this.painter?.focus(reading, true);
  }

  /** Leaves the page as it was. */
  destroy(): void {
    this.over = true;
    this.turns.breakOff();
    this.callOff();
    this.letGo();
    this.sight.disconnect();
    this.sizes.disconnect();
    this.legend.stop();
    this.tip.hide();
    this.painter?.stop();
    this.inView?.stop();
    delete this.host.dataset.legend;
    for (const each of [
      this.subtitle,
      this.list,
      this.plot,
      this.sheet,
      this.omitted,
      this.under,
      this.drawing,
    ])
      each.remove();
  }

  private get touchable(): readonly Lever[] {
    const { board, viewed } = this.input!;
    return viewed ? board.levers.filter((lever) => !lever.hidden) : board.levers;
  }

  private hold(lever: Lever | undefined): LeverHold | null {
    if (!lever || !this.input) return null;
    const { positionOf, facts } = this.input;
    return holdOf(lever, positionOf(lever.id), facts[lever.id], (...moved) => {
      this.own = true;
      this.options.move?.(...moved);
      this.own = false;
    });
  }

  private resized({ width, height }: { width: number; height: number }): void {
    const size = { width: Math.floor(width), height: Math.floor(height) };
    if (size.width === this.size?.width && size.height === this.size.height) return;
    this.size = size;
    this.paint(false);
  }

  /** What of the elements depends on the chart and its levers, and not on where those stand. */
  private dress({ board, chart, dataset, engine }: ChartInput): void {
    const { drawing, options, subtitle, host } = this;
    const { touchable } = this;
    const touched =
      touchLever(chart, 'click', touchable) ??
      touchLever(chart, 'drag', touchable) ??
      touchLever(chart, 'hover', touchable);
    const pickable = !options.still && touched !== undefined;
    if (!this.painter || this.pickable !== pickable) {
      this.turns.breakOff();
      this.painter?.stop();
      this.letGo();
      this.pickable = pickable;
      this.painter = new SvgPainter(drawing, { pickable, id: options.id });
      this.result = null;
      if (!options.still) this.letGo = attachTouches(drawing, () => this.touchTarget());
    }
    if (options.still) return;
    host.dataset.legend = chart.legend ?? 'above';
    subtitle.hidden = chart.subtitle === undefined;
    const words = vocabularyOf(board, dataset, engine);
    const title = chartTitle(chart, words);
    const several = touched !== undefined && kindOf(touched).touch?.several === true;
    drawing.tabIndex = this.listed ? -1 : 0;
    drawing.setAttribute('role', pickable ? 'listbox' : 'img');
    drawing.setAttribute('aria-label', pickable ? say(words.locale, 'marks.toPick', { title }) : title);
    if (pickable && several) drawing.setAttribute('aria-multiselectable', 'true');
    else drawing.removeAttribute('aria-multiselectable');
    if (!pickable) drawing.removeAttribute('aria-activedescendant');
  }

  /** Paints what there is; `follow` where something else than a gesture on it has moved, `urgent` where a lever has. */
  private paint(passing: boolean, { follow = false, urgent = false } = {}): void {
    this.turns.request({ passing, follow, urgent });
  }

  /** The way of a chart into the page, in steps between which the page can do something else. */
  private *painting(
    input: ChartInput,
    painter: SvgPainter,
    size: { width: number; height: number },
    passing: boolean,
    follow: boolean,
  ): Generator<void, void> {
    const { options } = this;
    const began = performance.now();
    const { viewed: _viewed, ...given } = input;
    const result = yield* this.stages.steps({
      ...given,
      ...size,
      measure: options.measure ?? measureText,
      miniature: options.still === true,
      focus: this.on.keyboard >= 0 ? this.on.keyboard : this.on.pointer,
      focusSeries: this.on.series,
    });
    const ready = performance.now();
    painter.paint(result);
    const first = this.result === null;
    this.result = result;
    if (options.still) return;
    if (first && !this.begun) {
      performance.measure('chart painted', { start: ready });
      performance.measure('chart first paint', { start: began });
      this.begin();
    }
    options.painted?.(result);
    yield;
    this.say(result, passing);
    const text = beyondText(result.scene, result.readings.length, localeOf(result.input.board.locale));
    this.omitted.hidden = !text;
    this.omitted.textContent = text;
    this.tip.refresh();
    this.layer.style.width = `${result.scene.width}px`;
    this.layer.style.height = `${result.scene.height}px`;
    this.handles?.paint(result);
    if (!this.listed) this.inView?.update(result, size, follow || first);
  }

  /** What is needed to touch a chart is fetched when it is there to be seen, and not before. */
  private begin(): void {
    this.begun = true;
    whenIdle(() => {
      if (this.over) return;
      this.options.shown?.();
      this.showValues().catch(() => {});
      // While the server is away the chart can still be read, and its levers moved beside it.
      import('./plot-handles').then(
        ({ PlotHandles }) => {
          if (this.over) return;
          this.handles = new PlotHandles(this.layer, () =>
            this.result && this.input
              ? { output: this.result, by: this.input.chart.by, hold: (id) => this.holdById(id) }
              : null,
          );
          if (this.result) this.handles.paint(this.result);
        },
        () => {},
      );
    });
  }

  /** The table of values: seen where it is asked for, and always heard where the chart is a table itself. */
  private async showValues(): Promise<void> {
    const always = formKinds.get(this.input!.chart.form).listsReadings === true;
    if (!this.listed && !always) {
      this.values?.element.remove();
      this.values = null;
      return;
    }
    if (!this.values) {
      const { ValueTable } = await import('./value-table');
      if (this.over || this.values) return;
      this.values = new ValueTable();
      this.plot.append(this.values.element);
      if (this.result) this.values.show(this.result, false);
    }
    this.values.element.classList.toggle('visually-hidden', !this.listed);
    this.values.element.tabIndex = this.listed ? 0 : -1;
  }

  private holdById(id: string): LeverHold | null {
    const lever = leverOf(this.input!.board, id);
    return lever && this.touchable.includes(lever) ? this.hold(lever) : null;
  }

  private say(result: ChartResult, passing: boolean): void {
    this.behind = passing;
    this.says.caption.say(() => chartCaption(result), passing);
    if (!this.subtitle.hidden) this.says.subtitle.say(() => chartSubtitle(result), passing);
    const lights = result.chart.cues.filter(({ effect, off }) => effect === 'light' && !off).length;
    this.values?.show(result, passing);
    this.legend.show(
      () => chartLegend(result),
      { tone: result.tone, lights, locale: localeOf(result.input.board.locale) },
      passing,
    );
  }

  private catchUp(): void {
    if (this.late) this.paint(false, { follow: true });
  }

  /** What is pointed at has changed: it matters where a cue reads it. */
  private repoint(): void {
    if (this.input && readsFocus(this.input.chart)) this.paint(true, { urgent: true });
  }

  private pointSeries(series: number): void {
    this.on.series = series;
    this.repoint();
  }

  private pickSeries(series: number): void {
    const { input, result } = this;
    const lever = input && legendLever(input.chart, this.touchable);
    if (!lever || !result) return;
    const { readings } = result;
    this.hold(lever)?.put(touchValues(lever, input.chart, readings, readings.starts[series]!), 'toggle');
  }

  private touchTarget(): TouchTarget | null {
    const { input, result, touchable } = this;
    if (!input || !result) return null;
    const { chart } = input;
    const of = (gesture: Gesture) => this.hold(touchLever(chart, gesture, touchable));
    return {
      output: result,
      by: chart.by,
      split: chart.split,
      click: of('click'),
      hover: of('hover'),
      drag: of('drag'),
      legend: this.hold(legendLever(chart, touchable)),
      brushes: brushLever(chart, touchable) !== undefined,
      point: (index) => this.pointMark(index),
      pointSeries: (series) => this.pointSeries(series),
      focus: (index, byKeyboard) => this.focusMark(index, byKeyboard),
      closeSheet: () => this.closeSheet(),
    };
  }

  private closeSheet(): boolean {
    const { isOpen } = this.tip;
    this.tip.hide();
    return isOpen;
  }

  private pointMark(index: number): void {
    this.on.pointer = index;
    this.tip.show(index, false);
    // The ring around a point goes when the pointer does.
    if (index < 0 && this.on.keyboard < 0) this.painter?.focus(-1, false);
    this.repoint();
  }

  private focusMark(index: number, byKeyboard: boolean): void {
    const { on, drawing } = this;
    const { judged, length } = this.result!.readings;
    if (index >= 0) this.options.press?.(index % (judged?.length || length || 1));
    on.keyboard = byKeyboard ? index : -1;
    this.tip.show(byKeyboard ? index : on.pointer, byKeyboard);
    this.repoint();
    const active = this.painter?.focus(index, byKeyboard);
    if (active && this.pickable) drawing.setAttribute('aria-activedescendant', active);
    else drawing.removeAttribute('aria-activedescendant');
  }
}
