/** What is still to be done in the next frame: one thing at a time, the last that was said. */
export class FrameTask {
  private frame = 0;

  /** Does something in the next frame, in place of what was to be done then. */
  set(act: () => void): void {
    this.cancel();
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      act();
    });
  }

  cancel(): void {
    // Drawn without a page, nothing is ever left for a frame.
    if (this.frame) cancelAnimationFrame(this.frame);
    this.frame = 0;
  }
}
