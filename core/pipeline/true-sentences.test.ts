import { fullEngine } from '@sorvik/formula/full-engine';
import { afterAll, describe, expect, it } from 'vitest';
import type { FigureFormat } from '../board/figure-format';
import { formatOf, type Measure, plainMeasure } from '../board/measure';
import type { Condition } from '../conditions/registry';
import type { LeverFacts } from '../levers/lever-kind';
import { kindOf } from '../levers/registry';
import { settledPosition, settledPositions } from '../levers/settled-positions';
import { english } from '../messages/locale';
import { randomFrom } from '../testing/cube-of-rows';
import { runChart } from '../testing/run-chart';
import { Oracle } from '../testing/sentence-oracle';
import { type World, worldFrom } from '../testing/sentence-world';
import { boardDoubts } from '../text/doubts';
import { keyText } from '../words/key-text';
import { measureText } from '../words/measure-text';
import { vocabularyOf } from '../words/vocabulary';
import { furtherMeasures, rehearsedMeasure, shownMeasures } from './chart-rules';
import { markStates } from './emphasise';

/** Sentences that are checked in one run; the seed of each board is printed with what is false. */
const wanted = 20_000;
// The core knows nothing of Node; its tests run there.
declare const process: { env: Record<string, string | undefined> };

/** The same boards each time, so that what fails here fails everywhere; another seed makes others. */
const first = Number(process.env.SORVIK_SENTENCES_SEED ?? 13_000_000);

/** A figure as it is written, and by how much the true one may differ from it. */
function written(text: string, format: FigureFormat | undefined): { value: number; slack: number } | null {
  let plain = text.replaceAll('\u00a0', ' ').replaceAll('−', '-').replaceAll(',', '').replace('+', '');
  if (plain === 'no value') return { value: Number.NaN, slack: 0 };
  if (format?.unit) plain = plain.replace(format.unit, '');
  const percent = plain.includes('%');
  const match = /^\s*(-?[\d.]+(?:e[-+]?\d+)?)\s*(K|M|B|T)?\s*%?\s*$/.exec(plain);
  if (!match) return null;
  const scale = ({ K: 1e3, M: 1e6, B: 1e9, T: 1e12 }[match[2] ?? ''] ?? 1) / (percent ? 100 : 1);
  const [digits = '', exponent = '0'] = match[1]!.split('e');
  const decimals = digits.split('.')[1]?.length ?? 0;
  const value = Number(match[1]) * scale;
  const unit = 10 ** (Number(exponent) - decimals) * scale;
  // Of "1.23M" three digits are told.
  return { value, slack: unit * 0.5000001 + Math.abs(value) * 1e-12 };
}

/** Whether a text tells a figure: rounded to the digits it has, no further away. */
function tells(text: string, value: number, format: FigureFormat | undefined): boolean {
  const found = written(text, format);
  if (!found) return false;
  if (Number.isNaN(value)) return Number.isNaN(found.value);
  const from = (format as { from?: number } | undefined)?.from ?? 0;
  return Math.abs(found.value - (value + from)) <= found.slack;
}

const relations: Record<string, (a: number, b: number) => boolean> = {
  'at or above': (a, b) => a >= b,
  above: (a, b) => a > b,
  'at or below': (a, b) => a <= b,
  below: (a, b) => a < b,
};

interface Case {
  seed: number;
  world: World;
  oracle: Oracle;
  falsehoods: string[];
  count: number;
}

