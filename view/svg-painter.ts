import type { Scene } from '@sorvik/core/forms/scene';
import { markStates } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { HeldAxis } from './held-axis';
import { sceneBetween } from './shapes/between';
import type { LayerOptions, MarkLayer } from './shapes/layer-kind';
import { MarkMotion } from './shapes/mark-motion';
import { paintLook } from './shapes/paint-look';
import { layerKinds } from './shapes/registry';
import { isTextIn, lies, manyTexts, type Part, Sight } from './sight';
import { Kept, KeptRoles, keyAttribute, make, Written, writeText } from './svg';

/** Fine diagonal lines, to be laid over a mark. */
function makeHatch(svg: SVGSVGElement, id: string): void {
  const hatch = make('pattern', make('defs', svg));
  for (const [name, value] of Object.entries({
    id: `${id}-hatch`,
    width: '6',
    height: '6',
    patternUnits: 'userSpaceOnUse',
    patternTransform: 'rotate(45)',
  }))
    hatch.setAttribute(name, value);
  const stripe = make('rect', hatch, 'sv-hatch-line');
  stripe.setAttribute('width', '2');
  stripe.setAttribute('height', '6');
  svg.style.setProperty('--sv-hatch', `url(#${id}-hatch)`);
}

/** Paints a chart as SVG: keeps its elements and writes only what has changed. */
export class SvgPainter {
  /** The part of the plot in which marks show where some lie beyond it. */
  private readonly window: SVGRectElement;
  private readonly sheet: Written<SVGSVGElement>;
  private readonly ground: Kept<'rect'>;
  private readonly back: KeptRoles;
  private readonly layer: SVGGElement;
  private readonly front: KeptRoles;
  private readonly axis: HeldAxis;
  private readonly figures: Kept<'text'>;
  private readonly categories: Kept<'text'>;
  private readonly sight: Sight;
  /** Texts of no mark, and the part of the drawing of which they are there where they are many. */
  private around: { texts: Scene['texts']; part: Part } | null = null;
  private marks: { shape: string; layer: MarkLayer } | null = null;
  private last: ChartResult | null = null;
  private readonly motion = new MarkMotion();

  constructor(
    private readonly svg: SVGSVGElement,
    private readonly options: Omit<LayerOptions, 'sight'>,
  ) {
    svg.replaceChildren();
    this.sight = new Sight(svg);
    this.sight.follow(() => this.paintAround());
    this.sheet = new Written(svg);
    makeHatch(svg, options.id);
    const plot = make('clipPath', make('defs', svg));
    plot.id = `${options.id}-plot`;
    this.window = make('rect', plot);
    const ground = make('g', svg);
    ground.setAttribute('aria-hidden', 'true');
    this.ground = new Kept('rect', ground, 'sv-area');
    const back = make('g', svg);
    this.back = new KeptRoles(back);
    this.layer = make('g', svg, 'sv-marks');
    const figures = make('g', svg);
    const names = make('g', svg);
    const axis = make('g', svg);
    this.axis = new HeldAxis(axis, this.sight);
    const front = make('g', svg);
    this.front = new KeptRoles(front);
    for (const layer of [back, figures, names, axis, front]) layer.setAttribute('aria-hidden', 'true');
    if (options.pickable) this.layer.setAttribute('role', 'presentation');
    this.figures = new Kept('text', figures, 'sv-text sv-value');
    this.categories = new Kept('text', names, 'sv-text sv-category sv-by-state');
  }

  /**
   * Brings the drawing up to `output`; cheapest when only states differ from the last one. The first marks are painted
   * at once; where there are many, the rest follows in slices, so that the page never stands still for long.
   */
  paint(output: ChartResult): void {
    const { last } = this;
    this.last = output;
    const marks = this.layerFor(output);
    const remade = output.scene !== last?.scene || output.readings !== last?.readings;
    if (output.tone !== last?.tone) this.svg.dataset.tone = output.tone;
    if (remade) {
      this.paintFrame(output);
      this.paintMarks(marks, output, last);
    }
    if (output.guides !== last?.guides) this.paintGuides(output);
    if (output.figures !== last?.figures) this.paintFigures(output);
    if (output.categories !== last?.categories) this.paintCategories(output);
    if (remade || !last) return;
    if (output.emphasis !== last.emphasis || output.figures !== last.figures) marks.restate(output, last);
  }

