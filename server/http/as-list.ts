/** A query parameter that may be given several times: one alone comes as itself. */
export const asList = ({ value }: { value: unknown }) =>
  value === undefined ? undefined : Array.isArray(value) ? value : [value];
