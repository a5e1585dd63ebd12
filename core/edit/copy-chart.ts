import { leverNameOf, withLevers } from '@sorvik/formula/lever-names';
import type { Board } from '../board/board';
import { datasetOf } from '../board/board';
import type { Chart } from '../board/chart';
import { idFrom } from '../board/id';
import { formulaKeys } from '../board/text-formulas';
import { conditionKinds } from '../conditions/registry';
import { dimensionKey } from '../data/dimension';
import { guideKinds } from '../guides/registry';
import { kindOf, type Lever } from '../levers/registry';
import { leverUses } from '../pipeline/lever-uses';
import { setEvents } from './set-events';

/** The levers of a board that a chart has to do with, in the board's order. */
export const leversOf = (chart: Chart, board: Board): Lever[] => {
  const named = new Set(leverUses(chart).map((use) => use.lever));
  return board.levers.filter((lever) => named.has(lever.id));
};

/** What work a lever can do: its kind, and the field it stands on. Those of one meaning can stand in for each other. */
export const meaningOf = (lever: Lever): string => {
  const source = kindOf(lever).source?.(lever);
  return JSON.stringify([lever.kind, datasetOf(lever), source && dimensionKey(source)]);
};

/** The levers of a board that could do a lever's work: of its kind, on the same field. The one of its name comes first. */
export const standIns = (lever: Lever, board: Board): Lever[] =>
  board.levers
    .filter((other) => meaningOf(other) === meaningOf(lever))
    .sort((a, b) => Number(b.name === lever.name) - Number(a.name === lever.name));

/** A copy of a document part in which every lever named is another one. */
export function withLeversRenamed<T>(part: T, ids: ReadonlyMap<string, string>): T {
  const walk = (value: unknown, key = ''): unknown => {
    if (typeof value === 'string') {
      if (key === 'lever' || key === 'when') return ids.get(value) ?? value;
      if (key === 'title' || key === 'subtitle')
        return value.replace(/\{([a-z0-9_-]+)\}/g, (all, id: string) =>
          ids.has(id) ? `{${ids.get(id)}}` : all,
        );
      if (formulaKeys.includes(key))
        return withLevers(value, (id) => (ids.has(id) ? `:${leverNameOf(ids.get(id)!)}` : undefined));
      return value;
    }
    if (Array.isArray(value)) return value.map((item) => walk(item));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([name, item]) => [name, walk(item, name)]));
  };
  return walk(part) as T;
}

const speaksOfEvents = ({ cues, guides }: Chart): boolean =>
  cues.some(({ condition }) => conditionKinds.get(condition.kind).readsEvents?.(condition)) ||
  guides.some(({ kind }) => guideKinds.get(kind).readsEvents);

/** The events of another board that a draft does not list yet, by name and day. */
function bringEvents(draft: Board, from: Board): void {
  const listed = draft.events ?? [];
  const fresh = (from.events ?? []).filter(
    (event) => !listed.some(({ name, date }) => name === event.name && date === event.date),
  );
  const events = [...listed];
  for (const event of fresh)
    events.push({
      ...event,
      id: idFrom(
        event.id,
        events.map(({ id }) => id),
      ),
    });
  if (fresh.length) setEvents(draft, events);
}

/**
 * Puts a copy of a chart on a draft of another board. Its levers come along, except those for which `use` names one
 * that is there already (their id here -> the id there). Returns the copy's id.
 */
export function copyChartTo(
  draft: Board,
  chart: Chart,
  from: Board,
  use: ReadonlyMap<string, string> = new Map(),
): string {
  const ids = new Map(use);
  for (const lever of leversOf(chart, from)) {
    if (ids.has(lever.id)) continue;
    const id = idFrom(
      lever.id,
      draft.levers.map((each) => each.id),
    );
    ids.set(lever.id, id);
    draft.levers.push({ ...structuredClone(lever), id });
  }
  const id = idFrom(
    chart.id,
    draft.charts.map((each) => each.id),
  );
  if (speaksOfEvents(chart)) bringEvents(draft, from);
  const { place: _place, ...copy } = withLeversRenamed(chart, ids);
  draft.charts.push({ ...copy, id });
  return id;
}
