import { IsOptional, RequiredWith } from '../board/validation';
import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsNotEmpty,
  IsString,
  MaxLength,
} from 'class-validator';
import { IsId } from '../board/id';
import { Part } from '../board/part';
import { fieldOf } from '../data/dataset';
import { type Grain, grains, standsFor } from '../data/dimension';
import type { KeyValue } from '../data/values';
import { english, type Locale } from '../messages/locale';
import { say } from '../messages/say';
import { keyText } from '../words/key-text';
import { LeverBase } from './lever-base';
import type { LeverFacts, LeverKind } from './lever-kind';
import { goneFrom, listOf, staysOnServer } from './listed';
import { IsHoldable, valueFromText, valueToText } from './value-text';

/** One value, or null for all of them. */
export type ChoicePosition = KeyValue;

/** What a viewer reads, and the value behind it. */
export class ChoiceOption {
  @IsString()
  @IsNotEmpty()
  @MaxLength(80)
  label!: string;

  @IsHoldable()
  value!: string | number | boolean;
}

/** One value: of a field, or of options that the author wrote. */
export class ChoiceLever extends LeverBase {
  @IsIn(['choice'])
  kind!: 'choice';

  /** Given with `field`: the options are the field's values. */
  @RequiredWith('field')
  @IsId()
  dataset?: string;

  @IsOptional()
  @IsString()
  @MaxLength(63)
  field?: string;

  @IsOptional()
  @IsIn(grains)
  grain?: Grain;

  /** Given without `field`. */
  @RequiredWith('field', false)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(200)
  @Part(() => ChoiceOption, true)
  options?: ChoiceOption[];

  /** Left out or null: all where that may be chosen, else the first. */
  @IsOptional()
  @IsHoldable()
  start?: KeyValue;

  /** Whether "all" can be chosen. */
  @IsBoolean()
  all!: boolean;

  /** What choosing none in particular is called; "all" where it is left out. */
  @IsOptional()
  @IsString()
  @MaxLength(40)
  allText?: string;
}

export interface ChoiceItem {
  value: KeyValue;
  label: string;
}

/** What can be chosen, in order; undefined while that is not known. */
export function choiceItems(
  spec: ChoiceLever,
  facts: LeverFacts | undefined,
  locale: Locale = english,
): ChoiceItem[] | undefined {
  if (spec.options) return spec.options;
  const type = facts && fieldOf(facts.dataset, spec.field!)?.type;
  return listOf(facts, { field: spec.field!, grain: spec.grain })?.map(({ value }) => ({
    value,
    label: keyText(value, locale, type, spec.grain),
  }));
}

const startOf = (spec: ChoiceLever, facts: LeverFacts | undefined): ChoicePosition =>
  spec.start ?? (spec.all ? null : (choiceItems(spec, facts)?.[0]?.value ?? null));

const sourceOf = (spec: ChoiceLever) =>
  spec.field === undefined || spec.dataset === undefined
    ? undefined
    : { dataset: spec.dataset, field: spec.field, grain: spec.grain };

const nothingText = (spec: ChoiceLever, locale: Locale): string =>
  spec.all ? (spec.allText ?? say(locale, 'lever.all')) : say(locale, 'lever.nothingYet');

function labelOf(spec: ChoiceLever, value: KeyValue, facts: LeverFacts | undefined, locale: Locale): string {
  if (value === null) return nothingText(spec, locale);
  const option = spec.options?.find((each) => each.value === value);
  if (option) return option.label;
  return keyText(
    value,
    locale,
    facts && spec.field ? fieldOf(facts.dataset, spec.field)?.type : undefined,
    spec.grain,
  );
}

export const choice: LeverKind<ChoiceLever, ChoicePosition> = {
  kind: 'choice',
  Spec: ChoiceLever,
  get noun() {
    return tell('lever.choice.noun');
  },
  clearings: ['start', 'keep', 'empty'],
  fits: () => true,
  get without() {
    return tell('lever.choice.without');
  },
  make: ({ id, name, dataset, dimension }) => ({
    kind: 'choice',
    id,
    name,
    ...(dimension
      ? { dataset: dataset.id, ...dimension }
      : {
          options: [
            { label: 'highest', value: 'highest' },
            { label: 'lowest', value: 'lowest' },
          ],
        }),
    all: dimension !== undefined,
    clearing: 'start',
  }),
  source: sourceOf,
  reads(spec, dataset) {
    const source = sourceOf(spec);
    if (!source || staysOnServer(dataset, source)) return null;
    return { keys: [{ field: source.field, grain: source.grain }], partials: [{ aggregate: 'count' }] };
  },
  start: startOf,
  startAt: (_spec, position) => ({ start: position }),
  isEmpty: (position) => position === null,
  same: (a, b) => a === b,
  clear: (spec, position, facts) =>
    spec.clearing === 'keep' ? position : spec.clearing === 'empty' && spec.all ? null : startOf(spec, facts),
  toQuery: (position) => [position === null ? '' : valueToText(position)],
  fromQuery: (_spec, [text = '']) => (text === '' ? null : valueFromText(text)),
  settle(spec, position, facts) {
    if (position === null) {
      if (spec.all) return { position };
      return { position: startOf(spec, facts) };
    }
    const isGone = spec.options
      ? !spec.options.some(({ value }) => value === position)
      : goneFrom([position], listOf(facts, { field: spec.field!, grain: spec.grain }), facts).length > 0;
    if (!isGone) return { position };
    const start = startOf(spec, facts);
    const fallback =
      start !== position ? start : spec.all ? null : (choiceItems(spec, facts)?.[0]?.value ?? null);
    return {
      position: fallback,
      notice: (locale) =>
        say(locale, 'notice.noOption', {
          value: labelOf(spec, position, facts, locale),
          listed: spec.options ? 'yes' : 'no',
          to: labelOf(spec, fallback, facts, locale),
        }),
    };
  },
  summary: labelOf,
  nothing: nothingText,
  values: (position) => (position === null ? [] : [position]),
  side: (position) => (position === 'lowest' || (typeof position === 'number' && position < 0) ? -1 : 1),
  touch: {
    takes: 'category',
    fits(spec, chart) {
      const source = sourceOf(spec);
      return source !== undefined && standsFor(source, chart);
    },
    put(spec, position, { values }, use) {
      const value = values.findLast((each) => each !== null);
      if (value === undefined) return position;
      return use === 'toggle' && value === position && spec.all ? null : value;
    },
  },
};
