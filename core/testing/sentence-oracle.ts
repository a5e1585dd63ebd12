import type { Chart } from '../board/chart';
import type { Measure } from '../board/measure';
import type { LatestCondition } from '../conditions/latest';
import type { Condition } from '../conditions/registry';
import type { KeyValue } from '../data/values';
import { furtherMeasures } from '../pipeline/chart-rules';
import type { ChartResult } from '../pipeline/stage';
import { type TestRow, valueOfRow } from './cube-of-rows';
import type { World } from './sentence-world';

/** What an oracle makes of one condition and one reading; null while the condition is at rest. */
export type Said = 'yes' | 'no' | 'unknown' | null;

const day = 86_400_000;
const endOf = (start: string, grain: string | undefined): string => {
  const at = new Date(`${start}T00:00:00Z`);
  const [y, m] = [at.getUTCFullYear(), at.getUTCMonth()];
  const next =
    grain === 'year'
      ? Date.UTC(y + 1, 0, 1)
      : grain === 'quarter'
        ? Date.UTC(y, m + 3, 1)
        : grain === 'month'
          ? Date.UTC(y, m + 1, 1)
          : at.getTime() + (grain === 'week' ? 7 : 1) * day;
  return new Date(next - day).toISOString().slice(0, 10);
};

const nextDay = (date: string) => new Date(Date.parse(`${date}T00:00:00Z`) + day).toISOString().slice(0, 10);

/** Figures and verdicts computed from the rows themselves, in the plainest way there is. */
export class Oracle {
  readonly kept: TestRow[];
  readonly chart: Chart;
  readonly positions: Record<string, never>;

  constructor(
    readonly world: World,
    readonly out: ChartResult,
    /** Where levers really stand. */
    readonly positionOf: (id: string) => unknown,
  ) {
    this.chart = world.chart;
    this.positions = world.positions as Record<string, never>;
    this.kept = world.rows.filter((row) => this.keeps(row));
  }

  /** The readings that conditions judge. */
  get readings() {
    return this.out.readings.judged ?? this.out.readings;
  }

  keeps(row: TestRow, but?: string): boolean {
    return this.chart.cues.every(({ effect, condition }) => {
      if (effect !== 'filter') return true;
      if (condition.kind === 'member') {
        const held = this.positionOf(condition.lever) as KeyValue[];
        const dimension =
          condition.lever === 'years' ? ({ field: 'day', grain: 'year' } as const) : { field: 'quay' };
        return !held.length || dimension.field === but || held.includes(valueOfRow(row, dimension));
      }
      if (condition.kind !== 'span') return true;
      const interval = this.positionOf('stretch') as { from: string; to: string } | null;
      if (!interval || but === 'day') return true;
      const { grain } = this.world.board.levers.find(({ id }) => id === 'stretch') as { grain: 'day' };
      const at = valueOfRow(row, { field: 'day', grain });
      return at !== null && String(at) <= interval.to && endOf(String(at), grain) >= interval.from;
    });
  }

  /** A measure over some rows, whatever is done with it. */
  plain({ aggregate, field, text }: Measure, rows: readonly TestRow[]): number {
    const of = (key: string) => rows.flatMap((row) => (typeof row[key] === 'number' ? [row[key]] : []));
    const total = (key: string) => (of(key).length ? of(key).reduce((a, b) => a + b, 0) : Number.NaN);
    if (aggregate === 'formula')
      return text!.startsWith('SUM(Boats)')
        ? total('boats') - total('cost')
        : total('boats') * (1 + Number(this.positionOf('change')) / 100);
    if (aggregate === 'count') return field === undefined ? rows.length : of(field).length;
    const list = of(field!);
    if (!list.length) return Number.NaN;
    if (aggregate === 'sum') return total(field!);
    if (aggregate === 'average') return total(field!) / list.length;
    return aggregate === 'min' ? Math.min(...list) : Math.max(...list);
  }

  private rowsOf(category: KeyValue, series: KeyValue | undefined, rows: readonly TestRow[]): TestRow[] {
    const { by, split } = this.chart;
    return rows.filter(
      (row) =>
        valueOfRow(row, by) === category &&
        (series === undefined || !split || valueOfRow(row, split) === series),
    );
  }

