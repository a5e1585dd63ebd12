import { tell } from '../messages/desk';
import { fitText, widestOf } from './fit-text';
import { type FormInput, type FormKind, textSize } from './form-kind';
import type { SceneLine, SceneText, SliceMarks, TextMeasure } from './scene';
import { spread } from './spread';

const lineHeight = 17;
const gap = 14;
/** Lit slices step forward by this much, px: room is kept for it. */
export const sliceStep = 8;
/** A thinner ring could not be told from a line. */
const thickness = 0.42;
/** Names are cut before the ring gets narrower than this share of the plot. */
const leastShare = 0.2;
/** Along the outer edge, px. */
const leastNamed = 1;
const figureRoom = 46;
/** A slice of this share of the whole can be seen, and is to be named. */
const seenShare = 0.02;
/** The list below a ring takes so much of the height at most. */
const mostListed = 0.5;
/** So much larger the ring has to be with its names below it. */
const worthStacking = 1.25;
const fullTurn = 2 * Math.PI;

/** The readings in the order of their places, and what each is of the whole; what is not above zero has no slice. */
function sharesOf({ readings }: FormInput) {
  const order = Array.from(readings.place.keys()).sort((a, b) => readings.place[a]! - readings.place[b]!);
  const drawn = order.filter((i) => readings.value[i]! > 0);
  const whole = drawn.reduce((sum, i) => sum + readings.value[i]!, 0);
  return { drawn, whole };
}

interface Named {
  mark: number;
  y: number;
  text: string;
}

/** Where the ring lies on the plot, px. */
interface Round {
  centre: { x: number; y: number };
  outer: number;
}

