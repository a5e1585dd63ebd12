/**
 * The specs of all kinds, by their sort. The document is made of conditions, levers and guides without importing any: each
 * registry adds the union of its specs here (by declaration merging).
 */
// biome-ignore lint/suspicious/noEmptyInterface: the registries fill it
export interface Specs {}

/** The spec of any kind of a sort. */
export type SpecOf<Sort extends string> = Specs extends Record<Sort, infer Spec> ? Spec : { kind: string };