  private shared(
    measure: Measure,
    rows: readonly TestRow[],
    category: KeyValue,
    series: KeyValue | undefined,
    kept = this.kept,
  ): number {
    const own = this.plain(measure, this.rowsOf(category, series, rows));
    if (!measure.share) return own;
    const over =
      measure.share === 'everything'
        ? this.world.rows
        : measure.share === 'kept'
          ? kept
          : measure.share === 'category'
            ? this.rowsOf(category, undefined, kept)
            : kept.filter((row) => valueOfRow(row, this.chart.split!) === series);
    const whole = this.plain(measure, over);
    return whole === 0 ? Number.NaN : own / whole;
  }

  seriesAt(i: number): KeyValue | undefined {
    const { series, seriesOf } = this.readings;
    return series.length ? series[seriesOf[i]!] : undefined;
  }

  private readonly known = new Map<string, number>();
  /** What was worked out once is not worked out for each sentence. */
  private once(key: string, work: () => number): number {
    const known = this.known.get(key) ?? work();
    this.known.set(key, known);
    return known;
  }

  /** The figure of a reading as it is, before anything is compared. */
  own(measure: Measure, i: number): number {
    return this.once(`${JSON.stringify(measure)} ${i}`, () =>
      this.shared(measure, this.kept, this.readings.category[i]!, this.seriesAt(i)),
    );
  }

  /** Whether the chart shows comparisons now. */
  get compares(): boolean {
    return this.chart.compare !== undefined && this.out.readings.others.has('plain');
  }

  /** The figure that a reading shows. */
  shown(i: number): number {
    return this.once(`shown ${i}`, () => this.figureShown(i));
  }

  private figureShown(i: number): number {
    const { measure, compare, by } = this.chart;
    const own = this.own(measure, i);
    if (!this.compares || !compare) return own;
    const zero = (value: number) => (compare.missing === 'zero' && Number.isNaN(value) ? 0 : value);
    const other = this.other(i);
    const apart = compare.with === 'previous' || compare.with === 'year';
    const [a, b] = [zero(own), apart ? other : zero(other)];
    if (compare.as === 'difference') return Math.abs(a - b) <= 1e-12 * Math.abs(a) ? 0 : a - b;
    return b === 0 ? Number.NaN : a / b - 1 + 0 * Number(by.field === '');
  }

  private other(i: number): number {
    const { measure, compare, by } = this.chart;
    const series = this.seriesAt(i);
    const all = Array.from({ length: this.readings.length }, (_, k) => k);
    if (compare!.with === 'average') {
      const list = all
        .filter((k) => this.seriesAt(k) === series)
        .map((k) => this.own(measure, k))
        .filter((value) => !Number.isNaN(value));
      return list.length ? list.reduce((a, b) => a + b, 0) / list.length : Number.NaN;
    }
    if (compare!.with === 'whole') {
      if (measure.share === 'category' || measure.share === 'series') return 1;
      const kept = this.plain(measure, this.kept);
      if (!measure.share) return kept;
      const whole = this.plain(measure, measure.share === 'everything' ? this.world.rows : this.kept);
      return whole === 0 ? Number.NaN : kept / whole;
    }
    if (compare!.with === 'touched') {
      const reference = this.positionOf('against') as KeyValue;
      const k = all.find(
        (each) => this.readings.category[each] === reference && this.seriesAt(each) === series,
      );
      return k === undefined ? Number.NaN : this.own(measure, k);
    }
    const key = this.readings.category[i];
    if (typeof key !== 'string') return Number.NaN;
    const wanted = this.earlier(key, by.grain!, compare!.with as 'previous' | 'year');
    if (wanted === null) return Number.NaN;
    // What filters on the date leave out is there for comparing.
    const rows = this.world.rows.filter((row) => this.keeps(row, 'day'));
    return this.rowsOf(wanted, series, rows).length
      ? this.shared(measure, rows, wanted, series, rows)
      : Number.NaN;
  }

  private earlier(key: string, grain: string, by: 'previous' | 'year'): string | null {
    const at = new Date(`${key}T00:00:00Z`);
    const [y, m, d] = [at.getUTCFullYear(), at.getUTCMonth(), at.getUTCDate()];
    const text = (time: number) => new Date(time).toISOString().slice(0, 10);
    if (grain === 'week') {
      if (by === 'previous') return text(at.getTime() - 7 * day);
      const weekOf = (monday: number) => {
        const thursday = new Date(monday + 3 * day);
        const year = thursday.getUTCFullYear();
        return [year, Math.floor((thursday.getTime() - Date.UTC(year, 0, 1)) / (7 * day))] as const;
      };
      const [year, week] = weekOf(at.getTime());
      for (let back = 51; back <= 54; back++) {
        const before = at.getTime() - back * 7 * day;
        const [otherYear, otherWeek] = weekOf(before);
        if (otherYear === year - 1 && otherWeek === week) return text(before);
      }
      return null;
    }
    if (by === 'year') return m === 1 && d === 29 ? `${y - 1}-02-28` : `${y - 1}${key.slice(4)}`;
    if (grain === 'day') return text(at.getTime() - day);
    const months = { year: 12, quarter: 3, month: 1 }[grain]!;
    return text(Date.UTC(y, m - months, 1));
  }

