import { make } from '../svg';

/** A canvas among the elements of a drawing, at the resolution of the screen, in the colours of the theme. */
export class CanvasSheet {
  private readonly holder: SVGForeignObjectElement;
  private readonly canvas: HTMLCanvasElement;
  private readonly probe: SVGGElement;
  private readonly known = new Map<string, string>();
  private readonly theme: MutationObserver;

  constructor(
    layer: SVGGElement,
    /** The ground has changed, and with it all colours. */
    onTheme: () => void,
  ) {
    this.holder = make('foreignObject', layer);
    this.canvas = document.createElement('canvas');
    this.canvas.className = 'sv-sheet';
    this.holder.append(this.canvas);
    this.probe = make('g', layer);
    this.theme = new MutationObserver(() => {
      this.known.clear();
      onTheme();
    });
    const themed = layer.closest('[data-bs-theme]') ?? document.documentElement;
    this.theme.observe(themed, { attributeFilter: ['data-bs-theme'] });
  }

  /** Dots of the screen for each px. */
  get sharp(): number {
    return Math.min(2, window.devicePixelRatio || 1);
  }

  /** A clean sheet of a size, px, for the part of the drawing that begins at `left` and `top`. */
  clean(width: number, height: number, left = 0, top = 0): CanvasRenderingContext2D {
    const { canvas, holder } = this;
    const { sharp } = this;
    const [w, h] = [Math.round(width * sharp), Math.round(height * sharp)];
    const context = canvas.getContext('2d')!;
    if (canvas.hidden) canvas.hidden = false;
    if (canvas.width !== w || canvas.height !== h) {
      canvas.width = w;
      canvas.height = h;
      canvas.style.width = `${width}px`;
      canvas.style.height = `${height}px`;
      holder.setAttribute('width', String(width));
      holder.setAttribute('height', String(height));
    } else {
      context.resetTransform();
      context.clearRect(0, 0, w, h);
    }
    holder.setAttribute('x', String(left));
    holder.setAttribute('y', String(top));
    context.setTransform(sharp, 0, 0, sharp, -left * sharp, -top * sharp);
    return context;
  }

  /** Takes the sheet away while there is nothing on it: also an empty one is put together with the page in every frame. */
  putAway(): void {
    if (!this.canvas.hidden) this.canvas.hidden = true;
  }

  /** A colour in CSS, with the theme's variables, as a canvas takes it. */
  colour(css: string): string {
    const known = this.known.get(css);
    if (known) return known;
    this.probe.style.color = css;
    const found = getComputedStyle(this.probe).color;
    this.known.set(css, found);
    return found;
  }

  /** Colours have to be looked up anew: the muted tone is another. */
  forget(): void {
    this.known.clear();
  }

  remove(): void {
    this.theme.disconnect();
    this.holder.remove();
    this.probe.remove();
  }
}
