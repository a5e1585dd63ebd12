import type { BoardEvent } from '../board/event';
import { idFrom } from '../board/id';
import { isDateText } from '../data/periods';
import type { KeyValue } from '../data/values';

/** A board lists no more events than this. */
export const mostEvents = 200;

/**
 * The events that rows of a dataset tell of: each name and day once, in the order of the rows; those that are listed
 * already are left out, and so are rows without a name or a day. No more than a board can list.
 */
export function eventsFromRows(
  rows: readonly (readonly KeyValue[])[],
  nameAt: number,
  dateAt: number,
  listed: readonly BoardEvent[],
): BoardEvent[] {
  const known = new Set(listed.map(({ name, date }) => `${date} ${name}`));
  const taken = listed.map(({ id }) => id);
  const found: BoardEvent[] = [];
  for (const row of rows) {
    const name = String(row[nameAt] ?? '')
      .trim()
      .slice(0, 120);
    const date = String(row[dateAt] ?? '').slice(0, 10);
    if (!name || !isDateText(date) || known.has(`${date} ${name}`)) continue;
    if (listed.length + found.length >= mostEvents) break;
    known.add(`${date} ${name}`);
    const id = idFrom(name, taken, 'event');
    taken.push(id);
    found.push({ id, name, date });
  }
  return found;
}
