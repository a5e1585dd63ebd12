import { lab, rgb } from 'd3-color';
import { type MutedTone, usualTone } from '../board/otherwise';
import { grounds } from './grounds';

type Vision = readonly (readonly [number, number, number])[];

/**
 * How colours look to people who lack one kind of cone, as matrices over linear RGB: Machado, Oliveira and Fernandes,
 * "A Physiologically-based Model for Simulation of Color Vision Deficiency" (2009), severity 1.
 */
const visions: Record<string, Vision> = {
  everybody: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  red: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  green: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  blue: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

const toLinear = (part: number) => {
  const share = part / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
};
const toByte = (linear: number) => {
  const part = Math.max(0, Math.min(1, linear));
  return 255 * (part <= 0.0031308 ? part * 12.92 : 1.055 * part ** (1 / 2.4) - 0.055);
};

function seen(colour: string, vision: Vision) {
  const { r, g, b } = rgb(colour);
  const linear = [r, g, b].map(toLinear);
  const [red, green, blue] = vision.map((row) =>
    toByte(row.reduce((sum, weight, i) => sum + weight * linear[i]!, 0)),
  );
  return lab(rgb(red!, green!, blue!));
}

/** The distance of two colours as a kind of vision has it: CIE 1976, on which 2 can just be told apart. */
export function colourDistance(a: string, b: string, vision: Vision = visions.everybody!): number {
  const from = seen(a, vision);
  const to = seen(b, vision);
  return Math.hypot(from.l - to.l, from.a - to.a, from.b - to.b);
}

/** Marks lie apart from each other and are small: a lit one must differ from a muted one by far more than a shade. */
export const leastDistance = 24;

/** Where a colour does not stand off what is muted: on which ground, and to whom. Empty where it does everywhere. */
export const weakSpots = (
  colour: string,
  tone: MutedTone = usualTone,
): { ground: string; vision: string; distance: number }[] =>
  grounds.flatMap(({ name, muted }) =>
    Object.entries(visions).flatMap(([vision, matrix]) => {
      const distance = colourDistance(colour, muted[tone], matrix);
      return distance < leastDistance ? [{ ground: name, vision, distance }] : [];
    }),
  );

const found = new Map<string, string>();

/** The nearest colour of the same hue that stands off what is muted everywhere: lighter, darker, stronger or paler. */
export function nearestStrong(colour: string, tone: MutedTone = usualTone): string {
  const key = `${colour} ${tone}`;
  const known = found.get(key);
  if (known) return known;
  const from = lab(colour);
  let best = colour;
  let least = Number.POSITIVE_INFINITY;
  // Between the two muted tones there is always a grey, at least.
  for (let l = 5; l <= 95; l += 1)
    for (let strength = 0; strength <= 2.6; strength += 0.2) {
      const tried = rgb(lab(l, from.a * strength, from.b * strength))
        .clamp()
        .formatHex();
      const to = lab(tried);
      const distance = Math.hypot(from.l - to.l, from.a - to.a, from.b - to.b);
      if (distance < least && !weakSpots(tried, tone).length) {
        least = distance;
        best = tried;
      }
    }
  found.set(key, best);
  return best;
}