  /** Where other data have come, marks move from where they were; levers are answered at once. */
  private paintMarks(layer: MarkLayer, output: ChartResult, last: ChartResult | null): void {
    this.motion.stop();
    const other = last && last.input.cube.version !== output.input.cube.version;
    const moves = other && !this.options.carried && MarkMotion.wanted;
    const scene = moves ? sceneBetween(last, output) : null;
    if (!scene) layer.paint(output);
    // What is lit can be something else by then.
    else
      this.motion.play((share) =>
        layer.paint(share < 1 ? { ...this.last!, scene: scene(share) } : this.last!, true),
      );
  }

  /** Ends what is still to follow, for a drawing that is given up. */
  stop(): void {
    this.motion.stop();
    this.marks?.layer.stop();
    this.sight.stop();
  }

  focus(index: number, shown: boolean): string {
    return this.marks?.layer.focus(index, shown) ?? '';
  }

  /** The element of a mark that has been painted. */
  markAt(index: number): Element | undefined {
    return this.marks?.layer.markAt(index);
  }

  private layerFor({ scene }: ChartResult): MarkLayer {
    const { shape } = scene.marks;
    if (this.marks?.shape === shape) return this.marks.layer;
    this.marks?.layer.stop();
    this.layer.replaceChildren();
    this.marks = {
      shape,
      layer: layerKinds.get(shape).make(this.layer, { ...this.options, sight: this.sight }),
    };
    return this.marks.layer;
  }

  /** All but the marks. */
  private paintFrame(output: ChartResult): void {
    const { scene } = output;
    const { svg, sheet } = this;
    sheet.set('width', String(scene.width));
    sheet.set('height', String(scene.height));
    sheet.set('viewBox', `0 0 ${scene.width} ${scene.height}`);
    // An edge around a mark of a few pixels would leave nothing of its colour.
    svg.toggleAttribute('data-edges', scene.band.step >= 12);
    this.clip(scene);
    const { measure } = output.input;
    const texts = this.axis.paint(scene, measure);
    const many = texts.length > manyTexts && !this.options.carried;
    this.around = many ? { texts, part: this.sight.of(output, true) } : null;
    this.back.paint(
      scene.lines,
      many ? texts.filter((text) => isTextIn(text, this.around!.part)) : texts,
      measure,
    );
  }

  /** Texts that have come into sight. */
  private paintAround(): void {
    const { last, around } = this;
    if (!last || !around || lies(this.sight.of(last), around.part)) return;
    const part = this.sight.of(last, true);
    this.around = { ...around, part };
    this.back.paint(
      last.scene.lines,
      around.texts.filter((text) => isTextIn(text, part)),
      last.input.measure,
    );
  }

  /** What lies beyond an axis that the author has fixed is not drawn over what is around the plot. */
  private clip({ beyond, marks, values, width, height }: Scene): void {
    if (beyond > 0 && layerKinds.get(marks.shape).clips) {
      const [top, bottom] = [Math.min(values.start, values.end), Math.max(values.start, values.end)];
      const box = { x: 0, y: top, width, height: Math.min(height, bottom) - top };
      for (const [name, value] of Object.entries(box)) this.window.setAttribute(name, value.toFixed(2));
      this.layer.setAttribute('clip-path', `url(#${this.options.id}-plot)`);
    } else this.layer.removeAttribute('clip-path');
  }

  /** Figures of marks that have no room of their own. */
  private paintFigures({ figures, emphasis, readings, input }: ChartResult): void {
    this.figures.paint(figures.texts.length, (text, i) => {
      const figure = figures.texts[i]!;
      const mark = figure.mark!;
      writeText(text, figure, input.measure);
      text.set('data-is', markStates[emphasis.state[mark]!]!);
      text.set('data-of', keyAttribute(readings.category[mark]));
      paintLook(text, emphasis.looks[emphasis.look[mark]!], readings, mark);
    });
  }

  /** Names below the plot that go by what is lit stand in for the scene's own. */
  private paintCategories({ categories, input }: ChartResult): void {
    this.svg.toggleAttribute('data-names', categories !== null);
    this.categories.paint(categories?.length ?? 0, (text, i) => {
      writeText(text, categories![i]!, input.measure);
      text.set('data-is', categories![i]!.state);
    });
  }

  /** Guides lie over the marks, and move without them. */
  private paintGuides({ guides, input }: ChartResult): void {
    this.ground.paint(guides.areas.length, (rect, i) => {
      const { x, y, width, height, colour } = guides.areas[i]!;
      for (const [name, value] of Object.entries({ x, y, width, height }))
        rect.set(name, Math.max(0, value).toFixed(2));
      rect.set('data-look', colour ?? '');
    });
    this.front.paint(guides.lines, guides.texts, input.measure);
  }
}
