import type { Category } from '../board/category';
import { type Measure, measureKey } from '../board/measure';
import { byOwnValues, type Order } from '../board/order';
import { allSteps } from '../data/all-steps';
import { cellMask } from '../data/cell-mask';
import { type Cube, filteredBy } from '../data/cube';
import { type KeptCategories, keptCells, restCategory } from '../data/kept-categories';
import { periodAt, periodOrdinal } from '../data/periods';
import { type Readings, startsOf } from '../data/readings';
import { type RolledKey, type RolledUp, rollUpSteps } from '../data/roll-up';
import type { RowFilter } from '../data/row-filter';
import { floatsAt, floatsInSteps, ints, intsAt, named } from '../data/typed-lists';
import { compareKeys, type KeyValue } from '../data/values';
import type { MeasureFormulas } from './measure-formula';
import { figuresOf, measurePartials } from './measure-partials';
import { wholeOfShare } from './shares';

/** What of a chart its readings depend on. */
export interface ReadingsSpec {
  by: Category;
  split?: (Category & { order?: Order }) | undefined;
  measure: Measure;
  order: Order;
  /** Further measures. */
  others?: readonly Measure[];
  /** Periods without a reading have a place too, so that places are evenly far apart in time. */
  everyPeriod?: boolean;
  /** The categories that are kept; all where it is left out. */
  kept?: KeptCategories | undefined;
  /** What measures that are formulas take besides. */
  formulas?: MeasureFormulas | undefined;
}

/** The values of one key that occur in a roll-up, each once, without figures. */
function occurring({ keys }: RolledUp, which: number): RolledUp {
  const { values, codes: all } = keys[which]!;
  const seen = new Uint8Array(values.length);
  const occurs: number[] = [];
  for (let i = 0; i < all.length; i++) {
    const code = all[i]!;
    if (seen[code]) continue;
    seen[code] = 1;
    occurs.push(code);
  }
  const codes = Int32Array.from(occurs);
  return { length: codes.length, keys: [{ values, codes }], partials: [] };
}

/** The codes of categories, or of series, in an order, from a roll-up by them alone. */
function orderedCodes(
  { order, formulas }: Pick<ReadingsSpec, 'order' | 'formulas'>,
  rolled: RolledUp,
  measured: Measure,
) {
  const { values, codes } = rolled.keys[0]!;
  const sign = order.direction === 'ascending' ? 1 : -1;
  const key = (group: number) => values[codes[group]!]!;
  const byKey = (a: number, b: number) => compareKeys(key(a), key(b));
  const byFigure = order.by !== 'key';
  const figure =
    order.by === 'data'
      ? rolled.partials.at(-1)!
      : byFigure
        ? figuresOf(
            measured,
            rolled.partials.slice(0, measurePartials(measured, formulas?.engine ?? null).length),
            rolled.length,
            formulas,
          )
        : new Float64Array(0);
  const compare = {
    value: (a: number, b: number) => sign * (figure[a]! - figure[b]!) || byKey(a, b),
    key: (a: number, b: number) => sign * byKey(a, b),
    data: (a: number, b: number) => sign * (figure[a]! - figure[b]!),
  }[order.by];
  // What is missing comes last either way, and all others together after that, whatever their figure.
  const lasts = (group: number) => key(group) === restCategory;
  const lacks = (group: number) => (byFigure ? Number.isNaN(figure[group]!) : key(group) === null);
  const known: number[] = [];
  const missing: number[] = [];
  const rest: number[] = [];
  for (const group of codes.keys()) (lasts(group) ? rest : lacks(group) ? missing : known).push(group);
  if (order.by !== 'data') missing.sort(byKey);
  return [...known.sort(compare), ...missing, ...rest].map((group) => codes[group]!);
}

/** More periods than this are not filled in: the dates are then strays, not an axis. */
const longestAxis = 50_000;

/** All periods from the first to the last, in the direction of the known ones; a missing category stays last. */
function filledPlaces(known: readonly KeyValue[], { by, order }: ReadingsSpec): readonly KeyValue[] {
  const grain = by.grain;
  const dated = known.filter((value) => typeof value === 'string');
  if (!grain || order.by !== 'key' || dated.length < 2) return known;
  const ends = [periodOrdinal(dated[0]!, grain), periodOrdinal(dated.at(-1)!, grain)];
  const first = Math.min(...ends);
  const count = Math.max(...ends) - first + 1;
  if (!(count > dated.length && count <= longestAxis)) return known;
  const all: KeyValue[] = Array.from({ length: count }, (_, i) => periodAt(first + i, grain));
  if (order.direction === 'descending') all.reverse();
  return known.length > dated.length ? [...all, null] : all;
}

