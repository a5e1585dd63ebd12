import 'reflect-metadata/lite';
import { Board, boardVersion } from '@sorvik/core/board/board';
import { cueRestings } from '@sorvik/core/board/cue';
import { idPattern } from '@sorvik/core/board/id';
import { lookColours, seriesColour } from '@sorvik/core/board/look';
import type { SpecKind } from '@sorvik/core/board/of-kind';
import { rankSides } from '@sorvik/core/conditions/rank';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import type { Registry } from '@sorvik/core/data/kinds';
import { formKinds } from '@sorvik/core/forms/registry';
import { guideKinds } from '@sorvik/core/guides/registry';
import { mostPicked } from '@sorvik/core/levers/pick';
import { leverKinds } from '@sorvik/core/levers/registry';
import { spanPresets } from '@sorvik/core/levers/span-presets';
import { windowStarts } from '@sorvik/core/levers/window';
// @ts-expect-error: the package has no types for the one place that holds its metadata
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';

const scalar = { type: ['string', 'number', 'boolean'] };
const closedObject = (properties: Record<string, unknown>, required = Object.keys(properties)) => ({
  type: 'object',
  properties,
  required,
  additionalProperties: false,
});
const id = { type: 'string', pattern: idPattern.source };
const ends = (type: string) => closedObject({ from: { type }, to: { type } });

const day = { type: 'string', pattern: '^\\d{4}-\\d\\d-\\d\\d' };
const measure = { $ref: '#/components/schemas/Board/$defs/Measure' };
const fixedColour = { type: 'string', pattern: '^(#|rgb\\()' };
const anyColour = { anyOf: [{ enum: [...lookColours] }, fixedColour] };

/** What validators of our own accept, by their names. */
const valueSchemas: Record<string, Record<string, unknown>> = {
  isHoldable: scalar,
  isZone: { type: 'string' },
  isLookColour: {
    anyOf: [
      { enum: [...lookColours, seriesColour] },
      fixedColour,
      closedObject(
        {
          by: { enum: ['sign', 'gradient'] },
          above: anyColour,
          below: anyColour,
          centre: { type: 'number' },
          measure,
        },
        ['by', 'above', 'below'],
      ),
    ],
  },
  isResting: {
    anyOf: [
      { enum: [...cueRestings] },
      { ...closedObject({ lever: id, position: {} }), description: 'a position that stands in' },
    ],
  },
  isKeyValue: { type: ['string', 'number', 'boolean', 'null'] },
  isMomentPositions: {
    type: 'object',
    propertyNames: id,
    additionalProperties: { type: 'array', items: { type: 'string' } },
  },
  isDay: day,
  areDays: { items: day },
  isAxisEnd: { anyOf: [{ type: 'number' }, { const: 'data' }] },
  isFigure: {
    anyOf: [
      { type: 'number' },
      closedObject({ lever: id, part: { enum: ['value', 'low', 'high'] } }, ['lever']),
      closedObject({ text: { type: 'string', minLength: 1, maxLength: 10_000 } }),
      closedObject({ of: { enum: ['mean', 'median'] } }),
      closedObject({ of: { const: 'percentile' }, percent: { type: 'number', minimum: 0, maximum: 100 } }),
    ],
  },
  isSide: { anyOf: [{ enum: [...rankSides] }, closedObject({ lever: id })] },
  isBound: {
    anyOf: [
      { type: 'number' },
      closedObject({ of: { enum: ['values', 'lowest', 'highest'] }, field: { type: 'string' } }),
    ],
  },
  isPickStart: {
    anyOf: [
      { type: 'array', items: scalar, maxItems: mostPicked },
      closedObject({
        top: { type: 'integer', minimum: 1, maximum: 1000 },
        side: { enum: ['highest', 'lowest'] },
        measure,
      }),
    ],
  },
  isSpanStart: { anyOf: [{ type: 'null' }, { enum: [...spanPresets] }, ends('string'), ends('number')] },
  isWindowStart: { anyOf: [{ enum: [...windowStarts] }, closedObject({ from: scalar })] },
};

interface ObjectSchema {
  type?: string;
  properties?: Record<string, Record<string, unknown>>;
  [key: string]: unknown;
}

/** Every class that a board document is made of, by the property that holds it. */
const kindProperties: { owner: string; property: string; registry: Registry<SpecKind>; list: boolean }[] = [
  { owner: 'Board', property: 'levers', registry: leverKinds, list: true },
  { owner: 'Cue', property: 'condition', registry: conditionKinds, list: false },
  { owner: 'Chart', property: 'guides', registry: guideKinds, list: true },
  { owner: 'AllCondition', property: 'of', registry: conditionKinds, list: true },
  { owner: 'AnyCondition', property: 'of', registry: conditionKinds, list: true },
  { owner: 'NotCondition', property: 'of', registry: conditionKinds, list: false },
];
const prefix = '#/components/schemas/Board/$defs/';

/** The classes that some are made of, by what they refer to, and those themselves. */
function reached(from: readonly string[], all: Readonly<Record<string, ObjectSchema>>): string[] {
  const found = new Set(from);
  for (const name of found)
    for (const [, part] of JSON.stringify(all[name]).matchAll(/\$defs\/(\w+)"/g)) found.add(part!);
  return [...found];
}

/** The JSON Schema of the board document, derived from the classes that validate it and the registries of kinds. */
export function boardSchema(): ObjectSchema {
  const all = validationMetadatasToSchemas({
    refPointerPrefix: prefix,
    classTransformerMetadataStorage: defaultMetadataStorage,
    additionalConverters: {
      ofKind: {},
      kindName: { type: 'string', enum: formKinds.names() },
      isPart: {},
      ...valueSchemas,
    },
  }) as Record<string, ObjectSchema>;
  const { Board: root, ...rest } = all;
  const kinds = kindProperties.flatMap(({ registry }) => registry.all().map((kind) => kind.Spec.name));
  const names = reached([Board.name, ...kinds], all).filter((name) => name !== Board.name);
  const closed = (schema: ObjectSchema): ObjectSchema => ({ ...schema, additionalProperties: false });
  const defs: Record<string, ObjectSchema> = Object.fromEntries(
    names.map((name) => [name, closed(rest[name]!)]),
  );
  const schema = closed(root!);
  schema.properties!.version = { const: boardVersion };
  for (const { owner, property, registry, list } of kindProperties) {
    const one = {
      oneOf: registry.all().map((kind) => ({ $ref: `${prefix}${kind.Spec.name}` })),
    };
    const properties = (owner === Board.name ? schema : defs[owner]!).properties!;
    const { maxItems } = properties[property] ?? {};
    properties[property] = list ? { type: 'array', items: one, ...(maxItems ? { maxItems } : {}) } : one;
  }
  return { ...schema, $defs: defs };
}

/** The same schema as a document of its own, as it is published in `docs/`. */
export function publishedBoardSchema(): ObjectSchema {
  const own = JSON.parse(JSON.stringify(boardSchema()).replaceAll(prefix, '#/$defs/')) as ObjectSchema;
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', title: 'Sorvik board', ...own };
}
