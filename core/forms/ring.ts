import { fitText, widestOf } from './fit-text';
import { type FormInput, type FormKind, textSize } from './form-kind';
import type { Scene, SceneLine, SceneText, SliceMarks, TextMeasure } from './scene';
import { spread } from './spread';

const lineHeight = 17;
const gap = 14;
/** Lit slices step forward by this much, px: room is kept for it. */
export const sliceStep = 8;
/** A thinner ring could not be told from a line. */
const thickness = 0.42;
/** Names are cut before the ring gets narrower than this share of the plot. */
const leastShare = 0.2;
/** More slices than this are not drawn; what they are of the whole stays open. */
export const mostSlices = 400;
const figureRoom = 46;
const fullTurn = 2 * Math.PI;

/** The readings in the order of their places, and what each is of the whole; what is not above zero has no slice. */
function sharesOf({ readings }: FormInput) {
  const order = Array.from(readings.place.keys()).sort((a, b) => readings.place[a]! - readings.place[b]!);
  const above = order.filter((i) => readings.value[i]! > 0);
  const whole = above.reduce((sum, i) => sum + readings.value[i]!, 0);
  return { drawn: above.slice(0, mostSlices), omitted: Math.max(0, above.length - mostSlices), whole };
}

interface Named {
  mark: number;
  y: number;
  text: string;
}

/** A name farther from its slice than this, px, would be taken for that of another. */
const mostAside = 30;
const mostTried = 80;

/** Names of one side from the top down, near their slices and none over another; those of the smallest give way. */
function fitting(names: Named[], top: number, bottom: number, share: (mark: number) => number): Named[] {
  const largest = [...names].sort((a, b) => share(b.mark) - share(a.mark)).slice(0, mostTried);
  let shown: Named[] = [];
  let placed: number[] = [];
  for (const name of largest) {
    const tried = [...shown, name].sort((a, b) => a.y - b.y);
    const at = spread(
      tried.map(({ y }) => y),
      lineHeight,
      top,
      bottom,
    );
    const fits =
      at[0]! >= top + lineHeight / 2 && tried.every(({ y }, i) => Math.abs(at[i]! - y) <= mostAside);
    if (fits) [shown, placed] = [tried, at];
  }
  return shown.map((name, i) => ({ ...name, y: placed[i]! }));
}

/** Slices of one whole around a centre, in the chart's order from the top, with their names and shares beside them. */
export const ring: FormKind = {
  kind: 'ring',
  word: 'a donut',
  noun: 'slices',
  markNoun: 'slice',
  note: 'shares of one whole',
  fromZero: true,
  round: true,
  scene(input): Scene {
    const { readings, labels, width, height, measure, miniature, tickTexts } = input;
    const { drawn, omitted, whole } = sharesOf(input);
    const share = (i: number) => readings.value[i]! / whole;
    const widest = miniature ? 0 : widestOf(labels, textSize.category, measure) + figureRoom;
    const across = miniature ? width / 2 : Math.max(width * leastShare, width / 2 - widest - gap);
    const outer = Math.max(4, Math.min(height / 2, across) - (miniature ? 1 : sliceStep + 4));
    const centre = { x: width / 2, y: height / 2 };
    const list = () => new Float64Array(readings.length).fill(Number.NaN);
    const marks: SliceMarks = {
      shape: 'slices',
      x: list(),
      y: list(),
      from: list(),
      to: list(),
      centre,
      inner: outer * (1 - thickness),
      outer,
      names: [],
    };
    const middle = outer * (1 - thickness / 2);
    const sides: [Named[], Named[]] = [[], []];
    let angle = 0;
    for (const i of drawn) {
      const size = share(i) * fullTurn;
      const at = angle + size / 2;
      marks.from[i] = angle;
      marks.to[i] = angle + size;
      marks.x[i] = centre.x + Math.sin(at) * middle;
      marks.y[i] = centre.y - Math.cos(at) * middle;
      const text = `${(share(i) * 100).toFixed(share(i) < 0.1 ? 1 : 0)} %`;
      sides[at < Math.PI ? 1 : 0].push({ mark: i, y: centre.y - Math.cos(at) * (outer + gap), text });
      angle += size;
    }
    const texts: SceneText[] = [];
    // Lit names are bold: what fits then fits always.
    const bold: TextMeasure = (text, size) => measure(text, size, true);
    const lines: SceneLine[] = [];
    if (!miniature) {
      const beside = sides.flatMap((names, side) =>
        fitting(names, 0, height, share).map((name) => {
          // Names stand along the ring: where it is narrow, they come closer.
          const reach = Math.sqrt(Math.max(0, (outer + gap) ** 2 - (name.y - centre.y) ** 2));
          const away = Math.max(gap, reach);
          const x = side ? centre.x + away : centre.x - away;
          return { ...name, side, x, room: (side ? width - x : x) - 2 };
        }),
      );
      const nameOf = (mark: number) => labels[readings.place[mark]!]!;
      // A name says more than a share, which is seen: where not all have room for both, names stand alone.
      const both = ({ mark, text }: Named) => `${nameOf(mark)} ${text}`;
      const withShares = beside.every((name) => bold(both(name), textSize.category) <= name.room);
      for (const name of beside) {
        const { mark, x, y, side, room } = name;
        const text = withShares ? both(name) : fitText(nameOf(mark), room, textSize.category, bold);
        if (!text) continue;
        const wide = bold(text, textSize.category);
        texts.push({ x, y, text, anchor: side ? 'start' : 'end', role: 'category', mark });
        const at = (marks.from[mark]! + marks.to[mark]!) / 2;
        const foot = outer + sliceStep + 1;
        const [x1, y1] = [centre.x + Math.sin(at) * foot, centre.y - Math.cos(at) * foot];
        const x2 = side ? x - 4 : x + 4;
        if (Math.hypot(x2 - x1, y - y1) > lineHeight) lines.push({ x1, y1, x2, y2: y, role: 'leader' });
        marks.names.push({
          x: side ? x : x - wide,
          y: y - lineHeight / 2,
          width: wide,
          height: lineHeight,
          mark,
        });
      }
      if (drawn.length && outer > 40)
        texts.push({ x: centre.x, y: centre.y, text: tickTexts([whole])[0]!, anchor: 'middle', role: 'sum' });
    }
    return {
      width,
      height,
      band: { direction: 'x', start: 0, step: width, count: 0 },
      values: {
        direction: 'y',
        scale: 'even',
        domain: [0, 1],
        start: height,
        end: 0,
        crossStart: 0,
        crossEnd: width,
      },
      marks,
      texts,
      lines,
      omitted,
      beyond: readings.value.filter((value) => value < 0).length,
    };
  },
};
