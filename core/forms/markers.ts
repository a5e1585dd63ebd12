import type { MarkerShape } from '../board/look';
import type { Readings } from '../cube/readings';
import { type Emphasis, stateCode } from '../emphasis/emphasise';
import { leadsOn, type Strand } from '../emphasis/strands';
import type { Scene } from './scene';

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

/** Which points of lines carry a marker: lit ones that stand by themselves or have room, and those without a line. */
export function markersOf(
  scene: Scene,
  readings: Readings,
  emphasis: Emphasis,
  strands: readonly Strand[],
): Marker[] {
  const markers: Marker[] = [];
  const wide = scene.band.step >= roomy;
  const plainToo = wide && readings.starts.length - 1 <= fewLines;
  for (const { series, pieces, look: whole } of strands) {
    const end = readings.starts[series + 1]!;
    for (let i = readings.starts[series]!; i < end && markers.length < mostMarkers; i++) {
      const state = emphasis.state[i]!;
      if (Number.isNaN(readings.value[i]!) || state === stateCode.gone) continue;
      const before = i > readings.starts[series]! && leadsOn(readings, i - 1, i);
      const after = i + 1 < end && leadsOn(readings, i, i + 1);
      const lit = state === stateCode.lit;
      const look = emphasis.looks[emphasis.look[i]!];
      if (lit) {
        const at = readings.place[i]! + 0.5;
        const inLine = whole >= 0 && (before || after);
        const covered = inLine || pieces.some(({ from, to }) => from <= at && at <= to);
        if (covered && !wide && !look?.marker) continue;
        markers.push({
          index: i,
          shape: look?.marker ?? 'disc',
          size: look?.markerSize ?? (before || after ? sizes.lit : sizes.alone),
        });
      } else if ((plainToo && state === stateCode.plain) || !(before || after))
        markers.push({ index: i, shape: 'disc', size: before || after ? sizes.plain : sizes.alone });
    }
  }
  return markers;
}