function run(seed: number): Case {
  const world = worldFrom(randomFrom(seed));
  const { dataset, board, chart, positions, cube } = world;
  const facts: LeverFacts = { dataset };
  const known = Object.fromEntries(board.levers.map(({ id }) => [id, facts]));
  const positionOf = settledPositions(board.levers, positions, known);
  const out = runChart(chart, {}, { board, dataset, cube, positionOf, facts: known });
  const oracle = new Oracle(world, out, positionOf);
  const made: Case = { seed, world, oracle, falsehoods: [], count: 0 };
  const words = vocabularyOf(board, dataset, fullEngine);
  const { readings: marks, emphasis } = out;
  const readings = oracle.readings;
  const n = readings.length;
  const say = (sentence: string, wrong: string | false | null | undefined) => {
    made.count++;
    if (wrong) made.falsehoods.push(`seed ${seed}: ${JSON.stringify(sentence)}: ${wrong}`);
  };
  const close = (a: number, b: number) =>
    (Number.isNaN(a) && Number.isNaN(b)) || Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));

  // The figures themselves.
  for (let i = 0; i < n; i++)
    if (!close(readings.value[i]!, oracle.shown(i)))
      made.falsehoods.push(`seed ${seed}: figure ${readings.value[i]} should be ${oracle.shown(i)}`);

  const compared = oracle.compares ? chart.compare! : undefined;
  const shownFormat = (() => {
    if (!compared) return formatOf(chart.measure);
    if (compared.as === 'percent') return { as: 'percent' } as FigureFormat;
    if (compared.as === 'ratio') return { as: 'number', unit: '×', from: 1 } as unknown as FigureFormat;
    return formatOf(chart.measure);
  })();
  const shownMeasure: Measure = compared ? { ...chart.measure, compared: compared.as } : chart.measure;
  /** The measure that a text names, its format, and its figure for a reading. */
  const named = [shownMeasure, ...oracleMeasures(chart)].map((measure, m) => ({
    text: measureText(measure, words),
    format: m === 0 ? shownFormat : formatOf(measure),
    at: (i: number) => (m === 0 ? oracle.shown(i) : oracle.own(measure, i)),
  }));
  const verdict = (condition: Condition, i: number) => oracle.says(condition, i);
  const active = emphasis.evaluations.filter(
    ({ cue }) =>
      n > 0 && Array.from({ length: n }, (_, i) => verdict(cue.condition, i)).some((each) => each !== null),
  );
  const lit = (i: number) => active.some(({ cue }) => verdict(cue.condition, i) === 'yes');
  const isBase = (mark: number) =>
    rehearsedMeasure(chart) !== undefined &&
    furtherMeasures(chart).some(({ base }) => base === 'muted') &&
    mark < n;

  // Why?
  for (let mark = 0; mark < marks.length; mark++) {
    const i = mark % n;
    const why = out.why(mark);
    const state = markStates[emphasis.state[mark]!]!;
    if (!emphasis.evaluations.length) continue;
    const expected = isBase(mark)
      ? 'muted'
      : !active.length
        ? emphasis.evaluations.some(({ cue }) => cue.resting === 'muted')
          ? 'muted'
          : 'plain'
        : lit(i)
          ? 'lit'
          : 'muted';
    say(why, whyWrong());
    function whyWrong(): string | null {
      if (state !== expected) return `it is ${state}, and should be ${expected}`;
      if (!why.toLowerCase().startsWith(`${state}: `)) return `it does not say ${state}`;
      if (/: [;.]|; [;.]|;;/.test(why)) return 'a reason is empty';
      if (isBase(mark)) return why.includes('is compared with') ? null : 'it is the base';
      if (!active.length) return null;
      return rankWrong(why, i) ?? limitWrong(why, i) ?? memberWrong(why, i) ?? timeWrong(why, i);
    }
  }

  function rankWrong(text: string, i: number): string | null {
    const pattern =
      /rank ([\d,]+) of ([\d,]+)(?: (?:in|at) (.+?))? from the (highest|lowest) by (.+?) \(((?:[^()]|\([^()]*\))+?)(?:, (?:shared by (\d+)|the (\d+)\w\w of (\d+) alike))?\)(, within (?:Count )?([\d,]+)|; (?:Count|the count) is ([\d,]+))/g;
    for (const found of text.matchAll(pattern)) {
      const [, place, of, , side, by, figure, shared, , alike, , within, count] = found;
      const fits = allConditions().filter(
        (each): each is Extract<Condition, { kind: 'rank' }> =>
          each.kind === 'rank' &&
          each.side === side &&
          measureText(each.measure ?? shownMeasure, words) === by,
      );
      const number = (each: string | undefined) => Number(each?.replaceAll(',', ''));
      const wrongs = fits.map((condition) => {
        const rank = oracle.rank(condition, i);
        const format = condition.measure ? formatOf(condition.measure) : shownFormat;
        if (!tells(figure!, rank.own, format)) return `its figure is ${rank.own}`;
        if (number(place) !== rank.place || number(of) !== rank.of)
          return `it is rank ${rank.place} of ${rank.of}`;
        if (number(within ?? count) !== rank.count) return `the count is ${rank.count}`;
        if ((within !== undefined) !== rank.place <= rank.count) return 'within is not what it says';
        return (shared === undefined) === (alike === undefined) && alike !== undefined ? 'ties' : null;
      });
      if (!wrongs.length) return 'no condition says that';
      if (wrongs.every((each) => each !== null)) return wrongs[0]!;
    }
    return null;
  }

  function allConditions(): Condition[] {
    const flat = (each: Condition): Condition[] =>
      each.kind === 'all' || each.kind === 'any'
        ? [each, ...each.of.flatMap(flat)]
        : each.kind === 'not'
          ? [each, ...flat(each.of)]
          : [each];
    return emphasis.evaluations.flatMap(({ cue }) => flat(cue.condition));
  }

  function limitWrong(text: string, i: number): string | null {
    const figure = '[−+€\\d][^ ]*(?:\u00a0[^ ,;)]+)*|no value';
    const pattern = new RegExp(
      `(${figure}) is ((?:not )?(?:at or above|above|at or below|below)) (${figure})((?: \\([^;]*?\\))?)(?: and ((?:not )?(?:at or above|below)) (${figure}))?`,
      'g',
    );
    for (const [all, own, relation, limit, , second, upper] of text.matchAll(pattern)) {
      const holds = (said: string, a: string, b: string): string | null => {
        const not = said.startsWith('not ');
        const relationOf = relations[said.replace('not ', '')]!;
        const candidates = named.filter(({ at, format }) => tells(a, at(i), format));
        if (!candidates.length)
          return `${a} is no figure of it: ${named.map(({ text: name, at }) => `${name} ${at(i)}`).join(', ')}`;
        // As it is written, it has to hold too.
        const [x, y] = [
          written(a, candidates[0]!.format),
          written(b.replace(/[.;]$/, ''), candidates[0]!.format),
        ];
        if (!x || !y) return `${a} or ${b} cannot be read`;
        return relationOf(x.value, y.value) === !not ? null : `"${all}" does not hold as it is written`;
      };
      const wrong = holds(relation!, own!, limit!) ?? (second ? holds(second, own!, upper!) : null);
      if (wrong) return wrong;
    }
    return null;
  }

  function memberWrong(text: string, i: number): string | null {
    const key = keyText(readings.category[i]!, english, words.field(chart.by.field)?.type, chart.by.grain);
    for (const lever of ['Quays', 'Years'] as const) {
      const held = positionOf(lever.toLowerCase()) as unknown[];
      const said = text.includes(`${key} is in ${lever}`)
        ? true
        : text.includes(`${key} is not in ${lever}`)
          ? false
          : null;
      if (said !== null && said !== held.includes(readings.category[i]!))
        return `${lever} hold ${JSON.stringify(held)}`;
    }
    return null;
  }

  function timeWrong(text: string, i: number): string | null {
    const meeting = oracle.meeting(i);
    const told: [string, boolean | undefined][] = [
      ['lies in Stretch', meeting?.whole],
      ['lies partly in Stretch', meeting?.touching && !meeting.whole],
      ['is outside of Stretch', meeting && !meeting.touching],
      ['starts in Stretch', meeting?.starting],
      ['starts outside of Stretch', meeting && !meeting.starting],
    ].map(([each, is]) => [each as string, (is ?? undefined) as boolean | undefined]);
    for (const [each, is] of told) if (text.includes(each) && is !== true) return `${each} is false`;
    for (const of of ['data', 'view'] as const) {
      const name = of === 'data' ? 'the latest of all' : 'the latest in view';
      const latest = oracle.latest(of);
      if (text.includes(`is ${name}`) && readings.category[i] !== latest) return `${name} is ${latest}`;
      const other = new RegExp(`${name} is ([^.;]+?)(?:\\.| and |;)`).exec(text)?.[1];
      if (other && latest !== null && other !== keyText(latest, english, 'date', chart.by.grain))
        return `${name} is ${latest}, not ${other}`;
    }
    const stretch = oracle.stretch(i);
    const stretches = ['before the storm', 'from the storm to the pier', 'from the pier on'];
    for (const [at, name] of stretches.entries())
      if (text.includes(` is ${name} (`) && at !== stretch) return `it is in stretch ${stretch}`;
    return null;
  }

  // Caption.
  const caption = out.caption();
  say(caption, captionWrong());
  function captionWrong(): string | null {
    const litReadings = Array.from({ length: n }, (_, i) => i).filter((i) => lit(i));
    const partly = /(?:^|\. )([^.]*) only in part\./.exec(caption)?.[1] ?? '';
    const cut = readings.places.filter((place) => {
      const interval = positionOf('stretch') as { from: string; to: string } | null;
      if (!interval || typeof place !== 'string' || chart.by.field !== 'day') return false;
      if (!chart.cues.some(({ effect, condition }) => effect === 'filter' && condition.kind === 'span'))
        return false;
      const kept = oracle.daysKept(place, interval);
      return kept.includes(true) && kept.includes(false);
    });
    if ((partly !== '') !== cut.length > 0) return `${cut.length} periods are kept in part`;
    for (const place of cut.slice(0, 4))
      if (!partly.includes(keyText(place, english, 'date', chart.by.grain)))
        return `${place} is kept in part`;
    if (n === 0) return caption.includes('to show') ? null : 'there is nothing';
    const counted = /([\d,]+) of ([\d,]+) ([^:(]+?) lit/.exec(caption);
    if (!active.length) return counted ? 'nothing is lit' : null;
    if (!counted) return 'it does not count';
    const number = (text: string) => Number(text.replaceAll(',', ''));
    const [count, all] = [number(counted[1]!), number(counted[2]!)];
    const whole = chart.split && all === readings.series.length && all !== n;
    if (whole) {
      const series = readings.series.filter((_, s) => litReadings.some((i) => readings.seriesOf[i] === s));
      return count === series.length ? null : `${series.length} series are lit`;
    }
    if (chart.split && count !== litReadings.length) {
      const series = new Set(litReadings.map((i) => readings.seriesOf[i]));
      if (all === readings.series.length && count === series.size) return null;
    }
    if (all !== n || count !== litReadings.length) return `${litReadings.length} of ${n} are lit`;
    const extremes = /highest (.+) \(([^()]+)\), lowest (.+) \(([^()]+)\)/.exec(caption.split(';')[0]!);
    // Looks that a caption tells apart are in the words of each, not of all.
    if (
      extremes &&
      ![' in orange', ' in green', ' in blue', ' in heavy', ' in purple', ' in ink'].some((look) =>
        caption.includes(look),
      )
    ) {
      const format = shownFormat;
      const values = litReadings
        .map((i) => (furtherMeasures(chart).length ? marks.value[litMark(i)]! : oracle.shown(i)))
        .filter((v) => !Number.isNaN(v));
      const own = furtherMeasures(chart).length ? null : format;
      if (
        own !== null &&
        (!tells(extremes[2]!, Math.max(...values), own) || !tells(extremes[4]!, Math.min(...values), own))
      )
        return `the lit ones are from ${Math.min(...values)} to ${Math.max(...values)}`;
    }
    for (const [, a, b] of caption
      .replace(/Only rows of [^.]*\./, '')
      .matchAll(/(?:: |, | and |; )([^,:;()]+?) – ([^,:;()]+?)(?=[,;.]| and | in )/g)) {
      const labels = readings.places.map((place) => keyText(place, english, 'date', chart.by.grain));
      const ends = [labels.indexOf(a!.trim()), labels.indexOf(b!.trim())].sort((x, y) => x - y);
      if (chart.by.field !== 'day' || ends[0]! < 0) continue;
      for (let i = 0; i < n; i++)
        if (readings.place[i]! >= ends[0]! && readings.place[i]! <= ends[1]! && !lit(i))
          return `${labels[readings.place[i]!]} is not lit`;
    }
    return null;
  }
  function litMark(reading: number): number {
    for (let mark = reading; mark < marks.length; mark += n)
      if (markStates[emphasis.state[mark]!] === 'lit') return mark;
    return reading;
  }

  // Legend.
  for (const entry of out.legend()) {
    if (entry.series !== undefined || entry.state !== 'lit') continue;
    say(entry.text, legendWrong(entry.text));
  }
  function legendWrong(text: string): string | null {
    const rank =
      /^the (?:([\d,]+) )?(highest|lowest)(?: by (.+?))?(?: of each (?:series|category))?(?: (?:and|or) .*)?$/.exec(
        text,
      );
    if (rank) {
      const fits = allConditions().filter(
        (each): each is Extract<Condition, { kind: 'rank' }> => each.kind === 'rank' && each.side === rank[2],
      );
      const counts = fits.map((each) => Math.floor(oracle.figure(each.count, undefined)));
      if (!counts.includes(Number(rank[1]?.replaceAll(',', '') ?? 1))) return `the counts are ${counts}`;
      if (!rank[3] && shownMeasures(chart).also.length && !compared)
        return 'it does not say by which measure';
      return rank[3] && !fits.some((each) => measureText(each.measure ?? shownMeasure, words) === rank[3])
        ? 'no condition goes by that'
        : null;
    }
    const limit =
      /^(?:(.+?) )?(at or above|above|at or below|below) ([−€\d][^ ]*(?:\u00a0\S+)*)(?: and below ([−€\d][^ ]*(?:\u00a0\S+)*))?$/.exec(
        text,
      );
    if (!limit) return null;
    const fits = allConditions().filter(
      (each): each is Extract<Condition, { kind: 'threshold' }> => each.kind === 'threshold',
    );
    const told = fits.some((each) => {
      const format = each.measure ? formatOf(each.measure) : shownFormat;
      return oracle.limits(each).some((value) => tells(limit[3]!, value, format));
    });
    return told ? null : `the limits are ${fits.flatMap((each) => oracle.limits(each))}`;
  }

  // Subtitle.
  const subtitle = out.subtitle();
  say(subtitle, subtitleWrong());
  function subtitleWrong(): string | null {
    const found = /^([\d,]+) of ([\d,]+), (.*)$/.exec(subtitle);
    if (!found) return 'it cannot be read';
    const litReadings = Array.from({ length: n }, (_, i) => i).filter((i) => lit(i)).length;
    if (Number(found[1]!.replaceAll(',', '')) !== litReadings || Number(found[2]!.replaceAll(',', '')) !== n)
      return `${litReadings} of ${n}`;
    const over = chart.measure.share === 'everything' ? world.rows : oracle.kept;
    const total = oracle.plain(plainMeasure(chart.measure), over);
    const format = chart.measure.share ? undefined : chart.measure.format;
    return tells(
      found[3]!,
      over.length ? total : chart.measure.aggregate === 'count' ? Number.NaN : total,
      format,
    )
      ? null
      : `the total is ${total}`;
  }

  // Doubts, and what levers say of themselves.
  for (const { text } of boardDoubts(board, known, () => words)) {
    const period = /its (first|last) (\w+) is not whole: the data (?:begin|end) on (.+?)\./.exec(text);
    if (!period) continue;
    const days = world.rows.flatMap(({ day }) => (day === null ? [] : [String(day)])).sort();
    const { grain: dataGrain } = words.field('day')!.profile!;
    const edge = period[1] === 'first' ? days[0]! : days.at(-1)!;
    say(
      text,
      period[1] === 'last' && dataGrain !== 'day' && dataGrain === chart.by.grain
        ? `the data are taken by ${dataGrain}`
        : !edge && 'there are no days',
    );
  }
  for (const lever of board.levers) {
    const { notice, position } = settledPosition(lever, positions, known);
    const moved = lever.id in positions && !kindOf(lever).same(position, positions[lever.id]);
    if (notice || moved)
      say(
        notice?.(english) ?? lever.name,
        (notice !== undefined) !== moved &&
          lever.id !== 'years' &&
          lever.id !== 'quays' &&
          'a lever says that it was moved, and was not; or the reverse',
      );
  }
  return made;
}

/** The measures that conditions and further series go by. */
function oracleMeasures(chart: World['chart']): Measure[] {
  const inside = (part: unknown): Measure[] =>
    typeof part !== 'object' || part === null
      ? []
      : 'aggregate' in part
        ? [part as Measure]
        : Object.values(part).flatMap(inside);
  return [...furtherMeasures(chart).map(({ measure }) => measure), ...inside(chart.cues)];
}

describe('what is said of a chart', () => {
  let sentences = 0;
  let boards = 0;
  afterAll(() => expect(sentences).toBeGreaterThanOrEqual(wanted));
  it(`is true: ${wanted.toLocaleString('en')} sentences and more, each held against the rows`, () => {
    const falsehoods: string[] = [];
    while (sentences < wanted && falsehoods.length < 12) {
      const made = run(first + boards++);
      sentences += made.count;
      falsehoods.push(...made.falsehoods);
    }
    expect(falsehoods, `boards from seed ${first} on`).toEqual([]);
  }, 240_000);
});
