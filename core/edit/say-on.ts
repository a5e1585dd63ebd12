import type { Chart } from '../board/chart';
import { idFrom } from '../board/id';
import type { Placed } from '../board/switch-off';

type Item = { id?: string; look?: unknown; looks?: unknown };

/** What two sentences of one sort have in common if one is to take the place of the other: all but name and look. */
const meaning = ({ id: _id, look: _look, looks: _looks, ...rest }: Item) => JSON.stringify(rest);

/** Says a part of one chart on the draft of another: in the place of what says the same there, or besides. */
export function sayOn(draft: Chart, from: Chart, { part = [] }: Placed): void {
  const [name, at] = part as [keyof Chart, number?];
  if (part[0] === 'measure') {
    const of = part[1] as 'format' | 'share';
    Object.assign(draft.measure, { [of]: structuredClone(from.measure[of]) });
    return;
  }
  if (typeof at !== 'number') {
    Object.assign(draft, { [name]: structuredClone(from[name]) });
    draft.off = draft.off?.filter((each) => each !== name) ?? [];
    if (!draft.off.length) delete draft.off;
    return;
  }
  const item = structuredClone((from[name] as Item[])[at]!);
  const list = ((draft[name] as Item[] | undefined) ?? []).slice();
  const same = list.findIndex((other) => meaning(other) === meaning(item));
  if (item.id !== undefined)
    item.id =
      same >= 0
        ? list[same]!.id!
        : idFrom(
            item.id,
            list.flatMap(({ id }) => id ?? []),
          );
  if (same >= 0) list[same] = item;
  else list.push(item);
  Object.assign(draft, { [name]: list });
}
