import type { Board } from '../board/board';
import { type BoardEvent, byDate } from '../board/event';
import type { Look } from '../board/look';
import type { Condition } from '../conditions/registry';
import { conditionKinds } from '../conditions/registry';

/** The event that each stretch begins with; the first begins with none. */
const beginnings = (events: readonly BoardEvent[]) => [null, ...byDate(events).map(({ id }) => id)];

/**
 * Gives a draft of a board other events. A stretch is known by the event it begins with: its look goes with it, wherever
 * it comes to stand.
 */
export function setEvents(draft: Board, events: BoardEvent[]): void {
  const before = beginnings(draft.events ?? []);
  const after = beginnings(events);
  draft.events = events;
  for (const chart of draft.charts)
    for (const cue of chart.cues) {
      const kind = conditionKinds.get(cue.condition.kind);
      if (!kind.readsEvents?.(cue.condition)) continue;
      if (cue.looks) {
        const known = new Map(before.map((id, i) => [id, cue.looks![i]]));
        cue.looks = after.map((id): Look => known.get(id) ?? {});
      }
      cue.condition = (kind.restretched?.(cue.condition, before, after) ?? cue.condition) as Condition;
    }
}
