import type { MarkerShape } from '../board/look';
import type { Readings } from '../data/readings';
import type { PointMarks, Scene } from '../forms/scene';
import { type Emphasis, stateCode } from './emphasise';
import type { LineState } from './line-states';

/** A marker at a point of a line. */
export interface Marker {
  index: number;
  shape: MarkerShape;
  /** Px across. */
  size: number;
}

const sizes = { plain: 5, lit: 9, alone: 5 };
/** Points this far apart, px, each show themselves. */
const roomy = 12;
const mostMarkers = 2000;
const fewLines = 4;

const alone = new WeakMap<Readings, Int32Array[]>();

/** The readings with a value that no line leads to or from, per series: without a marker nobody would see them. */
function standingAlone(readings: Readings): Int32Array[] {
  const known = alone.get(readings);
  if (known) return known;
  const { starts, value, place, bridged } = readings;
  const found = Array.from({ length: starts.length - 1 }, (_, series) => {
    const own: number[] = [];
    const end = starts[series + 1]!;
    let before = false;
    for (let i = starts[series]!; i < end; i++) {
      const missing = Number.isNaN(value[i]!);
      // `leadsOn`, written out: this runs over every reading with every step of a window.
      const near = bridged || place[i + 1]! - place[i]! === 1;
      const after = !missing && near && i + 1 < end && !Number.isNaN(value[i + 1]!);
      if (!before && !after && !missing) own.push(i);
      before = after;
    }
    return Int32Array.from(own);
  });
  alone.set(readings, found);
  return found;
}

/** Which points of lines carry a marker: lit ones that stand by themselves or have room, and those without a line. */
export function markersOf(
  scene: Scene,
  readings: Readings,
  emphasis: Emphasis,
  lineStates: readonly LineState[],
): Marker[] {
  const markers: Marker[] = [];
  const wide = scene.band.step >= roomy;
  const plainToo = wide && readings.starts.length - 1 <= fewLines;
  const lonely = standingAlone(readings);
  const { y } = scene.marks as PointMarks;
  const add = (index: number, isAlone: boolean, covered: boolean) => {
    const state = emphasis.state[index]!;
    if (markers.length >= mostMarkers || state === stateCode.gone || Number.isNaN(y[index]!)) return;
    if (state === stateCode.lit) {
      const look = emphasis.looks[emphasis.look[index]!];
      if (covered && !wide && !look?.marker) return;
      const size = look?.markerSize ?? (isAlone ? sizes.alone : sizes.lit);
      markers.push({ index, shape: look?.marker ?? 'disc', size });
    } else if (isAlone || (plainToo && state === stateCode.plain))
      markers.push({ index, shape: 'disc', size: isAlone ? sizes.alone : sizes.plain });
  };
  for (const lineState of lineStates) {
    const { series, pieces, look } = lineState;
    // A line that is lit as a whole, or not at all, shows itself: only its lonely points are looked at.
    const mixed = lineState.mixed || wide || emphasis.looks[look]?.marker !== undefined;
    if (!mixed) {
      for (const i of lonely[series]!) add(i, true, false);
      continue;
    }
    let piece = 0;
    let next = 0;
    for (let i = readings.starts[series]!; i < readings.starts[series + 1]!; i++) {
      if (Number.isNaN(readings.value[i]!)) continue;
      const isAlone = lonely[series]![next] === i;
      if (isAlone) next++;
      const at = readings.place[i]! + 0.5;
      while (piece < pieces.length && pieces[piece]!.to < at) piece++;
      const inPiece = piece < pieces.length && pieces[piece]!.from <= at;
      add(i, isAlone, inPiece || (look >= 0 && !isAlone));
    }
  }
  return markers;
}
