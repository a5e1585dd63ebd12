import type { Board } from '../../board/board';
import type { BoardEvent } from '../../board/event';
import type { FieldInfo } from '../../data/dataset';
import { tell } from '../../messages/desk';

/** The events of a draft; a board that lists none gets two, which part the dates of a field in three. */
export function eventsFor(draft: Board, field: FieldInfo): BoardEvent[] {
  if (draft.events?.length) return draft.events;
  const [from, to] = [field.profile?.min, field.profile?.max].map((end) => Date.parse(String(end)));
  const known = Number.isFinite(from) && Number.isFinite(to);
  const dateAt = (share: number) =>
    known ? new Date(from! + share * (to! - from!)).toISOString().slice(0, 10) : '2021-01-01';
  draft.events = [
    { id: 'event-1', name: tell('offer.eventsFor.theFirstEvent'), date: dateAt(1 / 3) },
    { id: 'event-2', name: tell('offer.eventsFor.theSecondEvent'), date: dateAt(2 / 3) },
  ];
  return draft.events;
}
