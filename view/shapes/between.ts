import type { Marks, Scene } from '@sorvik/core/forms/scene';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { sameReadings } from './same-readings';

/** A drawing of more marks than this takes too long to be drawn again in each frame. */
const mostMoved: Readonly<Record<Marks['shape'], number>> = {
  rects: 200,
  slices: 200,
  dots: 400,
  points: 2000,
};

/** What of marks is somewhere, px or radians. */
const placed = ['x', 'y', 'width', 'height', 'base', 'from', 'to'] as const;
type Lists = Partial<Record<(typeof placed)[number], Float64Array>>;

/**
 * What is drawn on the way from one drawing to the next, by how much of it is behind, 0 to 1: each reading comes from where
 * it was, one that is new stands where it belongs. Null where there is no way that the eye could follow: another shape,
 * another size, or too many marks.
 */
export function sceneBetween(from: ChartResult, to: ChartResult): ((share: number) => Scene) | null {
  const { marks, texts, width, height } = to.scene;
  const before = from.scene;
  if (marks.shape !== before.marks.shape || width !== before.width || height !== before.height) return null;
  if (to.readings.length > mostMoved[marks.shape]) return null;
  const was = sameReadings(from.readings, to.readings);
  if (!was.some((at) => at >= 0)) return null;
  const lists = marks as unknown as Lists;
  const olds = before.marks as unknown as Lists;
  const names = placed.filter((name) => lists[name] && olds[name]);
  const textKey = (mark: number, role: string) => `${mark} ${role}`;
  const oldTexts = new Map(before.texts.map((text) => [textKey(text.mark ?? -1, text.role), text]));
  return (share) => {
    const at = (old: number | undefined, now: number) =>
      old === undefined || Number.isNaN(old) ? now : old + (now - old) * share;
    const moved: Lists = {};
    for (const name of names)
      moved[name] = lists[name]!.map((now, i) => at(was[i]! < 0 ? undefined : olds[name]![was[i]!], now));
    return {
      ...to.scene,
      marks: { ...marks, ...moved } as Marks,
      // Of lines, names are those of series, which stand at their ends.
      texts:
        marks.shape === 'points'
          ? texts
          : texts.map((text) => {
              const old =
                text.mark === undefined ? undefined : oldTexts.get(textKey(was[text.mark]!, text.role));
              return old ? { ...text, x: at(old.x, text.x), y: at(old.y, text.y) } : text;
            }),
    };
  };
}
