import { leverNameOf } from '@sorvik/formula/lever-names';
import type { Board } from '../board/board';

type Json = unknown;
type Parts = Record<string, Json>;
interface Named {
  id: string;
}

/** Both have made another thing of one and the same word: it has to be asked which is meant. */
class BothChanged extends Error {}

const isParts = (value: Json): value is Parts =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isNamedList = (value: Json): value is Named[] =>
  Array.isArray(value) && value.every((each) => isParts(each) && typeof each.id === 'string');

function isSame(a: Json, b: Json): boolean {
  if (Object.is(a, b)) return true;
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((each, i) => isSame(each, b[i]));
  if (!isParts(a) || !isParts(b)) return false;
  const names = Object.keys(a);
  return (
    names.length === Object.keys(b).length &&
    names.every((name) => Object.hasOwn(b, name) && isSame(a[name], b[name]))
  );
}

/** The order that both leave: that of whoever changed it; of both, theirs, with what came here after what it stood behind. */
function joinedOrder(base: readonly Named[], mine: readonly Named[], theirs: readonly Named[]): string[] {
  const [b, m, t] = [base, mine, theirs].map((list) => list.map(({ id }) => id)) as [
    string[],
    string[],
    string[],
  ];
  const shared = (of: string[]) => of.filter((id) => b.includes(id) && m.includes(id) && t.includes(id));
  if (!isSame(shared(m), shared(b)) && !isSame(shared(t), shared(b)) && !isSame(shared(m), shared(t)))
    throw new BothChanged();
  const [first, other] = isSame(shared(t), shared(b)) ? [m, t] : [t, m];
  const order = first.slice();
  for (const [i, id] of other.entries()) {
    if (order.includes(id)) continue;
    const before = other.slice(0, i).findLast((each) => order.includes(each));
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, id);
  }
  return order;
}

function joinedLists(base: readonly Named[], mine: readonly Named[], theirs: readonly Named[]): Named[] {
  const find = (list: readonly Named[], id: string) => list.find((each) => each.id === id);
  return joinedOrder(base, mine, theirs).flatMap((id) => {
    const found = joined(find(base, id), find(mine, id), find(theirs, id));
    return found === undefined ? [] : [found as Named];
  });
}

function joined(base: Json, mine: Json, theirs: Json): Json {
  if (isSame(base, theirs)) return mine;
  if (isSame(base, mine) || isSame(mine, theirs)) return theirs;
  if (isNamedList(base) && isNamedList(mine) && isNamedList(theirs)) return joinedLists(base, mine, theirs);
  if (!isParts(base) || !isParts(mine) || !isParts(theirs)) throw new BothChanged();
  const found: Parts = {};
  for (const name of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
    const value = joined(base[name], mine[name], theirs[name]);
    if (value !== undefined) found[name] = value;
  }
  return found;
}

/** Whether a board names a chart or a lever by its id. */
function names(board: Board, id: string): boolean {
  const text = JSON.stringify(board);
  return text.includes(`"${id}"`) || text.includes(`:${leverNameOf(id)}`);
}

const ids = ({ charts, levers }: Board) => [...charts, ...levers].map(({ id }) => id);

/**
 * What two authors have made of one board, joined: charts, levers, sentences and words that only one of them changed are as that one has
 * them. Null where both made another thing of the same word, or where one goes on naming what the other has removed.
 */
export function mergedBoards(base: Board, mine: Board, theirs: Board): Board | null {
  try {
    const found = joined(base, mine, theirs) as Board;
    const there = ids(found);
    const lost = ids(base).filter((id) => !there.includes(id));
    // Whoever removed it may have left its name behind; the other one is not to bring it back.
    const without = (id: string) => [mine, theirs].find((board) => !ids(board).includes(id));
    return lost.some((id) => names(found, id) && !names(without(id) ?? found, id)) ? null : found;
  } catch (error) {
    if (error instanceof BothChanged) return null;
    throw error;
  }
}
