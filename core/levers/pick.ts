import { IsIn, IsString, MaxLength } from 'class-validator';
import { isMeasureLike, type Measure, plainMeasureSchema } from '../board/measure';
import { closedObject, IsOptional, Own, oneOf } from '../board/validation';
import { aggregateValue, partialsOfAggregate } from '../data/aggregate-partials';
import { fieldOf } from '../data/dataset';
import { standsFor } from '../data/dimension';
import { keyValues, rollUp } from '../data/roll-up';
import { compareKeys, type KeyValue } from '../data/values';
import { tell } from '../messages/desk';
import { say } from '../messages/say';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import { FieldLever } from './lever-base';
import type { LeverFacts, LeverKind } from './lever-kind';
import { distinctOf, goneFrom, listOf, staysOnServer } from './listed';
import { added, type PickPosition, toggled } from './pick-moves';
import { holdableSchema, isHoldable, valueFromText, valueToText } from './value-text';

/** A start that follows the data: the values with the largest or smallest figures. */
export interface TopStart {
  top: number;
  side: 'highest' | 'lowest';
  measure: Measure;
}

/** More than this are not a pick but a filter; an address could not carry them either. */
export const mostPicked = 10_000;

const isList = (value: unknown) =>
  Array.isArray(value) && value.length <= mostPicked && value.every(isHoldable);
export const isTopStart = (value: unknown): value is TopStart => {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  const { top, side, measure, ...rest } = value as Record<string, unknown>;
  return (
    Number.isInteger(top) &&
    (top as number) >= 1 &&
    (top as number) <= 1000 &&
    (side === 'highest' || side === 'lowest') &&
    isMeasureLike(measure) &&
    Object.keys(rest).length === 0
  );
};

const IsPickStart = () =>
  Own({
    name: 'isPickStart',
    validate: (value) => isList(value) || isTopStart(value),
    message: 'check.pickStart',
    schema: {
      anyOf: [
        { type: 'array', items: holdableSchema, maxItems: mostPicked },
        closedObject({
          top: { type: 'integer', minimum: 1, maximum: 1000 },
          side: oneOf('highest', 'lowest'),
          measure: plainMeasureSchema,
        }),
      ],
    },
  });

/** A set of values of a field, picked from a list or by touching marks. */
export class PickLever extends FieldLever {
  @IsIn(['pick'])
  kind!: 'pick';

  @IsPickStart()
  start!: KeyValue[] | TopStart;

  /** A second field by which the list is grouped. */
  @IsOptional()
  @IsString()
  @MaxLength(63)
  groupBy?: string;
}

const unique = (values: readonly KeyValue[]) => [...new Set(values)];

/** The values with the largest or smallest figures, from the cube the lever asked for; ties in natural order. */
function topValues(spec: PickLever, start: TopStart, facts: LeverFacts | undefined): KeyValue[] {
  if (!facts?.cube) return [];
  const { keys, partials } = rollUp(facts.cube, [spec], partialsOfAggregate(start.measure), null);
  const sign = start.side === 'highest' ? -1 : 1;
  return keyValues(keys[0]!)
    .map((value, i) => ({
      value,
      figure: aggregateValue(
        start.measure,
        partials.map((partial) => partial[i]!),
      ),
    }))
    .filter(({ value, figure }) => value !== null && !Number.isNaN(figure))
    .sort((a, b) => sign * (a.figure - b.figure) || compareKeys(a.value, b.value))
    .slice(0, start.top)
    .map(({ value }) => value);
}

const startOf = (spec: PickLever, facts: LeverFacts | undefined): PickPosition =>
  Array.isArray(spec.start) ? spec.start : topValues(spec, spec.start, facts);

export const pick: LeverKind<PickLever, PickPosition> = {
  kind: 'pick',
  Spec: PickLever,
  get noun() {
    return tell('lever.pick.noun');
  },
  clearings: ['empty', 'start', 'keep'],
  fits: () => true,
  make: ({ id, name, dataset, dimension }) => ({
    kind: 'pick',
    id,
    name,
    dataset: dataset.id,
    ...dimension!,
    start: [],
    clearing: 'empty',
  }),
  source: (spec) => spec,
  reads(spec, dataset) {
    if (staysOnServer(dataset, spec)) return null;
    const dimension = { field: spec.field, grain: spec.grain };
    const start = Array.isArray(spec.start) ? [] : partialsOfAggregate(spec.start.measure);
    const rows = { aggregate: 'count' } as const;
    return {
      keys: spec.groupBy ? [dimension, { field: spec.groupBy }] : [dimension],
      partials: [rows, ...start.filter((partial) => partial.aggregate !== 'count' || partial.field)],
    };
  },
  start: startOf,
  startAt: (_spec, position) => ({ start: [...position] }),
  isEmpty: (position) => position.length === 0,
  same: (a, b) => a === b || (a.length === b.length && a.every((value) => b.includes(value))),
  clear: (spec, position, facts) =>
    spec.clearing === 'keep' ? position : spec.clearing === 'start' ? startOf(spec, facts) : [],
  toQuery: (position) => (position.length ? position.map(valueToText) : ['']),
  fromQuery: (_spec, texts) =>
    unique(
      texts
        .filter((text) => text !== '')
        .map(valueFromText)
        .filter((value) => value !== undefined),
    ).slice(0, mostPicked),
  settle(spec, position, facts) {
    const gone = goneFrom(position, listOf(facts, spec), facts);
    if (!gone.length) return { position };
    const type = facts && fieldOf(facts.dataset, spec.field)?.type;
    const left = new Set(gone);
    return {
      position: position.filter((value) => !left.has(value)),
      notice: (locale) =>
        say(locale, 'notice.gone', {
          values: listed(
            gone.slice(0, 3).map((value) => keyText(value, locale, type, spec.grain)),
            locale,
            3,
            gone.length,
          ),
        }),
    };
  },
  summary(spec, position, facts, locale) {
    const list = listOf(facts, spec);
    // How many periods there are is not known from how many days there are.
    const all = list?.length ?? ((facts && distinctOf(facts.dataset, spec)) || undefined);
    return say(locale, 'lever.picked', {
      n: position.length,
      known: all === undefined ? 'no' : 'yes',
      all: all ?? 0,
    });
  },
  values: (position) => position,
  touch: {
    takes: 'category',
    several: true,
    fits: (spec, chart) => standsFor(spec, chart),
    put(_spec, position, { values }, use) {
      const given = values.filter((value) => value !== null);
      if (use === 'replace') return given;
      if (use === 'add') return added(position, given);
      return given.reduce(toggled, position);
    },
  },
};
