import type { Readings } from '../data/readings';
import { type Edges, overlap, textEdges } from '../forms/edges';
import { textSize } from '../forms/form-kind';
import type { Scene, SceneText, TextMeasure } from '../forms/scene';
import { nameOfPlace } from '../forms/upright';
import { type Emphasis, stateCode } from './emphasise';

/** The name of a category as it stands below a plot. */
export type CategoryName = SceneText & { state: 'lit' | 'muted' | 'plain' };

/** With more lit places than this their names would be most of the axis; then it stays as it is. */
const fewLit = 12;
const aside = 5;
const lineHeight = 14;

/** The lit places, the ends of each run of neighbours before what lies between them. */
function litPlaces({ place }: Readings, { state }: Emphasis): number[] {
  const lit = new Set<number>();
  for (let i = 0; i < state.length && lit.size <= fewLit; i++)
    if (state[i] === stateCode.lit) lit.add(place[i]!);
  const places = [...lit].sort((a, b) => a - b);
  const isEnd = (at: number) => !lit.has(at - 1) || !lit.has(at + 1);
  return [...places.filter(isEnd), ...places.filter((at) => !isEnd(at))];
}

/**
 * The names below an upright plot where too many stand there for all to be written: those of lit marks first, and of
 * the regular ones those that leave them room. Null where the regular ones have the lit among them, or none is lit.
 */
export function categoryNames(
  scene: Scene,
  readings: Readings,
  emphasis: Emphasis,
  labels: readonly string[],
  measure: TextMeasure,
): CategoryName[] | null {
  const regular = scene.texts.filter(({ role, place }) => role === 'category' && place !== undefined);
  const [first] = regular;
  if (!first || scene.band.direction !== 'x' || regular.length >= scene.band.count || !emphasis.litCount)
    return null;
  const lit = litPlaces(readings, emphasis);
  const there = new Set(regular.map(({ place }) => place!));
  if (lit.length > fewLit || lit.every((place) => there.has(place))) return null;

  const { band, values } = scene;
  const isLit = new Set(lit);
  const others = emphasis.state.some((state) => state === stateCode.muted) ? 'muted' : 'plain';
  const taken: Edges[] = [];
  const names: CategoryName[] = [];
  const add = (text: SceneText, state: CategoryName['state']) => {
    const edges = textEdges(text, textSize.category, lineHeight, measure, aside);
    if (taken.some((other) => overlap(other, edges))) return;
    taken.push(edges);
    names.push({ ...text, state });
  };
  for (const place of lit) {
    const { mark: _mark, ...text } = first;
    const middle = band.start + band.step * (place + 0.5);
    add({ ...text, ...nameOfPlace(labels[place] ?? '', middle, values.crossEnd, measure), place }, 'lit');
  }
  for (const { mark: _mark, ...text } of regular) if (!isLit.has(text.place!)) add(text, others);
  return names;
}
