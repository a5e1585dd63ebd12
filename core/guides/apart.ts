import { textSize } from '../forms/form-kind';
import type { SceneText, TextMeasure } from '../forms/scene';

const lineHeight = 13;

/** How a guide's text lies, px. */
const boxOf = ({ x, y, text, anchor }: SceneText, measure: TextMeasure) => {
  const width = measure(text, textSize.guide, true);
  const left = anchor === 'end' ? x - width : anchor === 'middle' ? x - width / 2 : x;
  return { left, right: left + width, top: y - lineHeight / 2, bottom: y + lineHeight / 2 };
};
type Box = ReturnType<typeof boxOf>;
const meet = (a: Box, b: Box) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** The plot within which texts can move, px. */
export interface Room {
  upright: boolean;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Other places for the text of a line: the other side of it, then the other end. */
function places(text: SceneText, room: Room, width: number): SceneText[] {
  if (room.upright) {
    const other = { ...text, y: text.y + 18 };
    const start = { anchor: 'start', x: room.left + 4 } as const;
    return [text, other, { ...text, ...start }, { ...other, ...start }];
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
 * The texts of guides, none over another: one that would lie over an earlier one moves to the other side of its line, or
 * to the other end. Where there is no such place it is left out: the line stays.
 */
export function apart(texts: readonly SceneText[], room: Room, measure: TextMeasure): SceneText[] {
  const taken: Box[] = [];
  return texts.flatMap((text) => {
    const tried =
      text.role === 'guide' ? places(text, room, measure(text.text, textSize.guide, true)) : [text];
    const free = tried.find((each) => taken.every((other) => !meet(boxOf(each, measure), other)));
    if (!free) return [];
    taken.push(boxOf(free, measure));
    return [free];
  });
}
