import { stateCode } from '@sorvik/core/pipeline/emphasise';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { symbol, symbolCircle } from 'd3-shape';
import { make, Written } from '../svg';
import type { LayerOptions } from './layer-kind';

/**
 * The ring around the mark in hand, for marks that are no elements of their own. It is the one option that the keyboard
 * is on, and what a mark's sheet stands beside.
 */
export class MarkCursor {
  private readonly ring: Written<SVGPathElement>;
  private focused = -1;
  /** Changes when the focused mark does, so that a screen reader hears of each. */
  private turn = 0;

  constructor(
    layer: SVGGElement,
    private readonly options: LayerOptions,
    /** Where the ring around a mark stands, px. */
    private readonly spot: (output: ChartResult, index: number) => [number, number] = ({ scene }, i) => [
      scene.marks.x[i]!,
      scene.marks.y[i]!,
    ],
  ) {
    this.ring = new Written(make('path', layer, 'sv-cursor'));
    if (options.pickable) this.ring.set('role', 'option');
    this.ring.element.setAttribute('aria-hidden', options.pickable ? 'false' : 'true');
    this.ring.element.style.display = 'none';
  }

  /** Goes to a mark, -1 for none, and returns the id of its element. */
  focus(index: number, shown: boolean, output: ChartResult | undefined): string {
    if (index !== this.focused) this.turn++;
    this.focused = index;
    this.ring.element.classList.toggle('is-shown', shown);
    this.place(output);
    return index < 0 ? '' : this.ring.element.id;
  }

  /** The element at a mark, to which the ring goes for that. */
  at(index: number, output: ChartResult | undefined): Element | undefined {
    if (index < 0 || !output) return undefined;
    if (index !== this.focused) this.focus(index, false, output);
    return this.ring.element;
  }

  /** Stands where its mark is now. */
  place(output: ChartResult | undefined): void {
    const { ring } = this;
    const { x, y } = output?.scene.marks ?? {};
    const stands = (i: number) => !!x && i >= 0 && i < x.length && !Number.isNaN(x[i]! + y![i]!);
    const unseen = this.focused < 0;
    // A list has an option before anybody is in it: the first mark, without a ring.
    const at = unseen && this.options.pickable ? (x?.findIndex((_, i) => stands(i)) ?? -1) : this.focused;
    const gone = !stands(at);
    ring.element.style.display = gone ? 'none' : '';
    ring.element.style.opacity = unseen ? '0' : '';
    if (gone || !output) return;
    ring.set('id', `${this.options.id}-on-${this.turn % 2}`);
    ring.set('d', symbol(symbolCircle, Math.PI * 36)() ?? '');
    const [atX, atY] = this.spot(output, at);
    ring.set('transform', `translate(${atX.toFixed(1)} ${atY.toFixed(1)})`);
    if (!this.options.pickable) return;
    ring.set('aria-label', `${output.name(at)}: ${output.value(at)}`);
    ring.set('aria-setsize', String(x!.length));
    ring.set('aria-posinset', String(at + 1));
    ring.set('aria-selected', output.emphasis.state[at] === stateCode.lit ? 'true' : 'false');
  }
}
