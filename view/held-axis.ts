import type { Scene, TextMeasure } from '@sorvik/core/forms/scene';
import type { Sight } from './sight';
import { KeptRoles, make, Written } from './svg';

/** The figures of an upright axis: where the plot is scrolled sideways they stay at its edge, over what passes below. */
export class HeldAxis {
  private readonly group: SVGGElement;
  private readonly ground: Written<SVGRectElement>;
  private readonly texts: KeptRoles;
  private ends = 0;

  constructor(
    layer: SVGGElement,
    private readonly sight: Sight,
  ) {
    this.group = layer;
    this.ground = new Written(make('rect', layer, 'sv-held-ground'));
    this.ground.set('fill', 'none');
    this.texts = new KeptRoles(make('g', layer));
    sight.follow(() => this.place());
  }

  /** Paints its texts, and says which of the scene's are not its own. */
  paint({ texts, values, height }: Scene, measure: TextMeasure): Scene['texts'] {
    const own = (text: Scene['texts'][number]) =>
      values.direction === 'y' && text.role === 'tick' && text.x < values.crossStart;
    const held = texts.filter(own);
    this.ends = held.length ? values.crossStart : 0;
    this.ground.set('width', this.ends.toFixed(2));
    this.ground.set('height', String(height));
    this.texts.paint([], held, measure);
    this.place();
    return texts.filter((text) => text.mark === undefined && !own(text));
  }

  private place(): void {
    const by = this.ends ? this.sight.scrolledBy : 0;
    if (by) this.group.setAttribute('transform', `translate(${by} 0)`);
    else this.group.removeAttribute('transform');
    this.group.toggleAttribute('data-held', by > 0);
  }
}