  /** The figure that a condition goes by. */
  by(measure: Measure | undefined, i: number): number {
    return measure ? this.own(measure, i) : this.shown(i);
  }

  figure(figure: unknown, measure: Measure | undefined): number {
    if (typeof figure === 'number') return figure;
    const { lever, part, of } = figure as { lever?: string; part?: 'low' | 'high'; of?: 'mean' | 'median' };
    if (lever) {
      const held = this.positionOf(lever) as number | { low: number; high: number };
      return typeof held === 'number' ? held : held[part ?? 'low'];
    }
    const list = Array.from({ length: this.readings.length }, (_, i) => this.by(measure, i))
      .filter((v) => !Number.isNaN(v))
      .sort((a, b) => a - b);
    if (!list.length) return Number.NaN;
    if (of === 'mean') return list.reduce((a, b) => a + b, 0) / list.length;
    const middle = (list.length - 1) / 2;
    return (list[Math.floor(middle)]! + list[Math.ceil(middle)]!) / 2;
  }

  /** The limits of a condition, of shares as the values that they are. */
  limits(condition: Extract<Condition, { kind: 'threshold' | 'position' }>): number[] {
    const figures = [
      condition.limit,
      ...(condition.is === 'between' || condition.is === 'outside' ? [condition.upper] : []),
    ];
    const held = figures.map((each) => this.figure(each, condition.measure));
    if (condition.kind === 'threshold') return held;
    const { min, max } = this.range(condition.measure);
    return held.map((share) => (max > min ? min + share * (max - min) : Number.NaN));
  }

  range(measure: Measure | undefined): { min: number; max: number } {
    const list = Array.from({ length: this.readings.length }, (_, i) => this.by(measure, i)).filter(
      (v) => !Number.isNaN(v),
    );
    return { min: Math.min(...list), max: Math.max(...list) };
  }

  rank(condition: Extract<Condition, { kind: 'rank' }>, i: number) {
    const own = this.by(condition.measure, i);
    const within = (k: number) =>
      condition.within === 'series'
        ? this.seriesAt(k) === this.seriesAt(i)
        : condition.within === 'category'
          ? this.readings.category[k] === this.readings.category[i]
          : true;
    const sign = condition.side === 'lowest' ? -1 : 1;
    const others = Array.from({ length: this.readings.length }, (_, k) => k).filter(
      (k) => within(k) && !Number.isNaN(this.by(condition.measure, k)),
    );
    const better = others.filter((k) => sign * this.by(condition.measure, k) > sign * own).length;
    const before =
      condition.ties === 'first'
        ? others.filter((k) => k < i && this.by(condition.measure, k) === own).length
        : 0;
    return {
      own,
      place: 1 + better + before,
      of: others.length,
      count: Math.floor(this.figure(condition.count, undefined)),
    };
  }

  latest(of: LatestCondition['of']): string | null {
    const rows = of === 'data' ? this.world.rows : this.kept;
    const keys = [...new Set(rows.map((row) => valueOfRow(row, this.chart.by)))]
      .filter((key) => key !== null)
      .map(String)
      .sort()
      .reverse();
    if (of === 'view')
      return (
        keys.find((key) =>
          Array.from({ length: this.readings.length }, (_, i) => i).some(
            (i) => this.readings.category[i] === key && !Number.isNaN(this.shown(i)),
          ),
        ) ?? null
      );
    const { split } = this.chart;
    const all = this.world.rows;
    return (
      keys.find((key) => {
        const series = split ? [...new Set(all.map((row) => valueOfRow(row, split)))] : [undefined];
        return series.some((each) => {
          const own = this.rowsOf(key, each, all);
          if (!own.length) return false;
          return !Number.isNaN(this.shared(this.chart.measure, all, key, each, all));
        });
      }) ?? null
    );
  }

