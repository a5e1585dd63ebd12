import { english, localeOf } from '@sorvik/core/messages/locale';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { element } from './element';
import { perFrame } from './per-frame';
import { say } from './say';

const lit = 2;

/** Where lit marks are along the way that a plot scrolls, px, rising. */
function litAlong({ scene, emphasis }: ChartResult, upDown: boolean): number[] {
  const { marks } = scene;
  const at = upDown ? marks.y : marks.x;
  const size = marks.shape === 'rects' ? (upDown ? marks.height : marks.width) : null;
  const found: number[] = [];
  for (let i = 0; i < at.length; i++)
    if (emphasis.state[i] === lit && !Number.isNaN(at[i]!)) found.push(at[i]! + (size ? size[i]! / 2 : 0));
  return found.sort((a, b) => a - b);
}

/**
 * Keeps what is lit in sight where a plot is larger than its room: it scrolls to the first lit mark when none is to be
 * seen, and says at the edges that there is more, and how many lit ones are beyond them.
 */
export class LitInSight {
  private readonly corner = element('div', 'sv-edges');
  private readonly edges: Record<'before' | 'after', HTMLButtonElement>;
  private along: number[] = [];
  private upDown = true;
  private room = 0;
  /** How long all of it is, px. */
  private length = 0;
  private fitted = '';
  private locale = english;
  /** How far it is scrolled, px, as it is told: asking for it while painting would lay out the whole page. */
  private from = 0;
  private readonly scrolled = perFrame(() => {
    this.from = this.upDown ? this.plot.scrollTop : this.plot.scrollLeft;
    this.tell();
  });

  constructor(private readonly plot: HTMLElement) {
    const edge = (at: 'before' | 'after') => {
      const button = document.createElement('button');
      button.type = 'button';
      button.className = 'sv-edge';
      button.dataset.at = at;
      button.hidden = true;
      button.addEventListener('click', () => this.show(at));
      this.corner.append(button);
      return button;
    };
    this.edges = { before: edge('before'), after: edge('after') };
    plot.prepend(this.corner);
    plot.addEventListener('scroll', this.scrolled, { passive: true });
  }

  /** Follows a new state of the chart; `follow` where something outside of the plot has moved. */
  update(result: ChartResult, room: { width: number; height: number }, follow: boolean): void {
    const { scene } = result;
    this.locale = localeOf(result.input.board.locale);
    const upDown = scene.height > room.height + 1;
    if (!upDown && scene.width <= room.width + 1) {
      this.along = [];
      this.length = 0;
      this.tell();
      return;
    }
    this.along = litAlong(result, upDown);
    this.upDown = upDown;
    this.room = upDown ? room.height : room.width;
    this.length = upDown ? scene.height : scene.width;
    this.fit(room);
    const { from } = this;
    if (follow && this.along.length && !this.along.some((at) => at >= from && at <= from + this.room))
      this.scrollTo(this.along[0]! - this.room / 4);
    this.tell();
  }

  /** Where the edges are; written only when they are elsewhere, for it costs the page a look at all styles. */
  private fit({ width, height }: { width: number; height: number }): void {
    const fitted = `${this.upDown ? 'y' : 'x'} ${width} ${height}`;
    if (fitted === this.fitted) return;
    this.fitted = fitted;
    this.corner.dataset.along = this.upDown ? 'y' : 'x';
    this.corner.style.setProperty('--sv-room-x', `${width}px`);
    this.corner.style.setProperty('--sv-room-y', `${height}px`);
  }

  stop(): void {
    this.scrolled.cancel();
    this.plot.removeEventListener('scroll', this.scrolled);
    this.corner.remove();
  }

  private scrollTo(at: number): void {
    this.from = Math.max(0, at);
    this.plot.scrollTo(this.upDown ? { top: at } : { left: at });
  }

  /** The nearest lit mark beyond an edge comes into sight. */
  private show(at: 'before' | 'after'): void {
    const { from } = this;
    const next =
      at === 'before'
        ? this.along.findLast((each) => each < from)
        : this.along.find((each) => each > from + this.room);
    if (next !== undefined) this.scrollTo(next - this.room / 2);
  }

  /** That there is more beyond an edge: seen as a shade there. */
  private shade(): void {
    const { from, room, length, corner } = this;
    const more = [length && from > 1 && 'before', length && from + room < length - 1 && 'after'];
    const text = more.filter(Boolean).join(' ');
    if ((corner.dataset.more ?? '') !== text) corner.dataset.more = text;
  }

  private tell(): void {
    this.shade();
    const { before, after } = this.edges;
    if (!this.along.length) {
      for (const button of [before, after]) if (!button.hidden) button.hidden = true;
      return;
    }
    const { from } = this;
    const counts = {
      before: this.along.filter((at) => at < from).length,
      after: this.along.filter((at) => at > from + this.room).length,
    };
    const arrows = this.upDown ? { before: '↑', after: '↓' } : { before: '←', after: '→' };
    for (const at of ['before', 'after'] as const) {
      const button = this.edges[at];
      const count = counts[at];
      if (button.hidden !== (count === 0)) button.hidden = count === 0;
      const text = say(this.locale, 'edge.lit', { arrow: arrows[at], n: count });
      if (count && button.textContent !== text) {
        button.textContent = text;
        const where = this.upDown ? { before: 'above', after: 'below' } : { before: 'left', after: 'right' };
        button.setAttribute('aria-label', say(this.locale, 'edge.show', { n: count, where: where[at] }));
      }
    }
  }
}
