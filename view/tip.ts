import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { markReason } from '@sorvik/core/text/chart-words';

/** How long the pointer rests on a mark before its tip comes, ms; moving on to the next mark takes no time. */
const rest = 250;
const gap = 8;

/** The small sheet beside a mark: what it stands for, its figure, and why it is lit or muted. It never covers the mark. */
export class Tip {
  private index = -1;
  private byKeyboard = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly element: HTMLElement,
    /** The mark's element, by which the tip stands. */
    private readonly markAt: (index: number) => Element | undefined,
    private readonly output: () => ChartResult | undefined,
  ) {}

  /** Shows the tip of a mark, or none for -1. */
  show(index: number, byKeyboard: boolean): void {
    clearTimeout(this.timer);
    const wasShown = this.index >= 0;
    this.byKeyboard = byKeyboard;
    if (index < 0) this.hide();
    else if (wasShown || byKeyboard) this.write(index);
    else this.timer = setTimeout(() => this.write(index), rest);
  }

  /** Whether it is to be seen. */
  get isOpen(): boolean {
    return this.index >= 0;
  }

  /** Follows what the chart says now. */
  refresh(): void {
    if (this.index >= 0) this.write(this.index);
  }

  hide(): void {
    clearTimeout(this.timer);
    this.index = -1;
    this.element.hidden = true;
  }

  private write(index: number): void {
    const output = this.output();
    const mark = this.markAt(index);
    const value = output?.readings.value[index];
    if (!output || !mark || value === undefined) {
      this.hide();
      return;
    }
    this.index = index;
    const { element } = this;
    const [head, figure, why] = element.children as unknown as HTMLElement[];
    head!.textContent = output.name(index);
    const besides = output.tooltipText(index);
    figure!.textContent = besides ? `${output.exact(index)} · ${besides}` : output.exact(index);
    why!.textContent = markReason(output, index);
    element.setAttribute('role', this.byKeyboard ? 'status' : 'tooltip');
    element.hidden = false;
    this.place(mark, output.scene.band.direction === 'y');
  }

  /** Beside a lying bar, above a standing one; where there is no room, on another side. */
  private place(mark: Element, lying: boolean): void {
    const frame = this.element.parentElement!.getBoundingClientRect();
    const bar = (mark.querySelector('.sv-bar') ?? mark).getBoundingClientRect();
    const { offsetWidth: width, offsetHeight: height } = this.element;
    const within = (at: number, room: number) => Math.max(0, Math.min(room, at));
    const across = within(bar.left + bar.width / 2 - frame.left - width / 2, frame.width - width);
    const beside = within(bar.top + bar.height / 2 - frame.top - height / 2, frame.height - height);
    const right = (lying ? mark.getBoundingClientRect().right : bar.right) - frame.left + gap;
    const above = bar.top - frame.top - height - gap - 14;
    const below = bar.bottom - frame.top + gap;
    const places: [fits: boolean, x: number, y: number][] = [
      [lying && right + width <= frame.width, right, beside],
      [above >= 0, across, above],
      [below + height <= frame.height, across, below],
      [right + width <= frame.width, right, beside],
      [true, bar.left - frame.left - width - gap, beside],
    ];
    const [, x, y] = places.find(([fits]) => fits)!;
    this.put(x, y);
  }

  private put(x: number, y: number): void {
    this.element.style.transform = `translate(${Math.round(x)}px, ${Math.round(y)}px)`;
  }
}
