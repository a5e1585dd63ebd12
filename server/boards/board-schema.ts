import 'reflect-metadata/lite';
import { Board, boardVersion } from '@sorvik/core/board/board';
import { kindProperties } from '@sorvik/core/board/nested';
import { classRules, ownSchemas } from '@sorvik/core/board/validation';
import { allKinds } from '@sorvik/core/edit/read-board';
// @ts-expect-error: the package has no types for the one place that holds its metadata
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';

interface ObjectSchema {
  type?: string;
  properties?: Record<string, Record<string, unknown>>;
  [key: string]: unknown;
}

const prefix = '#/components/schemas/Board/$defs/';

/** The classes that some are made of, by what they refer to, and those themselves. */
function reached(from: readonly string[], all: Readonly<Record<string, ObjectSchema>>): string[] {
  const found = new Set(from);
  for (const name of found)
    for (const [, part] of JSON.stringify(all[name]).matchAll(/\$defs\/(\w+)"/g)) found.add(part!);
  return [...found];
}

/** The classes of the kinds of a sort, by their names. */
const specNames = (sort: string): string[] =>
  allKinds(sort)
    .all()
    .flatMap(({ Spec }) => (Spec ? [Spec.name] : []));

/** The JSON Schema of the board document, derived from the classes that validate it and the registries of kinds. */
export function boardSchema(): ObjectSchema {
  const all = validationMetadatasToSchemas({
    refPointerPrefix: prefix,
    classTransformerMetadataStorage: defaultMetadataStorage,
    additionalConverters: {
      ofKind: {},
      kindName: { type: 'string' },
      isPart: {},
      ...ownSchemas,
    },
  }) as Record<string, ObjectSchema>;
  const { Board: root, ...rest } = all;
  for (const [target, rules] of classRules) {
    const schema = all[target.constructor.name];
    if (schema) schema.allOf = rules;
  }
  const kinds = kindProperties.flatMap(({ sort }) => specNames(sort));
  const names = reached([Board.name, ...kinds], all).filter((name) => name !== Board.name);
  const closed = (schema: ObjectSchema): ObjectSchema => ({ ...schema, additionalProperties: false });
  const defs: Record<string, ObjectSchema> = Object.fromEntries(
    names.map((name) => [name, closed(rest[name]!)]),
  );
  const schema = closed(root!);
  schema.properties!.version = { const: boardVersion };
  for (const { owner, property, sort, each, named } of kindProperties) {
    const holder = owner === Board ? schema : defs[(owner as typeof Board).name];
    // A class that no board is made of, as one of a test.
    if (!holder) continue;
    const properties = holder.properties!;
    const { maxItems, minItems } = properties[property] ?? {};
    const one = { oneOf: specNames(sort).map((name) => ({ $ref: `${prefix}${name}` })) };
    if (named) properties[property] = { type: 'string', enum: allKinds(sort).names() };
    else if (!each) properties[property] = one;
    else
      properties[property] = {
        type: 'array',
        items: one,
        ...(minItems ? { minItems } : {}),
        ...(maxItems ? { maxItems } : {}),
      };
  }
  return { ...schema, $defs: defs };
}

/** The same schema as a document of its own, as it is published in `docs/`. */
export function publishedBoardSchema(): ObjectSchema {
  const own = JSON.parse(JSON.stringify(boardSchema()).replaceAll(prefix, '#/$defs/')) as ObjectSchema;
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', title: 'Sorvik board', ...own };
}
