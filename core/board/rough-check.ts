import { getMetadataStorage } from 'class-validator';
import { tell } from '../messages/desk';
import { nestedIn } from './nested';
import type { KindLookup } from './of-kind';
import { isRecord } from './part';
import type { Problem } from './problem';

interface Properties {
  /** Its properties, and of lists how many items they may have. */
  most: Map<string, number>;
  required: string[];
}

const classes = new WeakMap<object, Properties>();

/** What a class allows, from the decorators that validate it. */
function propertiesOf(Class: new () => object): Properties {
  const before = classes.get(Class);
  if (before) return before;
  const most = new Map<string, number>();
  const optional = new Set<string>();
  for (const { propertyName, type, name, constraints } of getMetadataStorage().getTargetValidationMetadatas(
    Class,
    '',
    false,
    false,
  )) {
    if (type === 'conditionalValidation') optional.add(propertyName);
    const limit = name === 'arrayMaxSize' ? (constraints[0] as number) : Number.POSITIVE_INFINITY;
    most.set(propertyName, Math.min(limit, most.get(propertyName) ?? Number.POSITIVE_INFINITY));
  }
  const made = { most, required: [...most.keys()].filter((each) => !optional.has(each)) };
  classes.set(Class, made);
  return made;
}

/** Values of a document, counted up to a number: objects, items and members. */
export function valuesIn(value: unknown, most: number): number {
  let count = 0;
  const stack: unknown[] = [value];
  while (stack.length && count <= most) {
    const each = stack.pop();
    count++;
    if (typeof each === 'object' && each !== null) stack.push(...Object.values(each).slice(0, most));
  }
  return count;
}

/**
 * The first thing that is plainly wrong with a large document: a member that its class does not have, one that is missing,
 * a list that is too long. Full validation tells all that is wrong, which of a hostile document takes minutes.
 */
export function roughProblem(
  Class: new () => object,
  value: unknown,
  kinds: KindLookup,
  at = '',
): Problem | null {
  if (!isRecord(value)) return null;
  const { most, required } = propertiesOf(Class);
  for (const name in value)
    if (!most.has(name))
      return { pointer: `${at}/${name}`, message: tell('roughCheck.propertyShouldNotExist', { name }) };
  for (const name of required)
    if (value[name] === undefined)
      return { pointer: `${at}/${name}`, message: tell('roughCheck.isMissing', { name }) };
  for (const [name, limit] of most) {
    const held = value[name];
    const list = Array.isArray(held) ? held : null;
    if (list && list.length > limit)
      return { pointer: `${at}/${name}`, message: tell('roughCheck.canHaveUpTo', { name, limit }) };
    const nested = nestedIn(Class, name);
    if (!nested) continue;
    const items = list ?? [held];
    for (let i = 0; i < items.length; i++) {
      const item = items[i];
      const pointer = list ? `${at}/${name}/${i}` : `${at}/${name}`;
      if (list && !isRecord(item)) return { pointer, message: tell('roughCheck.itMustBeAn') };
      const Inner = nested.type?.() ?? specOf(nested.sort, item, kinds);
      if (Inner === null) return { pointer, message: tell('roughCheck.itsKindIsNone') };
      const problem = Inner && roughProblem(Inner, item, kinds, pointer);
      if (problem) return problem;
    }
  }
  return null;
}

/** The class of a spec by its kind; null where there is no such kind, undefined where no kinds are asked for. */
function specOf(
  sort: string | undefined,
  item: unknown,
  kinds: KindLookup,
): (new () => object) | null | undefined {
  if (!sort || !isRecord(item)) return undefined;
  const registry = kinds(sort);
  return registry.has(item.kind) ? registry.get(String(item.kind)).Spec : null;
}