/** Names with what leads to them, and where they can be pointed at. */
interface Names {
  texts: SceneText[];
  lines: SceneLine[];
  boxes: SliceMarks['names'];
  /** A name is cut, or a slice that can be seen has none. */
  wanting: boolean;
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

/** The slices around a centre, in the chart's order from the top. */
function slicesOf(
  { readings }: FormInput,
  drawn: readonly number[],
  share: (mark: number) => number,
  { centre, outer }: Round,
): SliceMarks {
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
  let angle = 0;
  for (const i of drawn) {
    const size = share(i) * fullTurn;
    const at = angle + size / 2;
    marks.from[i] = angle;
    marks.to[i] = angle + size;
    marks.x[i] = centre.x + Math.sin(at) * middle;
    marks.y[i] = centre.y - Math.cos(at) * middle;
    angle += size;
  }
  return marks;
}

/** What slices are called, and what share each is of the whole, as text. */
interface Called {
  nameOf(mark: number): string;
  shareOf(mark: number): string;
  share(mark: number): number;
}

const boxAt = ({ x, y, anchor }: SceneText, wide: number, mark: number) => ({
  x: anchor === 'end' ? x - wide : x,
  y: y - lineHeight / 2,
  width: wide,
  height: lineHeight,
  mark,
});

/** Names at both sides of the ring, each near its slice and led to it where it had to give way. */
function namesBeside(
  { width, height, measure }: FormInput,
  drawn: readonly number[],
  marks: SliceMarks,
  { nameOf, shareOf, share }: Called,
): Names {
  const { centre, outer } = marks;
  // Lit names are bold: what fits then fits always.
  const bold: TextMeasure = (text, size) => measure(text, size, true);
  const sides: [Named[], Named[]] = [[], []];
  const angleOf = (mark: number) => (marks.from[mark]! + marks.to[mark]!) / 2;
  for (const mark of drawn) {
    const at = angleOf(mark);
    const y = centre.y - Math.cos(at) * (outer + gap);
    sides[at < Math.PI ? 1 : 0].push({ mark, y, text: shareOf(mark) });
  }
  const beside = sides.flatMap((names, side) =>
    fitting(names, 0, height, share).map((name) => {
      // Names stand along the ring: where it is narrow, they come closer.
      const reach = Math.sqrt(Math.max(0, (outer + gap) ** 2 - (name.y - centre.y) ** 2));
      const away = Math.max(gap, reach);
      const x = side ? centre.x + away : centre.x - away;
      return { ...name, side, x, room: (side ? width - x : x) - 2 };
    }),
  );
  // A name says more than a share, which is seen: where not all have room for both, names stand alone.
  const both = ({ mark, text }: Named) => `${nameOf(mark)} ${text}`;
  const withShares = beside.every((name) => bold(both(name), textSize.category) <= name.room);
  const names: Names = { texts: [], lines: [], boxes: [], wanting: false };
  const named = new Set(beside.map(({ mark }) => mark));
  names.wanting = drawn.some((mark) => share(mark) >= seenShare && !named.has(mark));
  for (const name of beside) {
    const { mark, x, y, side, room } = name;
    const text = withShares ? both(name) : fitText(nameOf(mark), room, textSize.category, bold);
    if (!withShares && text !== nameOf(mark)) names.wanting = true;
    if (!text) continue;
    const placed = { x, y, text, anchor: side ? 'start' : 'end', role: 'category', mark } as const;
    names.texts.push(placed);
    names.boxes.push(boxAt(placed, bold(text, textSize.category), mark));
    const at = angleOf(mark);
    const foot = outer + sliceStep + 1;
    const [x1, y1] = [centre.x + Math.sin(at) * foot, centre.y - Math.cos(at) * foot];
    const x2 = side ? x - 4 : x + 4;
    if (Math.hypot(x2 - x1, y - y1) > lineHeight) names.lines.push({ x1, y1, x2, y2: y, role: 'leader' });
  }
  return names;
}

/** A plot that is higher than it is wide: the ring over all of its width, and a list of the slices below, in their order. */
function stackedRound({ width, height }: FormInput, slices: number): { round: Round; top: number } | null {
  const most = Math.floor((height * mostListed) / lineHeight);
  const rows = Math.min(slices, most);
  const top = height - rows * lineHeight;
  const outer = Math.min(width / 2, (top - gap) / 2) - sliceStep - 4;
  return outer > 0 ? { round: { centre: { x: width / 2, y: outer + sliceStep + 4 }, outer }, top } : null;
}

/** The list below the ring: each slice with its share, as many as there is room for. */
function namesBelow(
  { width, height, measure }: FormInput,
  drawn: readonly number[],
  top: number,
  { nameOf, shareOf }: Called,
): Names {
  const bold: TextMeasure = (text, size) => measure(text, size, true);
  const names: Names = { texts: [], lines: [], boxes: [], wanting: false };
  const rows = Math.round((height - top) / lineHeight);
  const shares = drawn.slice(0, rows).map(shareOf);
  const shareRoom = Math.ceil(widestOf(shares, textSize.category, bold)) + gap;
  drawn.slice(0, rows).forEach((mark, row) => {
    const name = fitText(nameOf(mark), width - shareRoom, textSize.category, bold);
    const y = top + lineHeight * (row + 0.5);
    const text = { x: shareRoom, y, text: name, anchor: 'start', role: 'category', mark } as const;
    names.texts.push(text);
    names.texts.push({ ...text, x: shareRoom - gap / 2, text: shares[row]!, anchor: 'end', role: 'value' });
    names.boxes.push({ ...boxAt({ ...text, x: 0 }, width, mark) });
  });
  return names;
}

/** Slices of one whole around a centre, in the chart's order from the top, with their names and shares beside them. */
export const ring: FormKind = {
  kind: 'ring',
  get word() {
    return tell('form.ring.word');
  },
  get noun() {
    return tell('form.ring.noun');
  },
  mark: 'slice',
  get markNoun() {
    return tell('form.ring.mark');
  },
  get note() {
    return tell('form.ring.note');
  },
  fromZero: true,
  round: true,
  *scene(input) {
    const { readings, labels, width, height, measure, miniature, tickTexts } = input;
    const { drawn, whole } = sharesOf(input);
    const share = (i: number) => readings.value[i]! / whole;
    const called: Called = {
      nameOf: (mark) => labels[readings.place[mark]!]!,
      shareOf: (mark) => input.shareText(share(mark)),
      share,
    };
    const widest = miniature ? 0 : widestOf(labels, textSize.category, measure) + figureRoom;
    const across = miniature ? width / 2 : Math.max(width * leastShare, width / 2 - widest - gap);
    let outer = Math.max(4, Math.min(height / 2, across) - (miniature ? 1 : sliceStep + 4));
    let marks = slicesOf(input, drawn, share, { centre: { x: width / 2, y: height / 2 }, outer });
    /** A slice that is thinner along its edge nobody could find by its name. */
    const findable = drawn.filter((i) => share(i) * fullTurn * outer >= leastNamed);
    let names = miniature ? null : namesBeside(input, findable, marks, called);
    const stacked = names?.wanting ? stackedRound(input, drawn.length) : null;
    if (stacked && stacked.round.outer > outer * worthStacking) {
      outer = stacked.round.outer;
      marks = slicesOf(input, drawn, share, stacked.round);
      names = namesBelow(input, drawn, stacked.top, called);
    }
    const texts: SceneText[] = [...(names?.texts ?? [])];
    marks.names = names?.boxes ?? [];
    if (!miniature && drawn.length && outer > 40)
      texts.push({
        ...marks.centre,
        text: tickTexts([whole])[0]!,
        anchor: 'middle',
        role: 'sum',
      });
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
      lines: names?.lines ?? [],
      beyond: readings.value.filter((value) => value < 0).length,
    };
  },
};
