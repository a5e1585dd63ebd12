import { IsOptional } from '../board/validation';
import { tell } from '../messages/desk';
import { GuideBase } from './guide-base';
import 'reflect-metadata/lite';
import { IsBoolean, IsIn } from 'class-validator';
import { type BoardEvent, byDate } from '../board/event';
import { axisPlace, placesRise } from '../data/axis-place';
import { textSize } from '../forms/form-kind';
import type { SceneText, TextMeasure } from '../forms/scene';
import { optionWord, sentenceParts } from '../words/sentence';
import { type GuideKind, type GuideMarks, nothingDrawn, type Plot } from './guide-kind';

/** Lines at the days of the board's events, with their names; the ground between them can be tinted. */
export class EventGuide extends GuideBase {
  @IsIn(['event'])
  kind!: 'event';

  /** Every second stretch between events has a tinted ground. */
  @IsOptional()
  @IsBoolean()
  tinted?: boolean;
}

const rows = 2;
const rowHeight = 14;
const gap = 8;

/** How many events lie before the plot, and how many after it; px of the others. */
function placesOf({ band, places, by, events }: Plot) {
  const inOrder = byDate(events);
  const at = inOrder.map((event) => axisPlace(event.date, 'from', places, by));
  const px = (place: number) => band.start + Math.min(band.count, place) * band.step;
  // The first place begins at 0, whatever came before: only the day itself tells.
  const first = String(places[0] ?? '').slice(0, 10);
  const shown: { event: BoardEvent; px: number }[] = [];
  const before: BoardEvent[] = [];
  const after: BoardEvent[] = [];
  inOrder.forEach((event, i) => {
    if (event.date < first) before.push(event);
    else if (at[i]! >= band.count) after.push(event);
    else shown.push({ event, px: px(at[i]!) });
  });
  return { shown, before, after };
}

/** Names beside their lines, in as many rows as there are; one that would touch another is left out. */
function nameTexts(
  shown: readonly { event: BoardEvent; px: number }[],
  plot: Plot,
  taken: SceneText[],
  measure: TextMeasure,
): SceneText[] {
  const { band, values } = plot;
  const along = band.direction === 'x';
  const end = band.start + band.count * band.step;
  if (!along)
    return shown.flatMap(({ event, px }, i): SceneText[] => {
      const last = shown[i - 1];
      if (last && px - last.px < rowHeight) return [];
      return [{ x: values.end, y: px - 7, text: event.name, anchor: 'end', role: 'event' }];
    });
  const free = Array.from({ length: rows }, () => Number.NEGATIVE_INFINITY);
  for (const text of taken)
    if (text.anchor === 'start') free[0] = text.x + measure(text.text, textSize.guide, true) + gap;
  const rightTaken = taken.find((text) => text.anchor === 'end');
  const right = rightTaken ? rightTaken.x - measure(rightTaken.text, textSize.guide, true) - gap : end;
  return shown.flatMap(({ event, px }): SceneText[] => {
    const width = measure(event.name, textSize.guide, true);
    const back = px + 4 + width > (rightTaken ? right : end);
    const from = back ? px - 4 - width : px + 4;
    const row = free.findIndex((until) => from >= until);
    if (row < 0 || from < band.start) return [];
    free[row] = from + width + gap;
    return [
      {
        x: back ? px - 4 : px + 4,
        y: values.end - 6 - row * rowHeight,
        text: event.name,
        anchor: back ? 'end' : 'start',
        role: 'event',
      },
    ];
  });
}

/** Says that events lie outside of what is in view. */
function edgeTexts(
  { band, values, andMore }: Plot,
  before: readonly BoardEvent[],
  after: readonly BoardEvent[],
): SceneText[] {
  if (band.direction !== 'x') return [];
  const name = (events: readonly BoardEvent[], nearest: BoardEvent) =>
    events.length > 1 ? andMore(nearest.name, events.length - 1) : nearest.name;
  const y = values.end - 6;
  return [
    ...(before.length
      ? [
          {
            x: band.start,
            y,
            text: `← ${name(before, before.at(-1)!)}`,
            anchor: 'start',
            role: 'event',
          } as const,
        ]
      : []),
    ...(after.length
      ? [
          {
            x: band.start + band.count * band.step,
            y,
            text: `${name(after, after[0]!)} →`,
            anchor: 'end',
            role: 'event',
          } as const,
        ]
      : []),
  ];
}

/** The ground from event to event: in the colours of the events that have one, otherwise every second stretch. */
function tints(
  shown: readonly { event: BoardEvent; px: number }[],
  { band, values }: Plot,
): GuideMarks['areas'] {
  const coloured = shown.some(({ event }) => event.colour);
  const edges = [band.start, ...shown.map(({ px }) => px), band.start + band.count * band.step];
  const [low, high] = [Math.min(values.start, values.end), Math.max(values.start, values.end)];
  return edges.slice(0, -1).flatMap((from, i) => {
    const size = edges[i + 1]! - from;
    const colour = shown[i - 1]?.event.colour;
    if (size <= 0 || (coloured ? !colour : i % 2 === 0)) return [];
    const area =
      band.direction === 'x'
        ? { x: from, y: low, width: size, height: high - low }
        : { x: low, y: from, width: high - low, height: size };
    return [{ ...area, ...(colour ? { colour } : {}) }];
  });
}

export const event: GuideKind<EventGuide> = {
  kind: 'event',
  Spec: EventGuide,
  readsEvents: true,
  levers: () => [],
  needs: () => [],
  figures: () => [],
  rows: rows,
  place(spec, _figures, plot) {
    const { band, places, events, values } = plot;
    if (
      !events.length ||
      !places.length ||
      !band.count ||
      !placesRise(places) ||
      typeof places[0] !== 'string'
    )
      return nothingDrawn;
    const { shown, before, after } = placesOf(plot);
    const edges = edgeTexts(plot, before, after);
    const [low, high] = [Math.min(values.start, values.end), Math.max(values.start, values.end)];
    return {
      ...nothingDrawn,
      areas: spec.tinted ? tints(shown, plot) : [],
      lines: shown.map(({ px, event: { colour } }) => ({
        ...(band.direction === 'x'
          ? { x1: px, x2: px, y1: low, y2: high }
          : { x1: low, x2: high, y1: px, y2: px }),
        role: 'event',
        ...(colour ? { colour } : {}),
      })),
      texts: [...edges, ...nameTexts(shown, plot, edges, plot.measure)],
    };
  },
  unfit({ by, against }, words) {
    if (against) return tell('event.alongMeasure');
    const type = words.field(by.field)?.type;
    return type === undefined || type === 'date' || type === 'datetime' ? null : tell('segment.noDates');
  },
  parts: (spec, words) =>
    sentenceParts('event', {
      n: words.events.length,
      events: { slot: 'events', text: tell('events', { n: words.events.length }) },
      background: optionWord(tell('event.background'), ['tinted'], spec.tinted ?? false, [
        { value: false, text: tell('event.plain') },
        { value: true, text: tell('event.alternating') },
      ]),
    }),
  without: (spec) => spec,
};
