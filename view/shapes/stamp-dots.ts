/** How much of each pixel a round stamp covers, 0 to 1; `size` in dots of the screen. */
function stampOf(size: number): { mask: Float32Array; across: number } {
  const across = Math.ceil(size) + 1;
  const mask = new Float32Array(across * across);
  const middle = across / 2;
  for (let row = 0; row < across; row++)
    for (let column = 0; column < across; column++) {
      const away = Math.hypot(column + 0.5 - middle, row + 0.5 - middle);
      mask[row * across + column] = Math.max(0, Math.min(1, size / 2 - away + 0.5));
    }
  return { mask, across };
}

let one: CanvasRenderingContext2D | undefined;

/** Red, green and blue of a colour as a canvas names it, 0 to 255. */
function partsOf(colour: string): [number, number, number] {
  one ??= document.createElement('canvas').getContext('2d', { willReadFrequently: true })!;
  one.fillStyle = colour;
  one.fillRect(0, 0, 1, 1);
  const [red = 0, green = 0, blue = 0] = one.getImageData(0, 0, 1, 1).data;
  return [red, green, blue];
}

/** Lays a colour over a pixel. */
function blend(
  data: Uint8ClampedArray,
  at: number,
  red: number,
  green: number,
  blue: number,
  cover: number,
): void {
  const under = data[at + 3]! / 255;
  const alpha = cover + under * (1 - cover);
  const share = cover / alpha;
  data[at] = data[at]! + (red - data[at]!) * share;
  data[at + 1] = data[at + 1]! + (green - data[at + 1]!) * share;
  data[at + 2] = data[at + 2]! + (blue - data[at + 2]!) * share;
  data[at + 3] = alpha * 255;
}

/** Dots of one colour. */
export interface DotRun {
  from: number;
  to: number;
  colour: string;
}

/**
 * Writes dots straight into the pixels of a canvas: of fifty thousands each costs a few pixels, where a path of arcs
 * costs a hundred times as much. `sharp` is the number of the screen's dots for each px.
 */
export function stampDots(
  context: CanvasRenderingContext2D,
  x: Float64Array,
  y: Float64Array,
  size: number,
  runs: readonly DotRun[],
  sharp: number,
): void {
  const colours = runs.map(({ colour }) => partsOf(colour));
  const { width, height } = context.canvas;
  const image = context.createImageData(width, height);
  const { data } = image;
  const pixels = new Uint32Array(data.buffer);
  const { mask, across } = stampOf(size * sharp);
  // Of a stamp only what it covers: where, and how much.
  const covered = Array.from(mask.keys()).filter((at) => mask[at]! > 0);
  const offsets = Int32Array.from(covered, (at) => Math.floor(at / across) * width + (at % across));
  const covers = Uint8Array.from(covered, (at) => Math.round(mask[at]! * 255));
  runs.forEach(({ from, to }, run) => {
    const [red, green, blue] = colours[run]!;
    const colour = (blue << 16) | (green << 8) | red;
    for (let i = from; i < to; i++) {
      const left = Math.round(x[i]! * sharp - across / 2);
      const top = Math.round(y[i]! * sharp - across / 2);
      // NaN is on no side of anything: such a dot is nowhere.
      if (!(left >= 0 && top >= 0 && left + across <= width && top + across <= height)) continue;
      const corner = top * width + left;
      for (let part = 0; part < offsets.length; part++) {
        const at = corner + offsets[part]!;
        const cover = covers[part]!;
        const under = pixels[at]! >>> 24;
        if (cover === 255 || under === 0) pixels[at] = (cover << 24) | colour;
        else blend(data, at * 4, red, green, blue, cover / 255);
      }
    }
  });
  context.putImageData(image, 0, 0);
}
