import 'reflect-metadata/lite';
import { Board, boardVersion } from '@sorvik/core/board/board';
import type { SpecKind } from '@sorvik/core/board/of-kind';
import { classRules, ownSchemas } from '@sorvik/core/board/validation';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import type { Registry } from '@sorvik/core/data/kinds';
import { formKinds } from '@sorvik/core/forms/registry';
import { guideKinds } from '@sorvik/core/guides/registry';
import { leverKinds } from '@sorvik/core/levers/registry';
// @ts-expect-error: the package has no types for the one place that holds its metadata
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';

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
      ...ownSchemas,
    },
  }) as Record<string, ObjectSchema>;
  const { Board: root, ...rest } = all;
  for (const [target, rules] of classRules) {
    const schema = all[target.constructor.name];
    if (schema) schema.allOf = rules;
  }
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
