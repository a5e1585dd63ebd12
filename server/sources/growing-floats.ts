/** Figures that come one after another, of which nobody knows how many there will be. */
export class GrowingFloats {
  private kept = new Float64Array(1024);
  private length = 0;

  push(value: number): void {
    if (this.length === this.kept.length) {
      const wider = new Float64Array(this.length * 2);
      wider.set(this.kept);
      this.kept = wider;
    }
    this.kept[this.length++] = value;
  }

  /** What has come until now. */
  values(): Float64Array {
    return this.kept.subarray(0, this.length);
  }
}
