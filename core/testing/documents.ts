/** A chart as it stands in a document, with nothing but bars in their order; `more` says what else it has. */
export const plainChart = (dataset: string, more: object) => ({
  id: 'chart',
  form: 'bars',
  dataset,
  measure: { aggregate: 'count' },
  order: { by: 'key', direction: 'ascending' },
  cues: [],
  guides: [],
  touches: [],
  ...more,
});

/** A list of a field's values to pick from, as it stands in a document. */
export const plainPick = (dataset: string, field: string, id: string, name: string) => ({
  kind: 'pick',
  id,
  name,
  dataset,
  field,
  start: [],
  clearing: 'empty',
});

/** A cue by what a lever holds, as it stands in a document. */
export const plainCue = (effect: 'light' | 'filter', lever: string, look: object = {}) => ({
  id: `${effect} ${lever}`.replace(' ', '-'),
  effect,
  condition: { kind: 'member', lever },
  look,
  resting: 'plain',
});
