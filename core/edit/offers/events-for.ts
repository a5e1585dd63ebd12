import type { Board } from '../../board/board';
import type { BoardEvent } from '../../board/event';
import type { FieldInfo } from '../../data/dataset';

/** The events of a draft; one in the middle of a field's dates is put on a board that lists none. */
export function eventsFor(draft: Board, field: FieldInfo): BoardEvent[] {
  if (draft.events?.length) return draft.events;
  const { min, max } = field.profile ?? {};
  const middle = (Date.parse(String(min)) + Date.parse(String(max))) / 2;
  const date = Number.isFinite(middle) ? new Date(middle).toISOString().slice(0, 10) : '2021-01-01';
  draft.events = [{ id: 'event', name: 'the event', date }];
  return draft.events;
}