/** A counting sort: the indices of `keys`, taken in the order of `given`, by rising key; stable. */
function sortedBy(keys: Int32Array, given: Int32Array, most: number): Int32Array {
  const next = new Int32Array(most + 1);
  for (let g = 0; g < given.length; g++) next[keys[given[g]!]! + 1]!++;
  for (let k = 1; k <= most; k++) next[k]! += next[k - 1]!;
  const sorted = new Int32Array(given.length);
  for (let g = 0; g < given.length; g++) sorted[next[keys[given[g]!]!]!++] = given[g]!;
  return sorted;
}

/** Filters a cube and rolls it up into a chart's readings. Equal figures stand in the order of their categories. */
export const readingsOf = (...given: Parameters<typeof readingsInSteps>): Readings =>
  allSteps(readingsInSteps(...given));

/** The same in steps. */
export function* readingsInSteps(
  given: Cube,
  spec: ReadingsSpec,
  filters: readonly RowFilter[],
): Generator<void, Readings> {
  const { by, split, measure, kept } = spec;
  const filtered = filteredBy(given, filters);
  const all = cellMask(filtered, filters);
  const { cube, mask } = kept ? keptCells(filtered, by, kept, all) : { cube: filtered, mask: all };
  const byPlace = spec.order.by === 'data';
  const partialsOf = (each: Measure) => measurePartials(each, spec.formulas?.engine ?? null);
  const own = partialsOf(measure);
  const others = spec.others ?? [];
  const partials = [own, ...others.map(partialsOf)];
  const parted = split ? yield* rollUpSteps(cube, [by, split], partials.flat(), mask) : null;
  // In the order of the categories themselves no figure of theirs is needed, only which of them there are.
  const alone =
    parted && spec.order.by === 'key'
      ? occurring(parted, 0)
      : yield* rollUpSteps(
          cube,
          [by],
          byPlace ? [...own, { aggregate: 'first' }] : parted ? own : partials.flat(),
          mask,
        );
  const rolled =
    parted ?? (byPlace && others.length ? yield* rollUpSteps(cube, [by], partials.flat(), mask) : alone);
  yield;
  const ordered = orderedCodes(spec, alone, measure);
  const values = alone.keys[0]!.values;
  const known = ordered.map((code) => values[code]!);
  const places = spec.everyPeriod ? filledPlaces(known, spec) : known;
  yield;
  const placeOf = placesOf(rolled.keys[0]!, places);
  const seriesOrder = split?.order ?? byOwnValues;
  yield;
  const bySeries = !split
    ? null
    : seriesOrder.by === 'key'
      ? occurring(rolled, 1)
      : yield* rollUpSteps(
          cube,
          [split],
          seriesOrder.by === 'data' ? [...own, { aggregate: 'first' }] : own,
          mask,
        );
  const series = bySeries
    ? orderedCodes({ ...spec, order: seriesOrder }, bySeries, measure).map(
        (code) => bySeries.keys[0]!.values[code]!,
      )
    : [];
  const rank = bySeries ? placesOf(rolled.keys[1]!, series) : new Int32Array(rolled.length);
  const runs = Math.max(1, series.length);
  const asRolled = ints(rolled.length, (i) => i);
  yield;
  const byPlaces = sortedBy(placeOf, asRolled, places.length);
  yield;
  const sorted = sortedBy(rank, byPlaces, runs);
  yield;

  const place = intsAt(placeOf, sorted);
  yield;
  const seriesOf = intsAt(rank, sorted);
  const measured: Float64Array[] = [];
  for (const [m, each] of [measure, ...others].entries()) {
    yield;
    const from = partials.slice(0, m).flat().length;
    const figures = figuresOf(
      each,
      rolled.partials.slice(from, from + partials[m]!.length),
      rolled.length,
      spec.formulas,
    );
    yield;
    const found = floatsAt(figures, sorted);
    if (!each.share) {
      measured.push(found);
      continue;
    }
    const whole = yield* wholeOfShare(given, each, spec, filters, spec.formulas);
    measured.push(
      yield* floatsInSteps(found.length, (i) => {
        const of = whole(places[place[i]!]!, series[seriesOf[i]!] ?? null);
        return of === 0 ? Number.NaN : found[i]! / of;
      }),
    );
  }
  yield;
  const category = named(places, place);
  yield;
  return {
    length: sorted.length,
    category,
    value: measured[0]!,
    places,
    place,
    series,
    seriesOf,
    starts: startsOf(seriesOf, runs),
    ...(kept
      ? { kept: { of: kept.of, rest: kept.of - kept.values.size, together: places.at(-1) === restCategory } }
      : {}),
    others: new Map(others.map((each, m) => [measureKey(each), measured[m + 1]!])),
  };
}

/** Where the value of each group stands, found by the value itself: two roll-ups of one dataset can number the same values differently. */
function placesOf({ values, codes }: RolledKey, places: readonly KeyValue[]): Int32Array {
  const placeOf = new Map(places.map((value, place) => [value, place]));
  return intsAt(
    Int32Array.from(values, (value) => placeOf.get(value) ?? -1),
    codes,
  );
}
