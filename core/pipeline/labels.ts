import type { LabelRule } from '../board/otherwise';
import type { Readings } from '../data/readings';
import { type Edges, overlap, textEdges } from '../forms/edges';
import { fitText } from '../forms/fit-text';
import { textSize } from '../forms/form-kind';
import type { PointMarks, Scene, SceneLine, SceneText, TextMeasure } from '../forms/scene';
import { spread } from '../forms/spread';
import { type Emphasis, stateCode } from './emphasise';
import type { LineState } from './line-states';
import { shapeKinds } from './shapes/registry';

/** Which figures stand beside marks. */
export interface Labels {
  /** Per mark 1 where its own figure is not shown; null where all are. */
  hidden: Uint8Array | null;
  /** Figures of marks that have no room of their own. */
  texts: SceneText[];
}

const lineHeight = 14;
/** More candidates than this are not looked at: labels would be a carpet. */
const mostTried = 3000;
/** Where marks are crowded, a few lit ones carry their figures of themselves; more only when the author asks for it. */
const fewLit = 12;

const boxOf = (text: SceneText, measure: TextMeasure): Edges =>
  textEdges(text, textSize.value, lineHeight, measure, 2);

/** What of lit marks no figure of another is to lie over. */
function keptMarks(scene: Scene, { state }: Emphasis): Edges[] {
  const { kept } = shapeKinds.get(scene.marks.shape);
  const { x, y } = scene.marks;
  if (!kept) return [];
  const boxes: Edges[] = [];
  for (let i = 0; i < state.length && boxes.length < mostTried; i++)
    if (state[i] === stateCode.lit && !Number.isNaN(x[i]! + y[i]!)) boxes.push(kept(scene, i));
  return boxes;
}

/** Whether a mark is to carry its figure: as its look says, or else as the chart does. */
function wanted(emphasis: Emphasis, rule: LabelRule | undefined, crowded: boolean, index: number): boolean {
  if (emphasis.state[index] === stateCode.gone) return false;
  const look = emphasis.looks[emphasis.look[index]!];
  if (look?.label !== undefined) return look.label;
  if (rule === 'always') return true;
  if (rule === 'never') return false;
  const lit = emphasis.state[index] === stateCode.lit;
  return rule === 'lit' || crowded ? lit : true;
}

/** What figures of marks give way to. */
export interface Obstacles {
  texts: readonly SceneText[];
  /** Lines of guides: lit marks keep their figures under them. */
  lines: readonly SceneLine[];
  /** What can be taken hold of: nothing is written under it. */
  grips: readonly Edges[];
}

/** Which marks have a figure of their own that lies under what is taken. */
function coveredFigures(
  { texts }: Scene,
  { state }: Emphasis,
  taken: Obstacles,
  measure: TextMeasure,
): Set<number> {
  const covered = new Set<number>();
  if (!taken.texts.length && !taken.lines.length && !taken.grips.length) return covered;
  const names = [...taken.texts.map((text) => boxOf(text, measure)), ...taken.grips];
  const lines = taken.lines.map(({ x1, x2, y1, y2 }) => ({
    left: Math.min(x1, x2),
    right: Math.max(x1, x2) + 0.5,
    top: Math.min(y1, y2),
    bottom: Math.max(y1, y2) + 0.5,
  }));
  for (const text of texts) {
    if (text.role !== 'value' || text.mark === undefined) continue;
    const box = boxOf(text, measure);
    // A line just above or below the letters strikes nothing through.
    const letters = { ...box, top: box.top + 2, bottom: box.bottom - 1 };
    const lit = state[text.mark] === stateCode.lit;
    if (names.some((name) => overlap(name, box)) || (!lit && lines.some((line) => overlap(line, letters))))
      covered.add(text.mark);
  }
  return covered;
}

/**
 * The figures beside marks. Where each has room they are only hidden or shown; where marks are crowded, lit ones come
 * first and none is put over another.
 */