  stretch(i: number): number | null {
    const key = this.readings.category[i];
    if (typeof key !== 'string' || this.chart.by.field !== 'day') return null;
    return ['2023-01-20', '2023-07-01'].filter((date) => date <= key).length;
  }

  meeting(i: number): { touching: boolean; whole: boolean; starting: boolean } | null {
    const interval = this.positionOf('stretch') as { from: string; to: string } | null;
    const key = this.readings.category[i];
    if (!interval || typeof key !== 'string' || this.chart.by.field !== 'day') return null;
    const end = endOf(key, this.chart.by.grain);
    const starting = key >= interval.from && key <= interval.to;
    return {
      starting,
      whole: starting && end <= interval.to,
      touching: key <= interval.to && end >= interval.from,
    };
  }

  /** Of each day of a period, whether a filter on the stretch keeps its rows. */
  daysKept(period: string, interval: { from: string; to: string }): boolean[] {
    const { grain } = this.world.board.levers.find(({ id }) => id === 'stretch') as { grain: 'day' };
    const last = endOf(period, this.chart.by.grain);
    const kept: boolean[] = [];
    for (let at = period; at <= last; at = nextDay(at)) {
      const key = String(valueOfRow({ day: at }, { field: 'day', grain }));
      kept.push(key <= interval.to && endOf(key, grain) >= interval.from);
    }
    return kept;
  }

  /** What a condition says of a reading. */
  says(condition: Condition, i: number): Said {
    const is = (value: boolean): Said => (value ? 'yes' : 'no');
    const key = this.readings.category[i]!;
    switch (condition.kind) {
      case 'rank': {
        if (Number.isNaN(this.figure(condition.count, undefined))) return null;
        const { own, place, count } = this.rank(condition, i);
        return Number.isNaN(own) ? 'unknown' : is(place <= count);
      }
      case 'threshold':
      case 'position': {
        const held = [
          condition.limit,
          ...(condition.is === 'between' || condition.is === 'outside' ? [condition.upper] : []),
        ].map((each) => this.figure(each, condition.measure));
        if (held.some(Number.isNaN)) return null;
        const own = this.by(condition.measure, i);
        const [limit = Number.NaN, upper = Number.NaN] = this.limits(condition);
        if (Number.isNaN(own) || Number.isNaN(limit)) return 'unknown';
        // Within rounding of a limit that was worked out is at it.
        const beside = 1e-12 * Math.max(Math.abs(limit), 1);
        const [least, most] = [limit, upper].map((each) => (Math.abs(own - each) <= beside ? own : each)) as [
          number,
          number,
        ];
        return is(
          {
            'at or above': own >= least,
            above: own > least,
            'at or below': own <= least,
            below: own < least,
            between: own >= least && own < most,
            outside: own < least || own >= most,
          }[condition.is],
        );
      }
      case 'member': {
        if (condition.lever === 'against')
          return key === null ? 'unknown' : is(key === this.positionOf('against'));
        const held = this.positionOf(condition.lever) as KeyValue[];
        const byDay = this.chart.by.field === 'day';
        if ((condition.lever === 'quays') === byDay || !held.length) return null;
        // Years hold the months, weeks and days that begin in them.
        const wanted = key !== null && byDay ? `${String(key).slice(0, 4)}-01-01` : key;
        return wanted === null ? 'unknown' : is(held.includes(wanted));
      }
      case 'span': {
        if (!this.positionOf('stretch')) return null;
        const meeting = this.meeting(i);
        return meeting ? is(meeting[condition.match === 'cut' ? 'touching' : condition.match]) : 'unknown';
      }
      case 'latest':
        return key === null ? 'unknown' : is(key === this.latest(condition.of));
      case 'segment': {
        const at = this.stretch(i);
        return at === null ? 'unknown' : is(!condition.only || condition.only.includes(at));
      }
      case 'not': {
        const inner = this.says(condition.of, i);
        return inner === 'yes' ? 'no' : inner === 'no' ? 'yes' : inner;
      }
      case 'all':
      case 'any': {
        const said = condition.of.map((each) => this.says(each, i)).filter((each) => each !== null);
        if (!said.length) return null;
        const order: Said[] = condition.kind === 'all' ? ['no', 'unknown', 'yes'] : ['yes', 'unknown', 'no'];
        return order.find((each) => each !== null && said.includes(each)) ?? null;
      }
      default:
        return null;
    }
  }

  /** Further measures are marks of their own. */
  get marksPerReading(): number {
    return furtherMeasures(this.chart).length + 1;
  }
}
