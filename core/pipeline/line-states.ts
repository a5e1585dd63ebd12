import { isValueColour } from '../board/look';
import { betweenReadings, verdicts } from '../conditions/condition-kind';
import { allSteps, stepLength } from '../data/all-steps';
import type { Readings } from '../data/readings';
import type { Emphasis } from './emphasise';

/** A lit stretch of a line, from and to points along the places; a reading stands in the middle of its place. */
export interface Piece {
  from: number;
  to: number;
  /** An index into the looks of the emphasis. */
  look: number;
  /** The reading before it, or at its start. */
  reading: number;
}

/** One line of a chart and how it is lit: as a whole, or in pieces over what is unlit. */
export interface LineState {
  series: number;
  /** An index into `markStates`. */
  state: number;
  /** An index into the looks, -1 unless the whole line is lit alike. */
  look: number;
  /** Its points are not all lit alike. */
  mixed: boolean;
  pieces: Piece[];
}

/**
 * Whether a line leads from one reading to the next of its series: both have a value, and they are neighbours or the
 * line is led over what is missing.
 */
export const leadsOn = ({ place, value, bridged }: Readings, before: number, after: number): boolean =>
  (bridged === true || place[after]! - place[before]! === 1) &&
  !Number.isNaN(value[before]!) &&
  !Number.isNaN(value[after]!);

/** The look at a point between two readings, by the cues that hold there; -1 for none. */
function lookBetween(emphasis: Emphasis, series: number, at: number, before: number, after: number): number {
  let look = -1;
  emphasis.evaluations.forEach(({ evaluation }, index) => {
    if (!evaluation.active || betweenReadings(evaluation, at, before, after) !== verdicts.yes) return;
    const variant = evaluation.along?.variant?.(at) ?? evaluation.variant?.[before] ?? 0;
    look = emphasis.blend(look, index, variant, series);
  });
  return look;
}

/** Lit pieces of one series; those that touch and look alike are one, unless the colour follows the figures. */
function piecesOf(emphasis: Emphasis, readings: Readings, series: number, cuts: readonly number[]): Piece[] {
  const pieces: Piece[] = [];
  const end = readings.starts[series + 1]!;
  let cut = 0;
  const add = (from: number, to: number, before: number) => {
    const look = lookBetween(emphasis, series, (from + to) / 2, before, before + 1);
    if (look < 0) return;
    const last = pieces.at(-1);
    const follows = isValueColour(emphasis.looks[look]!.colour);
    if (last && last.to === from && last.look === look && !follows) last.to = to;
    else pieces.push({ from, to, look, reading: before });
  };
  for (let i = readings.starts[series]!; i + 1 < end; i++) {
    let from = readings.place[i]! + 0.5;
    const to = readings.place[i + 1]! + 0.5;
    while (cut < cuts.length && cuts[cut]! <= from) cut++;
    if (!leadsOn(readings, i, i + 1)) continue;
    for (let c = cut; c < cuts.length && cuts[c]! < to; c++) {
      add(from, cuts[c]!, i);
      from = cuts[c]!;
    }
    add(from, to, i);
  }
  return pieces;
}

/**
 * How the lines of a chart are lit. Between two readings a cue holds where it holds at both; one that is about the axis
 * itself holds exactly from where to where it says, in the middle of a period as well.
 */
export const lineStatesOf = (emphasis: Emphasis, readings: Readings): LineState[] =>
  allSteps(lineStatesInSteps(emphasis, readings));

/** The same in steps. */
export function* lineStatesInSteps(emphasis: Emphasis, readings: Readings): Generator<void, LineState[]> {
  const active = emphasis.evaluations.filter(({ evaluation }) => evaluation.active);
  const cuts = [...new Set(active.flatMap(({ evaluation }) => evaluation.along?.cuts ?? []))].sort(
    (a, b) => a - b,
  );
  const cutting = active.some(({ evaluation }) => evaluation.along);
  const lineStates: LineState[] = [];
  let since = 0;
  for (let series = 0; series + 1 < readings.starts.length; series++) {
    const first = readings.starts[series]!;
    const end = readings.starts[series + 1]!;
    if (first === end) continue;
    since += end - first;
    if (since > stepLength) {
      yield;
      since = 0;
    }
    const look = emphasis.look[first]!;
    let alike = !cutting && !isValueColour(emphasis.looks[look]?.colour);
    for (let i = first + 1; alike && i < end; i++) alike = emphasis.look[i] === look;
    if (alike) {
      lineStates.push({ series, state: emphasis.state[first]!, look, mixed: false, pieces: [] });
      continue;
    }
    lineStates.push({
      series,
      state: emphasis.rest,
      look: -1,
      mixed: true,
      pieces: piecesOf(emphasis, readings, series, cuts),
    });
  }
  return lineStates;
}
