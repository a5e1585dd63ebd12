import { type Edges, overlap, textEdges } from '../forms/edges';
import { textSize } from '../forms/form-kind';
import type { SceneText, TextMeasure } from '../forms/scene';

const lineHeight = 13;

const boxOf = (text: SceneText, measure: TextMeasure): Edges =>
  textEdges(text, textSize.guide, lineHeight, measure);

/** The plot within which texts can move, px. */
export interface Room extends Edges {
  upright: boolean;
}

/** Other places for the text of a line: its other end, then the other side of it. */
function places(text: SceneText, room: Room, width: number): SceneText[] {
  if (room.upright) {
    const other = { ...text, y: text.y + 18 };
    // Clear of the grip by which the line is dragged.
    const start = { anchor: 'start', x: room.left + 10 } as const;
    return [text, { ...text, ...start }, other, { ...other, ...start }];
  }
  const turned: SceneText =
    text.anchor === 'end'
      ? { ...text, anchor: 'start', x: text.x + 10 }
      : { ...text, anchor: 'end', x: text.x - 10 };
  const below = { ...text, y: room.bottom - lineHeight / 2 - 1 };
  const turnedBelow = { ...turned, y: below.y };
  return [text, turned, below, turnedBelow].filter(({ x, anchor }) =>
    anchor === 'end' ? x - width >= room.left : x + width <= room.right,
  );
}

/**
 * The texts of guides, none over another: one that would lie over an earlier one, or hide where a mark ends, moves to the
 * other end of its line, or to its other side. Where all places hide ends it stays; where none is free of other texts it
 * is left out: the line stays.
 */
export function apart(
  texts: readonly SceneText[],
  room: Room,
  measure: TextMeasure,
  hides: (box: Edges) => boolean = () => false,
): SceneText[] {
  const taken: Edges[] = [];
  return texts.flatMap((text) => {
    const tried =
      text.role === 'guide' ? places(text, room, measure(text.text, textSize.guide, true)) : [text];
    const open = tried.filter((each) => taken.every((other) => !overlap(boxOf(each, measure), other)));
    const free = (text.role === 'guide' && open.find((each) => !hides(boxOf(each, measure)))) || open[0];
    if (!free) return [];
    taken.push(boxOf(free, measure));
    return [free];
  });
}