export function labelsOf(
  scene: Scene,
  readings: Readings,
  emphasis: Emphasis,
  rule: LabelRule | undefined,
  valueText: (index: number) => string,
  measure: TextMeasure,
  taken: Obstacles,
): Labels {
  const { spots } = scene;
  const n = scene.marks.x.length;
  if (!spots) {
    const hidden = new Uint8Array(n);
    let some = false;
    const covered = coveredFigures(scene, emphasis, taken, measure);
    for (let i = 0; i < n; i++) {
      hidden[i] = wanted(emphasis, rule, false, i) && !covered.has(i) ? 0 : 1;
      some ||= hidden[i] === 1;
    }
    return { hidden: some ? hidden : null, texts: [] };
  }
  if (!rule && emphasis.litCount > fewLit && !emphasis.looks.some(({ label }) => label))
    return { hidden: null, texts: [] };
  const tried: number[] = [];
  const unlitToo = rule === 'always' && emphasis.litCount < n;
  for (const lit of unlitToo ? [true, false] : emphasis.litCount ? [true] : [])
    for (let i = 0; i < n && tried.length < mostTried; i++)
      if (
        (emphasis.state[i] === stateCode.lit) === lit &&
        !Number.isNaN(spots.x[i]! + readings.value[i]! + spots.y[i]!) &&
        wanted(emphasis, rule, true, i)
      )
        tried.push(i);
  const boxes = [
    ...taken.texts.map((text) => boxOf(text, measure)),
    ...taken.grips,
    ...keptMarks(scene, emphasis),
  ];
  const { holds } = shapeKinds.get(scene.marks.shape);
  const texts: SceneText[] = [];
  for (const i of tried) {
    const text: SceneText = {
      x: spots.x[i]!,
      y: Math.max(lineHeight / 2, spots.y[i]!),
      text: valueText(i),
      anchor: spots.anchor,
      role: 'value',
      mark: i,
    };
    const box = boxOf(text, measure);
    if (holds?.(scene, i, box.right - box.left)) text.inside = true;
    if (box.right > scene.width) {
      text.anchor = 'end';
      // A name beside its dot goes to the other side of it.
      text.x = spots.anchor === 'start' ? 2 * scene.marks.x[i]! - spots.x[i]! : scene.width - 1;
      Object.assign(box, boxOf(text, measure));
    }
    if (!boxes.every((other) => !overlap(box, other))) continue;
    boxes.push(box);
    texts.push(text);
  }
  return { hidden: null, texts };
}

/**
 * The names of lines at their ends, without one over another. Where not all have room, those of lit lines stand there,
 * and while none is lit as many as find a place of their own.
 */
export function endNames(
  scene: Scene,
  readings: Readings,
  lineStates: readonly LineState[],
  names: readonly string[],
  measure: TextMeasure,
): SceneText[] {
  const from = scene.namesFrom;
  if (from === undefined || !readings.series.length) return [];
  const { y } = scene.marks as PointMarks;
  const ends = lineStates
    .map((lineState) => {
      let last = readings.starts[lineState.series + 1]! - 1;
      while (last > readings.starts[lineState.series]! && Number.isNaN(y[last]!)) last--;
      return {
        series: lineState.series,
        y: y[last]!,
        lit: lineState.look >= 0 || lineState.pieces.length > 0,
        lineState,
      };
    })
    .filter((end) => !Number.isNaN(end.y) && end.lineState.state !== stateCode.gone)
    .sort((a, b) => a.y - b.y);
  // Lit names are bold: what fits then fits always, and none changes when it is lit.
  const bold: TextMeasure = (text, size) => measure(text, size, true);
  // Names of places stand below the plot.
  const floor = Math.min(scene.height, scene.values.start + lineHeight / 2);
  const room = Math.floor(floor / lineHeight);
  let shown = ends;
  if (ends.length > room) {
    const lit = ends.filter((end) => end.lit);
    shown = lit.slice(0, room);
    let below = Number.NEGATIVE_INFINITY;
    if (!lit.length)
      shown = ends.filter((end) => {
        const free = end.y - below >= lineHeight;
        if (free) below = end.y;
        return free;
      });
  }
  const ys = spread(
    shown.map((end) => end.y),
    lineHeight,
    0,
    floor,
  );
  return shown.map(({ series }, i) => ({
    x: from,
    y: ys[i]!,
    text: fitText(names[series]!, scene.width - from, textSize.name, bold),
    anchor: 'start',
    role: 'name',
    mark: series,
  }));
}

/** The series whose name is at a point, px; -1 for none. */
export const nameAt = (names: readonly SceneText[], x: number, y: number): number =>
  names.find((name) => x >= name.x - 6 && Math.abs(y - name.y) <= lineHeight / 2)?.mark ?? -1;
