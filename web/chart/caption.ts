/** How often a caption is written while a drag goes on, ms: faster than this nobody reads. */
const whilePassing = 120;

/** The line under a chart. It is written at once, except during a drag: text that changes in every frame is only work. */
export class Caption {
  private said = '';
  private at = 0;
  constructor(private readonly element: HTMLElement) {}

  say(words: () => string, passing: boolean): void {
    const now = performance.now();
    if (passing && now - this.at < whilePassing) return;
    const text = words();
    if (text === this.said) return;
    this.said = text;
    this.at = now;
    this.element.textContent = text;
  }
}
