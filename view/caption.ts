import { paced } from './paced';

/** How often a caption is written while a drag goes on, ms: faster than this nobody reads. */
export const whilePassing = 120;

/** The line under a chart. It is written at once, except during a drag: text that changes in every frame is only work. */
export class Caption {
  private said = '';
  private readonly pace = paced(whilePassing);
  constructor(private readonly element: HTMLElement) {}

  say(words: () => string, passing: boolean): void {
    this.pace(() => {
      const text = words();
      if (text === this.said) return;
      this.said = text;
      this.element.textContent = text;
    }, passing);
  }
}
